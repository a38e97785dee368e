<!-- @component
	What became of a sweep: kept, and offered as the baseline of its build or of a new one when it is good.
-->
<script lang="ts">
	import { answer, api, type Build, type Sweep } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import Help from '../lib/help/Help.svelte';
	import { meaningText } from './words';

	interface Props {
		sweep: Sweep;
		/** The build it went to; null when it lies on the bench. */
		build: Build | null;
		/** Whether nothing speaks against it. */
		good: boolean;
		/** A name for a new build. */
		suggestion: string;
		/** The calibration it was corrected with, when that was checked; and where the dip is, Hz. */
		checkedId: string | null;
		dipHz: number | null;
		onbaseline: (sweep: Sweep, buildName: string) => void;
	}

	let { sweep, build, good, suggestion, checkedId, dipHz, onbaseline }: Props = $props();

	let typed = $state<string | null>(null);
	const buildName = $derived(typed ?? suggestion);
	// What the residual means for this antenna, once the sweep is there.
	const meant = latest(
		() =>
			checkedId && dipHz
				? { calibration_id: checkedId, sweep_id: sweep.id, frequency_hz: dipHz }
				: null,
		({ calibration_id, ...query }) =>
			answer(
				api.GET('/api/calibrations/{calibration_id}/meaning', {
					params: { path: { calibration_id }, query }
				})
			)
	);
	const meaning = $derived(meant.value);
	const undipped =
		'A clean sweep without a dip: right for a wire that gets a match; for one that is to be trimmed, sweep a wider range first.';
</script>

<section class="sheet" aria-label="Kept">
	<h3 class="eyebrow">Kept as “{sweep.name}”</h3>
	{#if meaning}
		<p class="told">{meaningText(meaning)} <Help topic="residual" name="the residual" /></p>
	{/if}
	{#if sweep.setup?.plane === 'matched'}
		<p class="told">
			Swept with the match in place: lay it over the prediction on the sweep desk, and see what
			reaches the coax.
		</p>
	{:else if good && build && build.baseline_sweep_id !== sweep.id}
		<p class="told">
			{dipHz === null ? undipped : 'A good sweep.'} Next year it is the only thing that tells what changed.
			<button class="button main" onclick={() => onbaseline(sweep, build.name)}
				>Make it the baseline of {build.name}</button
			>
		</p>
	{:else if good && !build}
		<form
			class="told"
			onsubmit={(event) => {
				event.preventDefault();
				onbaseline(sweep, buildName.trim() || suggestion);
			}}
		>
			{#if dipHz === null}<p class="told">{undipped}</p>{/if}
			<label class="told"
				>{dipHz === null ? 'Make' : 'A good sweep: make'} it the baseline of a new build, named
				<input
					class="written"
					value={buildName}
					maxlength="120"
					oninput={(event) => (typed = event.currentTarget.value)}
				/></label
			>
			<button class="button main">Make the build</button>
		</form>
	{:else if !good}
		<p class="told">
			It is kept with what is said above. Sweep again before you make it a baseline.
		</p>
	{/if}
	{#if build}<p><a href="/builds/{build.id}/sweep">To the sweeps of {build.name}</a></p>{/if}
</section>

<style>
	form button {
		justify-self: start;
	}
</style>
