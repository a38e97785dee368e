<!-- @component
	Standing-wave ratio against frequency: the antenna as measured, with the match, at the radio; with a fan.
-->
<script lang="ts">
	import { extent, valueAt } from './curve';
	import Plot from './Plot.svelte';
	import { swr } from '../units/format';

	import {
		dashes,
		type Curve as CurveData,
		type Frame,
		held,
		type Overlay,
		type FloorMark
	} from './frame';
	import Ceiling from './marks/Ceiling.svelte';
	import Curve from './marks/Curve.svelte';
	import CurveName from './marks/CurveName.svelte';
	import Fan from './marks/Fan.svelte';
	import Floor from './marks/Floor.svelte';
	import Limit from './marks/Limit.svelte';
	import Samples from './marks/Samples.svelte';

	interface Props {
		frame: Frame;
		/** The antenna itself, as measured. */
		antenna: CurveData;
		/** Its return loss at the same frequencies, told where its SWR is off the scale; none when left out. */
		returnLoss?: (number | null)[];
		/** Where it was sampled, when so few that what lies between is a guess; empty when left out. */
		sampledHz?: (number | null)[];
		/** With the match, predicted; none on the sweep desk. */
		match?: CurveData;
		/** What the radio end reads; none when left out. */
		radio?: CurveData;
		/** How it was before the present edit; none when left out. */
		former?: CurveData;
		/** Where nineteen builds in twenty lie. */
		fan?: { hz: number[]; low: (number | null)[]; high: (number | null)[] };
		/** Whose fan it is: the match's when left out, or the antenna's own, of the reading's doubt. */
		fanHue?: 'copper' | 'blueprint';
		/** The highest SWR that can be read here, a value a frequency of the antenna; none when left out. */
		ceiling?: (number | null)[] | null;
		/** The antenna's name on the curve; "the wire as measured" when left out. */
		antennaTitle?: string;
		/** Other sweeps or designs laid over. */
		others?: Overlay[];
		/** Which hue the others have: that of the antenna or that of the match. */
		otherHue?: 'blueprint' | 'copper';
		/** Whether the antenna is known from its model alone: drawn dashed. */
		modelled?: boolean;
		/** What no lossless match goes below, a stretch each. */
		floors?: FloorMark[];
	}

	let {
		frame,
		antenna,
		returnLoss,
		sampledHz = [],
		match,
		radio,
		former,
		fan,
		fanHue = 'copper',
		ceiling,
		antennaTitle = 'the wire as measured',
		others = [],
		otherHue = 'blueprint',
		modelled = false,
		floors = []
	}: Props = $props();

	const { lowHz, highHz, targets } = $derived(frame);
	const top = 10;
	const ticks = [1, 1.5, 2, 3, 5, 10];
	const range = $derived(extent(antenna.frequency_hz, antenna.values, lowHz, highHz));
	const offScale = $derived(range !== null && range[0] > top);
	/** Off the scale SWR shows nothing; return loss still tells which way is better. */
	const beside = $derived.by(() => {
		const found = returnLoss && extent(antenna.frequency_hz, returnLoss, lowHz, highHz);
		return found ? `, return loss ${found[0].toFixed(2)} to ${found[1].toFixed(2)} dB` : '';
	});

	const cut = (values: (number | null)[]) => held(values, 1, top);

	/** A place for a curve's name: where it is in view, away from its dip; and whether it rises there. */
	function place(
		curve: CurveData,
		prefer: number[],
		edge: (hz: number, value: number) => number = (_, value) => value
	): { hz: number; value: number; rises: boolean } | null {
		const span = highHz - lowHz;
		for (const share of prefer) {
			const hz = lowHz + share * span;
			const value = valueAt(curve.frequency_hz, curve.values, hz);
			const on = valueAt(curve.frequency_hz, curve.values, hz + span / 50);
			if (value === null || on === null || value > 6 || value < 1.2) continue;
			return { hz, value: edge(hz, value), rises: on > value };
		}
		return null;
	}
	const matchName = $derived(
		match &&
			place(match, [0.84, 0.78, 0.9, 0.7, 0.16, 0.22, 0.3], (hz, value) =>
				Math.max(value, (fan && valueAt(fan.hz, fan.high, hz)) ?? value)
			)
	);
	const radioName = $derived(radio && place(radio, [0.68, 0.72, 0.64, 0.78, 0.3, 0.2]));
	const antennaName = $derived(place(antenna, [0.62, 0.3, 0.4, 0.2, 0.85]));
