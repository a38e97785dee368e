<!-- @component
	What no lossless match goes below on a band, with its figure at the first of them; its doubt as a stripe.
-->
<script lang="ts">
	import { swr } from '../../units/format';
	import type { FloorMark, Plotted } from '../frame';

	interface Props {
		plot: Plotted;
		floors: FloorMark[];
		/** Frequency at the left and right edge, Hz. */
		lowHz: number;
		highHz: number;
	}

	let { plot, floors, lowHz, highHz }: Props = $props();

	// A floor on the chart's own bottom is no line worth drawing.
	const drawn = $derived(floors.filter((f) => f.swr > 1.02));
	const bottom = $derived(plot.y(1));
</script>

{#each drawn as floor, i (i)}
	{@const left = plot.x(Math.max(floor.low_hz, lowHz))}
	{@const right = plot.x(Math.min(floor.high_hz, highHz))}
	{@const edge = plot.y(floor.swr)}
	<rect x={left} width={Math.max(2, right - left)} y={edge} height={bottom - edge} />
	<rect
		class="doubt"
		x={left}
		width={Math.max(2, right - left)}
		y={plot.y(floor.high)}
		height={Math.max(0, plot.y(floor.low) - plot.y(floor.high))}
	/>
	<line x1={left} x2={Math.max(left + 2, right)} y1={edge} y2={edge} />
{/each}
{#if drawn[0]}
	<text
		x={plot.x(Math.min(drawn[0].high_hz, highHz)) + 5}
		y={Math.min(bottom - 4, plot.y(drawn[0].swr) + 4)}>floor {swr(drawn[0].swr)}</text
	>
{/if}

<style>
	rect {
		fill: var(--soft);
		opacity: 0.22;
	}
	.doubt {
		opacity: 0.3;
	}
	line {
		stroke: var(--soft);
		stroke-width: 1.5;
	}
	text {
		fill: var(--soft);
		font-size: var(--size-12);
	}
</style>
