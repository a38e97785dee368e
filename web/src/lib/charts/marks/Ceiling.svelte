<!-- @component
	The highest SWR that can be read here at all: nothing lies in the shaded part above it.
-->
<script lang="ts">
	import { swr } from '../../units/format';
	import { band } from '../curve';
	import type { Plotted } from '../frame';

	interface Props {
		plot: Plotted;
		/** Frequencies in Hz, ascending, and the ceiling at each. */
		hz: number[];
		values: (number | null)[];
		/** Value at the top edge of the chart. */
		top: number;
	}

	let { plot, hz, values, top }: Props = $props();

	const ends = $derived(values[values.length - 1] ?? top);
	const known = $derived(values.filter((v) => v !== null));
	const least = $derived(swr(Math.min(...known)));
	const most = $derived(swr(Math.max(...known)));
</script>

<path d={band(hz, values, Array(values.length).fill(top), plot.x, plot.y, top)} />
{#if ends < top}
	<text x={plot.width - 6} y={Math.max(44, plot.y(ends) + 34)} text-anchor="end"
		>this line can show no more than {least === most ? least : `${least} to ${most}`}</text
	>
{/if}

<style>
	path {
		fill: var(--soft);
		opacity: 0.2;
	}
	text {
		fill: var(--soft);
		font-size: var(--size-12);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
</style>
