<!-- @component
	Any sweep against the baseline: how far the dip went, in one figure; both curves; every band in words.
-->
<script lang="ts">
	import { answer, api, type Build } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import Help from '../lib/help/Help.svelte';
	import { megahertz, swr } from '../lib/units/format';
	import { differences } from '../sweep/differences';
	import { curvesOf, dayOf } from './curvesOf';
	import TwoSweeps from './TwoSweeps.svelte';

	interface Props {
		build: Build;
		/** The sweep that is held against the baseline; the newest when null. */
		against: string | null;
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		onbaseline: (sweepId: string) => void;
	}

	let { build, against, markerHz, onmarker, onbaseline }: Props = $props();

	const baseline = $derived(build.sweeps.find((s) => s.id === build.baseline_sweep_id) ?? null);
	const others = $derived(
		[...build.sweeps]
			.filter((s) => s.id !== baseline?.id)
			.sort((a, b) => b.swept_at.localeCompare(a.swept_at))
	);
	const other = $derived(others.find((s) => s.id === against) ?? others[0] ?? null);

	const held = latest(
		() =>
			baseline && other ? { first: baseline.id, second: other.id, targets: build.targets } : null,
		async (asked) => {
			const [found, before, after] = await Promise.all([
				answer(api.POST('/api/sweeps/comparisons', { body: asked })),
				curvesOf(asked.first),
				curvesOf(asked.second)
			]);
			return { asked, found, before, after };
		}
	);
	/** Tied to what it was asked for: never beside another sweep. */
	const shown = $derived(
		held.value && held.value.asked.first === baseline?.id && held.value.asked.second === other?.id
			? held.value
			: null
	);
	const shiftHz = $derived(shown ? shown.found.second_best_hz - shown.found.first_best_hz : 0);
	/** A lowest SWR at an edge of its sweep is no dip: that lies beyond. */
	const isDip = (s: typeof other, hz: number) => s !== null && hz > s.low_hz && hz < s.high_hz;
	const dips = $derived(
		shown !== null &&
			isDip(baseline, shown.found.first_best_hz) &&
			isDip(other, shown.found.second_best_hz)
	);
	const first = $derived(shown?.found.targets[0]);
</script>

<section class="sheet verdict" aria-label="Against the baseline">
	<p class="eyebrow">
		{shown && !dips && first
			? `Worst SWR on ${first.label}, against the baseline`
			: 'The dip, against the baseline'}
	</p>
	{#if !baseline}
		<p>
			No baseline yet: the sweep of the finished thing, which tells next year what changed. Sweep
			it, then make that sweep the baseline.
		</p>
	{:else if !other}
		<p>
			The baseline is “{baseline.name}” of {dayOf(baseline.swept_at)}. Sweep again after a storm, or
			in a year: what changed will stand here.
		</p>
	{:else}
		<p class="top">
			<span class="figure"
				>{#if !shown}…{:else if dips}{shiftHz < 0 ? '−' : '+'}{Math.abs(shiftHz / 1e3).toFixed(0)}
					<small>kHz</small>{:else}{swr(first?.second_worst_swr)}
					<small>from {swr(first?.first_worst_swr)}</small>{/if}</span
			><Help topic="log" name="the log" />
		</p>
		<p class="told">
			<label
				>Sweep <select
					aria-label="Sweep held against the baseline"
					value={other.id}
					onchange={(e) => (against = e.currentTarget.value)}
				>
					{#each others as s (s.id)}<option value={s.id}>{s.name}, {dayOf(s.swept_at)}</option
						>{/each}
				</select></label
			>
		</p>
		{#if held.problem}<p class="problem">{held.problem}</p>{/if}
		{#if shown}
			<TwoSweeps
				label="SWR of the baseline, dashed, and of the other sweep"
				before={shown.before}
				after={shown.after}
				targets={build.targets}
				{markerHz}
				{onmarker}
			/>
			<ul class="told">
				{#each differences(shown.found) as line, nth (nth)}<li>{line}</li>{/each}
			</ul>
			<p class="told soft">
				Baseline, dashed: “{baseline.name}” of {dayOf(baseline.swept_at)}, {megahertz(
					baseline.low_hz
				)} to {megahertz(baseline.high_hz)} MHz.
			</p>
			<button class="button unprinted" onclick={() => onbaseline(other.id)}
				>Make “{other.name}” the baseline</button
			>
		{/if}
	{/if}
</section>

<style>
	.top {
		display: flex;
		align-items: baseline;
	}
	ul {
		padding-left: 18px;
		margin: 6px 0;
	}
	select {
		max-width: 220px;
	}
</style>
