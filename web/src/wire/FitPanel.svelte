<!-- @component
	The model against a sweep of the antenna: what moved, how sure, what cannot be told; taken with a press.
-->
<script lang="ts">
	import { answer, api, type Schemas } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { router } from '../lib/router/router.svelte';
	import FitSaid from '../sweep/FitSaid.svelte';
	import type { AntennaPlan } from './plan.svelte';

	interface Props {
		work: AntennaPlan;
		/** Takes the antenna as it hangs. */
		ontake: (antenna: Schemas['WireAntenna']) => void;
	}

	let { work, ontake }: Props = $props();

	const page = openBuild();
	const sweeps = $derived(page.build.sweeps.filter((s) => s.carries === 'impedance'));
	/** The one that one came for, if any. */
	const against = router.place.query.get('against') ?? '';
	// svelte-ignore state_referenced_locally
	let chosen = $state(sweeps.some((s) => s.id === against) ? against : '');
	/** What it was held against: as the antenna stood when the sweep was chosen. */
	// svelte-ignore state_referenced_locally
	let held = $state.raw<Schemas['WireAntenna'] | null>(chosen ? work.antenna : null);

	const found = latest(
		() => (chosen && held ? { antenna: held, sweep_id: chosen } : null),
		(body) => answer(api.POST('/api/wire-fits', { body })),
		{ keeps: true }
	);
	const fit = $derived(chosen ? found.value : null);
</script>

<h2>Against a sweep of it <Help topic="wire-fit" name="the model against a sweep" /></h2>
{#if sweeps.length === 0}
	<p class="told soft">
		No sweep yet: hang it, sweep it at its feedpoint, and the model is held against that.
	</p>
{:else}
	<p class="row told unprinted">
		Sweep
		<select
			aria-label="Sweep to hold it against"
			value={chosen}
			onchange={(event) => {
				held = work.antenna;
				chosen = event.currentTarget.value;
			}}
		>
			<option value="">choose one</option>
			{#each sweeps as sweep (sweep.id)}<option value={sweep.id}>{sweep.name}</option>{/each}
		</select>
	</p>
	{#if found.problem && chosen}<Note kind="danger">{found.problem}.</Note>{/if}
	{#if found.loading}<p class="soft told" role="status">fitting the wires to it…</p>{/if}
	{#if fit}
		<div class:stale={found.loading} aria-busy={found.loading}>
			<FitSaid {fit} />
			{#if fit.values.length}
				<button class="button unprinted" onclick={() => ontake(fit.antenna)}
					>Take it as it hangs</button
				>
			{/if}
		</div>
	{/if}
{/if}

<style>
	.stale {
		opacity: 0.7;
	}
</style>
