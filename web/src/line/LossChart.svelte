<!-- @component
	Matched loss of a line against frequency: what each frequency shows by itself, and the law fitted to all of them.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { LineOut } from '../lib/api/client';
	import { extent, valueAt } from '../lib/charts/curve';
	import Curve from '../lib/charts/marks/Curve.svelte';
	import CurveName from '../lib/charts/marks/CurveName.svelte';
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
	{#snippet marks(plot)}
		{@const hz = line.frequency_hz}
		<Curve {plot} of="seen" {hz} values={line.loss_seen_db} hue="blueprint" width={1.5} />
		<Curve {plot} of="law" {hz} values={line.matched_loss_db} hue="copper" width={2.5} dash="8 4" />
		<CurveName
			anchor="end"
			x={plot.x(nameHz)}
			y={plot.y(valueAt(hz, line.matched_loss_db, nameHz) ?? 0) - 14}
			hue="ink">loss in dB: solid as each frequency shows it, dashed the law through all</CurveName
		>
	{/snippet}
</Plot>
