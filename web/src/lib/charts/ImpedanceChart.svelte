<!-- @component
	Resistance and reactance against frequency, one or two pairs of curves.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { Curves, Fan as FanData } from '../api/client';
	import { extent, valueAt } from './curve';
	import Plot from './Plot.svelte';

	import { dashes, type Frame } from './frame';
	import Curve from './marks/Curve.svelte';
	import CurveName from './marks/CurveName.svelte';
	import Fan from './marks/Fan.svelte';
	import Samples from './marks/Samples.svelte';

	/** What of a curve is drawn here. */
	type Drawn = Pick<Curves, 'frequency_hz' | 'resistance_ohm' | 'reactance_ohm'>;

	interface Props {
		frame: Frame;
		curves: Drawn;
		/** Where it was sampled, when so few that what lies between is a guess; empty when left out. */
		sampledHz?: (number | null)[];
		/** Blueprint for the antenna as measured, copper for what is predicted at the match. */
		hue: 'blueprint' | 'copper';
		/** Edges of the 90 % bands of R and X, a value a frequency; none when left out. */
		fan?: Omit<FanData, 'low_swr' | 'high_swr'> | null;
		/** Whether it is known from a model alone: drawn dashed. */
		modelled?: boolean;
		/** Other sweeps laid over, with the names written on them. */
		others?: { name: string; curves: Drawn }[];
	}

	let { frame, curves, sampledHz = [], hue, fan, modelled = false, others = [] }: Props = $props();

	const { lowHz, highHz } = $derived(frame);
	const spans = $derived(
		[curves, ...others.map((o) => o.curves)].flatMap((c) =>
			[c.resistance_ohm, c.reactance_ohm].map((v) => extent(c.frequency_hz, v, lowHz, highHz))
		)
	);
	// A fan may reach very far: it is shown to twice the size of the curve, no further.
	const most = $derived(
		2 *
			Math.max(
				25,
				...spans.flatMap((s) => (s ? s.map((v) => (Number.isFinite(v) ? Math.abs(v) : 0)) : []))
			)
	);
	const reach = $derived(
		fan
			? [
					fan.low_reactance_ohm,
					fan.low_resistance_ohm,
					fan.high_reactance_ohm,
					fan.high_resistance_ohm
				]
					.flat()
					.map((v) => Math.max(-most, Math.min(most, v ?? 0)))
			: [0]
	);
	const low = $derived(Math.min(0, Math.min(...reach), ...spans.map((s) => s?.[0] ?? 0)));
	const high = $derived(
		Math.max(50, Math.max(...reach), ...spans.map((s) => (s && Number.isFinite(s[1]) ? s[1] : 0)))
	);
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
	{frame}
	bottom={axis.domain()[0] ?? 0}
	top={axis.domain()[1] ?? 50}
	ticks={axis.ticks(5)}
	tickText={(v) => String(v).replace('-', '−')}
>
	{#snippet marks(plot)}
		{@const { x, y } = plot}
		{@const hz = curves.frequency_hz}
		{#if fan}
			{@const edge = { plot, hz: hz as number[], top: axis.domain()[1] ?? 50, hue }}
			<Fan {...edge} low={fan.low_resistance_ohm} high={fan.high_resistance_ohm} />
			<Fan {...edge} low={fan.low_reactance_ohm} high={fan.high_reactance_ohm} />
		{/if}
		<line x1="0" x2={plot.width} y1={y(0)} y2={y(0)} />
		{#each others as other, i (i)}
			{@const c = other.curves}
			{@const look = { plot, of: 'other', hue, width: 1.4, dash: dashes[i % dashes.length] }}
			<Curve {...look} hz={c.frequency_hz} values={c.resistance_ohm} />
			<Curve {...look} hz={c.frequency_hz} values={c.reactance_ohm} />
			{@const at = lowHz + (0.3 + 0.16 * i) * (highHz - lowHz)}
			<CurveName x={x(at)} y={y(valueAt(c.frequency_hz, c.reactance_ohm, at) ?? 0) + 14} {hue}
				>{other.name}</CurveName
			>
		{/each}
		{@const unsure = sampledHz.length > 0}
		<Curve
			{plot}
			of="resistance"
			{hz}
			values={curves.resistance_ohm}
			{hue}
			{unsure}
			dash={modelled ? '8 4' : undefined}
		/>
		<Curve {plot} of="reactance" {hz} values={curves.reactance_ohm} {hue} {unsure} dash="7 3 2 3" />
		<Samples {plot} atHz={sampledHz} {hz} values={curves.resistance_ohm} {hue} />
		<Samples {plot} atHz={sampledHz} {hz} values={curves.reactance_ohm} {hue} />
		{#each names as { name, hz, value }, nth (nth)}
			<CurveName x={x(hz)} y={y(value) + (value > (low + high) / 2 ? 18 : -8)} {hue}
				>{name}, Ω</CurveName
			>
		{/each}
	{/snippet}
</Plot>

<style>
	line {
		stroke: var(--soft);
		stroke-width: 1;
	}
</style>
