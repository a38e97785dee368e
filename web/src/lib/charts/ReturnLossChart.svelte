<!-- @component
	Return loss against frequency, in dB, more upwards.
-->
<script lang="ts">
	import { path, valueAt } from './curve';
	import Plot from './Plot.svelte';

	import type { Curve, Frame } from './frame';

	interface Props {
		frame: Frame;
		/** The antenna as measured. */
		antenna: Curve;
		/** Where it was sampled, when so few that what lies between is a guess; empty when left out. */
		sampledHz?: (number | null)[];
		/** With the match, predicted; none on the sweep desk. */
		match?: Curve;
	}

	let { frame, antenna, sampledHz = [], match }: Props = $props();

	const most = $derived(
		Math.max(
			...[...antenna.values, ...(match?.values ?? [])].map((v) => v ?? 0).filter(Number.isFinite)
		)
	);
	const top = $derived(most > 20 ? 40 : most > 5 ? 20 : most > 1 ? 5 : 1);
	const ticks = $derived([0, 1, 2, 3, 4].map((n) => (n * top) / 4));
</script>

<Plot label="Return loss against frequency, in dB" {frame} bottom={0} {top} {ticks}>
	{#snippet marks({ x, y, height: inner })}
		<path
			class="antenna"
			class:unsure={sampledHz.length > 0}
			d={path(antenna.frequency_hz, antenna.values, x, y)}
		/>
		{#each sampledHz as at, i (i)}
			{@const value = at === null ? null : valueAt(antenna.frequency_hz, antenna.values, at)}
			{#if at !== null && value !== null}
				<circle class="dot" cx={x(at)} cy={y(value)} r="3.5" />
			{/if}
		{/each}
		{#if match}
			<path class="match" d={path(match.frequency_hz, match.values, x, y)} />
		{/if}
		<text x="8" y={inner - 8}>dB; more is better</text>
	{/snippet}
</Plot>

<style>
	path {
		fill: none;
		stroke-width: 2;
	}
	.antenna {
		stroke: var(--blueprint);
	}
	.unsure {
		stroke-width: 1;
		stroke-dasharray: 2 4;
	}
	.dot {
		fill: var(--blueprint);
	}
	.match {
		stroke: var(--copper);
		stroke-dasharray: 8 4;
	}
	text {
		font-size: var(--size-12);
		fill: var(--soft);
	}
</style>