</script>

<Plot label="SWR against frequency" {frame} bottom={1} {top} {ticks} log>
	{#snippet marks(plot)}
		{@const { x, y, width } = plot}
		{#if ceiling}
			<Ceiling {plot} hz={antenna.frequency_hz as number[]} values={ceiling} {top} />
		{/if}
		{#if fan}<Fan {plot} {...fan} {top} hue={fanHue} />{/if}
		<Floor {plot} {floors} {lowHz} {highHz} />
		<Limit {plot} {targets} />
		<Curve
			{plot}
			of="antenna"
			hz={antenna.frequency_hz}
			values={cut(antenna.values)}
			hue="blueprint"
			dash={modelled ? '8 4' : undefined}
			unsure={sampledHz.length > 0}
		/>
		<Samples
			{plot}
			atHz={sampledHz}
			hz={antenna.frequency_hz}
			values={antenna.values}
			hue="blueprint"
			{top}
		/>
		{#each others as other, i (i)}
			<Curve
				{plot}
				of="other"
				hz={other.frequency_hz}
				values={cut(other.values)}
				hue={otherHue}
				width={1.6}
				dash={dashes[i % dashes.length]}
			/>
			{@const spot = place(other, [0.2 + 0.14 * i, 0.75 - 0.1 * i, 0.5])}
			{#if spot}
				<CurveName x={x(spot.hz)} y={y(Math.min(spot.value, top)) + 14} hue={otherHue}
					>{other.name}</CurveName
				>
			{/if}
		{/each}
		{#if former}
			<Curve
				{plot}
				of="former"
				hz={former.frequency_hz}
				values={cut(former.values)}
				hue="copper"
				width={1}
				faint
			/>
		{/if}
		{#if match}
			<Curve
				{plot}
				of="match"
				hz={match.frequency_hz}
				values={cut(match.values)}
				hue="copper"
				width={2.5}
				dash="8 4"
			/>
		{/if}
		{#if radio}
			<Curve
				{plot}
				of="radio"
				hz={radio.frequency_hz}
				values={cut(radio.values)}
				hue="ink"
				width={1.6}
				dash="2 3"
			/>
		{/if}
		{#if offScale && range}
			<CurveName x={24} y={y(top) + (width < 420 ? 34 : 18)} hue="blueprint"
				>{antennaTitle}: {swr(range[0])} to {swr(Number.isFinite(range[1]) ? range[1] : null)} ↑{width <
				420
					? ''
					: beside}</CurveName
			>
		{:else if antennaName}
			<CurveName
				x={x(antennaName.hz)}
				y={y(antennaName.value) - 9}
				hue="blueprint"
				anchor={antennaName.rises ? 'end' : 'start'}>{antennaTitle}</CurveName
			>
		{/if}
		{#if matchName}
			<CurveName
				x={x(matchName.hz) + (matchName.rises ? -8 : 8)}
				y={Math.max(30, y(matchName.value) - 6)}
				hue="copper"
				anchor={matchName.rises ? 'end' : 'start'}>at the match, predicted</CurveName
			>
		{/if}
		{#if radioName}
			<CurveName
				x={x(radioName.hz) + (radioName.rises ? 14 : -14)}
				y={y(radioName.value) + 18}
				hue="ink"
				anchor={radioName.rises ? 'start' : 'end'}>what the radio will read</CurveName
			>
		{/if}
	{/snippet}
</Plot>
