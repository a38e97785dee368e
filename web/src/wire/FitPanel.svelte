<!-- @component
	The model against a sweep of the antenna: what moved, how sure, what cannot be told; taken with a press.
-->
<script lang="ts">
	import { answer, api, type Schemas } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { units } from '../lib/units/units.svelte';
	import { fitHeadline, fitSentences, movedText } from './fitWords';
	import type { AntennaPlan } from './plan.svelte';

	interface Props {
		work: AntennaPlan;
		/** Takes the antenna as it hangs. */
		ontake: (antenna: Schemas['WireAntenna']) => void;
	}

	let { work, ontake }: Props = $props();

	const page = openBuild();
	const sweeps = $derived(page.build.sweeps.filter((s) => s.carries === 'impedance'));
	let chosen = $state('');
	/** What it was held against: as the antenna stood when the sweep was chosen. */
	let held = $state.raw<Schemas['WireAntenna'] | null>(null);

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
			<p class="do" role="status">{fitHeadline(fit)}</p>
			{#each fitSentences(fit) as sentence, i (i)}<p class="told">{sentence}</p>{/each}
			{#if fit.values.length}
				<table>
					<thead
						><tr
							><th scope="col">what</th><th scope="col">planned</th><th scope="col"
								>hangs, nine in ten</th
							></tr
						></thead
					>
					<tbody>
						{#each fit.values as value (value.name)}
							{@const text = movedText(value, units.length)}
							<tr class:open={fit.untold.includes(value.name)}>
								<th scope="row">{text.name}</th>
								<td class="mono">{text.planned}</td>
								<td class="mono"><strong>{text.found}</strong><br />{text.range}</td>
							</tr>
						{/each}
					</tbody>
				</table>
				<button class="button unprinted" onclick={() => ontake(fit.antenna)}
					>Take it as it hangs</button
				>
			{/if}
		</div>
	{/if}
{/if}

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-12);
		margin: 6px 0;
	}
	th {
		text-align: left;
		font-weight: 400;
	}
	td,
	th {
		padding: 3px 6px 3px 0;
		vertical-align: top;
	}
	.open {
		color: var(--soft);
	}
	.stale {
		opacity: 0.7;
	}
</style>
