<!-- @component
	One build on the shelf: its curve in small, its verdict, its next step.
-->
<script lang="ts">
	import { scaleLinear, scaleLog } from 'd3-scale';

	import { answer, api, type Build } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { path } from '../lib/charts/curve';
	import { router } from '../lib/router/router.svelte';
	import { megahertz, percent, swr } from '../lib/units/format';

	interface Props {
		build: Build;
		/** Called to put it in the bin. */
		onbin: () => void;
		/** Called to make a copy of it. */
		onduplicate: () => void;
	}

	let { build, onbin, onduplicate }: Props = $props();

	const sweep = $derived(build.sweeps.find((s) => s.id === build.baseline_sweep_id));
	const matched = $derived(build.chosen_design_id !== null && build.share !== null);
	const at = $derived(
		sweep
			? matched
				? 'match'
				: 'sweep'
			: build.hung
				? 'trim'
				: build.chosen_design_id !== null
					? 'wind'
					: 'wire'
	);
	const limits = $derived(
		[...new Set(build.targets.map((t) => t.swr_limit))].map(swr).join(' and ')
	);
	const bands = $derived(build.targets.map((t) => t.label).join(', '));
	const served = $derived((build.served ?? []).join(', '));
	/** The bands that the chosen design leaves to others. */
	const left = $derived(
		build.targets
			.map((t) => t.label)
			.filter((band) => !(build.served ?? []).includes(band))
			.join(', ')
	);

	// The picture comes after the words: a shelf should not wait for its curves.
	const drawn = latest(
		() => sweep?.id ?? null,
		(sweep_id) =>
			answer(
				api.GET('/api/sweeps/{sweep_id}/curves', {
					params: { path: { sweep_id }, query: { points: 160 } }
				})
			)
	);
	const curves = $derived(drawn.value);

	const x = $derived(scaleLinear([sweep?.low_hz ?? 0, sweep?.high_hz ?? 1], [0, 220]));
	const size = $derived(
		(curves?.resistance_ohm ?? []).map((r, i) => {
			const x = curves?.reactance_ohm[i] ?? null;
			return r === null || x === null ? null : Math.hypot(r, x);
		})
	);
	const known = $derived(size.filter((v) => v !== null));
	const y = $derived(
		scaleLog([Math.max(1, Math.min(...known, 40)), Math.max(...known, 60)], [58, 6])
	);
</script>

<article class="sheet">
	<a class="picture" href="/builds/{build.id}/sweep" tabindex="-1" aria-hidden="true">
		<svg width="220" height="64" viewBox="0 0 220 64">
			{#each build.targets as t, nth (nth)}
				<rect
					x={sweep ? x(t.low_hz) : 104}
					width={sweep ? Math.max(2, x(t.high_hz) - x(t.low_hz)) : 12}
					height="64"
				/>
			{/each}
			{#if curves}<path d={path(curves.frequency_hz, size, x, y)} />{/if}
		</svg>
		{#if sweep}<span
				>{sweep.carries === 'swr' ? 'SWR alone' : '|Z|'}, {megahertz(sweep.low_hz)} to {megahertz(
					sweep.high_hz
				)} MHz</span
			>{:else}<span>not swept yet</span>{/if}
	</a>
	<div class="words">
		<h2><a href="/builds/{build.id}/{at}">{build.name}</a></h2>
		<p class="soft">
			{bands} · limit {limits} · {build.power_w.toFixed(0)} W {build.mode}
			{#if build.demo}<span class="demo">demo, made up</span>{/if}
		</p>
		<p>
			{#if matched && !sweep}
				<strong>Winding</strong> designed: worst SWR {swr(build.worst_swr)} on {served}.
				<strong>Next:</strong>
				wind it, check it on its resistor, then hang the wire.
			{:else if matched && build.few_hold}
				<strong>Match</strong> tried: worst SWR {swr(build.worst_swr)} on {served}.
				<strong>Next:</strong>
				{build.targets.length > 1
					? 'one network for each band, switched; this one does not serve them together.'
					: 'another network, a part of the band or a wider limit; this one is not to be made.'}
			{:else if matched}
				<strong>Match</strong> designed: worst SWR {swr(build.worst_swr)} on {served}.
				<strong>Next:</strong>
				make the two parts and check them on the bench{#if left}, and a network for {left}{/if}.
			{:else if build.hung}
				<strong>Hung.</strong> <strong>Next:</strong> read its dip and trim it, {build.entries} entries
				in its log.
			{:else if !sweep && build.chosen_design_id !== null}
				<strong>Winding</strong> designed. <strong>Next:</strong> wind it, check it alone on the bench,
				then hang the wire.
			{:else if !sweep}
				<strong>Planned.</strong> <strong>Next:</strong> cut the wire, hang it, read its dip.
			{:else}
				<strong>Swept.</strong> <strong>Next:</strong> choose a match.
			{/if}
		</p>
	</div>
	<div class="verdict">
		{#if matched && build.share !== null && build.share !== undefined}
			<span class="figure">{percent(build.share)}</span>
			<span class="soft">of builds hold it</span>
		{/if}
	</div>
	<span class="acts unprinted">
		<button
			class="button"
			onclick={() => router.go(`/builds/${build.id}/fault`)}
			aria-label="Something is wrong with {build.name}">Something is wrong</button
		>
		<button class="button" onclick={onduplicate} aria-label="Duplicate {build.name}"
			>Duplicate</button
		>
		<button class="button" onclick={onbin} aria-label="Put {build.name} in the bin">Bin</button>
	</span>
</article>

<style>
	article {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 10px 22px;
	}
	.picture {
		text-decoration: none;
		color: var(--soft);
		font-size: var(--size-12);
	}
	.picture svg {
		display: block;
		background: var(--paper);
		border-radius: 4px;
	}
	rect {
		fill: var(--verdigris-wash);
	}
	path {
		fill: none;
		stroke: var(--blueprint);
		stroke-width: 2;
	}
	.words {
		flex: 1 1 300px;
	}
	h2 {
		font-size: var(--size-17);
	}
	.soft {
		color: var(--soft);
		font-size: var(--size-13);
	}
	.demo {
		border: 1px solid var(--line);
		border-radius: 6px;
		padding: 0 6px;
		margin-left: 6px;
	}
	.acts {
		display: grid;
		gap: 6px;
	}
	.verdict {
		min-width: 118px;
		text-align: right;
	}
	.figure {
		display: block;
		font-size: var(--size-24);
		font-weight: 700;
	}
</style>
