<!-- @component
	Resistance and reactance against frequency, one or two pairs of curves.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { Curves } from '../api/client';
	import { extent, path, valueAt } from './curve';
	import Plot from './Plot.svelte';

	interface Props {
		lowHz: number;
		highHz: number;
		targets: { low_hz: number; high_hz: number; label: string }[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		height: number;
		curves: Curves;
		/** Blueprint for the antenna as measured, copper for what is predicted at the match. */
		hue: 'blueprint' | 'copper';
	}

	let { lowHz, highHz, targets, markerHz, onmarker, height, curves, hue }: Props = $props();

	const spans = $derived(
		[curves.resistance_ohm, curves.reactance_ohm].map((v) =>
			extent(curves.frequency_hz, v, lowHz, highHz)
		)
	);
	const low = $derived(Math.min(0, ...spans.map((s) => s?.[0] ?? 0)));
	const high = $derived(Math.max(50, ...spans.map((s) => (s && Number.isFinite(s[1]) ? s[1] : 0))));
	const axis = $derived(scaleLinear([low, high], [0, 1]).nice(5));
	const names = $derived(
		(
			[
				['R', curves.resistance_ohm],
				['X', curves.reactance_ohm]
			] as const
		).map(([name, values]) => ({
			name,
			hz: lowHz + (name === 'R' ? 0.1 : 0.9) * (highHz - lowHz),
			value:
				valueAt(
					curves.frequency_hz,
					values,
					lowHz + (name === 'R' ? 0.1 : 0.9) * (highHz - lowHz)
				) ?? 0
		}))
	);
</script>

<Plot
	label="Resistance and reactance against frequency, in ohm"
	{lowHz}
	{highHz}
	bottom={axis.domain()[0] ?? 0}
	top={axis.domain()[1] ?? 50}
	ticks={axis.ticks(5)}
	tickText={(v) => String(v).replace('-', '−')}
	bands={targets}
	{markerHz}
	{onmarker}
	{height}
>
	{#snippet marks({ x, y, width })}
		<line class="zero" x1="0" x2={width} y1={y(0)} y2={y(0)} />
		<path class="curve {hue}" d={path(curves.frequency_hz, curves.resistance_ohm, x, y)} />
		<path class="curve x {hue}" d={path(curves.frequency_hz, curves.reactance_ohm, x, y)} />
		{#each names as { name, hz, value } (name)}
			<text class="name {hue}" x={x(hz)} y={y(value) + (value > (low + high) / 2 ? 18 : -8)}
				>{name}, Ω</text
			>
		{/each}
	{/snippet}
</Plot>

<style>
	.zero {
		stroke: var(--soft);
		stroke-width: 1;
	}
	.curve {
		fill: none;
		stroke-width: 2;
	}
	.blueprint {
		stroke: var(--blueprint);
	}
	.copper {
		stroke: var(--copper);
	}
	.x {
		stroke-dasharray: 7 3 2 3;
	}
	.name {
		font-size: var(--size-12);
		font-weight: 600;
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.name.blueprint {
		fill: var(--blueprint);
	}
	.name.copper {
		fill: var(--copper-ink);
	}
</style>
