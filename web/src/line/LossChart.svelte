<!-- @component
	Matched loss of a line against frequency: what each frequency shows by itself, and the law fitted to all of them.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { LineOut } from '../lib/api/client';
	import { extent, path, valueAt } from '../lib/charts/curve';
	import Plot from '../lib/charts/Plot.svelte';

	interface Props {
		line: LineOut;
		markerHz: number;
		onmarker: (hz: number) => void;
	}

	let { line, markerHz, onmarker }: Props = $props();

	const most = $derived(
		Math.max(
			0.1,
			...[line.matched_loss_db, line.loss_seen_db].map(
				(v) => extent(line.frequency_hz, v, line.low_hz, line.high_hz)?.[1] ?? 0
			)
		)
	);
	const axis = $derived(scaleLinear([0, most], [0, 1]).nice(5));
	const nameHz = $derived(line.low_hz + 0.6 * (line.high_hz - line.low_hz));
</script>

<Plot
	label="Matched loss of the line against frequency, in dB"
	frame={{ lowHz: line.low_hz, highHz: line.high_hz, targets: [], markerHz, onmarker, height: 250 }}
	bottom={0}
	top={axis.domain()[1] ?? 1}
	ticks={axis.ticks(5)}
	tickText={(v) => `${v}`}
>
	{#snippet marks({ x, y })}
		<path class="seen" d={path(line.frequency_hz, line.loss_seen_db, x, y)} />
		<path class="law" d={path(line.frequency_hz, line.matched_loss_db, x, y)} />
		<text
			class="name"
			text-anchor="end"
			x={x(nameHz)}
			y={y(valueAt(line.frequency_hz, line.matched_loss_db, nameHz) ?? 0) - 14}
			>loss in dB: solid as each frequency shows it, dashed the law through all</text
		>
	{/snippet}
</Plot>

<style>
	path {
		fill: none;
	}
	.seen {
		stroke: var(--blueprint);
		stroke-width: 1.5;
	}
	.law {
		stroke: var(--copper);
		stroke-width: 2.5;
		stroke-dasharray: 8 4;
	}
	.name {
		font-size: var(--size-12);
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
</style>
