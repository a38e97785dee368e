<!-- @component
	Standing-wave ratio against frequency: the antenna as measured, with the match, at the radio; with a fan.
-->
<script lang="ts">
	import { band, extent, path, valueAt } from './curve';
	import Plot from './Plot.svelte';
	import { swr } from '../units/format';

	import { type Curve, dashes, type Frame, type Overlay } from './frame';

	interface Props {
		frame: Frame;
		/** The antenna itself, as measured. */
		antenna: Curve;
		/** Where it was sampled, when so few that what lies between is a guess; empty when left out. */
		sampledHz?: (number | null)[];
		/** With the match, predicted; none on the sweep desk. */
		match?: Curve;
		/** What the radio end reads; none when left out. */
		radio?: Curve;
		/** How it was before the present edit; none when left out. */
		former?: Curve;
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
		/** What no lossless match goes below, a stretch each. */
		floors?: { low_hz: number; high_hz: number; swr: number }[];
	}

	let {
		frame,
		antenna,
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
		floors = []
	}: Props = $props();

	const { lowHz, highHz, targets } = $derived(frame);
	// A floor on the chart's own bottom is no line worth drawing.
	const drawnFloors = $derived(floors.filter((f) => f.swr > 1.02));
	const top = 10;
	const ticks = [1, 1.5, 2, 3, 5, 10];
	const limits = $derived([...new Set(targets.map((t) => t.swr_limit))]);
	const range = $derived(extent(antenna.frequency_hz, antenna.values, lowHz, highHz));
	const offScale = $derived(range !== null && range[0] > top);

	/** What lies above the chart runs along its edge. */
	function cut(values: (number | null)[]): (number | null)[] {
		return values.map((v) => Math.min(v ?? top, top));
	}

	/** A place for a curve's name: where it is in view, away from its dip; and whether it rises there. */
	function place(
		curve: Curve,
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
	{#snippet marks({ x, y, width })}
		{#if ceiling}
			<path
				class="ceiling"
				d={band(
					antenna.frequency_hz as number[],
					ceiling,
					ceiling.map(() => top),
					x,
					y,
					top
				)}
			/>
			{@const ends = ceiling[ceiling.length - 1] ?? top}
			{#if ends < top}
				<text class="floor-name over" x={width - 6} y={Math.max(44, y(ends) + 34)} text-anchor="end"
					>this line can show no more than {swr(ends)}</text
				>
			{/if}
		{/if}
		{#if fan}
			<path class="fan {fanHue}" d={band(fan.hz, fan.low, fan.high, x, y, top)} />
		{/if}
		{#each drawnFloors as floor, i (i)}
			{@const left = x(Math.max(floor.low_hz, lowHz))}
			{@const right = x(Math.min(floor.high_hz, highHz))}
			<rect
				class="floor"
				x={left}
				width={Math.max(2, right - left)}
				y={y(floor.swr)}
				height={y(1) - y(floor.swr)}
			/>
			<line
				class="floor-edge"
				x1={left}
				x2={Math.max(left + 2, right)}
				y1={y(floor.swr)}
				y2={y(floor.swr)}
			/>
		{/each}
		{#if drawnFloors[0]}
			<text
				class="floor-name"
				x={x(Math.min(drawnFloors[0].high_hz, highHz)) + 5}
				y={Math.min(y(1) - 4, y(drawnFloors[0].swr) + 4)}>floor {swr(drawnFloors[0].swr)}</text
			>
		{/if}
		{#each limits as limit (limit)}
			<line class="limit" x1="0" x2={width} y1={y(limit)} y2={y(limit)} />
			<text class="limit-name" x="6" y={y(limit) - 5}>limit {Number(limit.toFixed(2))}</text>
		{/each}
		<path
			class="antenna"
			class:unsure={sampledHz.length > 0}
			d={path(antenna.frequency_hz, cut(antenna.values), x, y)}
		/>
		{#each sampledHz as at, i (i)}
			{@const value = at === null ? null : valueAt(antenna.frequency_hz, antenna.values, at)}
			{#if at !== null && value !== null}
				<circle class="dot" cx={x(at)} cy={y(Math.min(value, top))} r="3.5" />
			{/if}
		{/each}
		{#each others as other, i (other.name)}
			<path
				class="other {otherHue}"
				stroke-dasharray={dashes[i % dashes.length]}
				d={path(other.frequency_hz, cut(other.values), x, y)}
			/>
			{@const spot = place(other, [0.2 + 0.14 * i, 0.75 - 0.1 * i, 0.5])}
			{#if spot}
				<text class="name {otherHue}" x={x(spot.hz)} y={y(Math.min(spot.value, top)) + 14}
					>{other.name}</text
				>
			{/if}
		{/each}
		{#if former}
			<path class="former" d={path(former.frequency_hz, cut(former.values), x, y)} />
		{/if}
		{#if match}
			<path class="match" d={path(match.frequency_hz, cut(match.values), x, y)} />
		{/if}
		{#if radio}
			<path class="radio" d={path(radio.frequency_hz, cut(radio.values), x, y)} />
		{/if}
		{#if offScale && range}
			<text class="name blueprint" x="24" y={y(top) + (width < 420 ? 34 : 18)}
				>{antennaTitle}: {swr(range[0])} to {swr(Number.isFinite(range[1]) ? range[1] : null)} ↑</text
			>
		{:else if antennaName}
			<text
				class="name blueprint"
				x={x(antennaName.hz)}
				y={y(antennaName.value) - 9}
				text-anchor={antennaName.rises ? 'end' : 'start'}>{antennaTitle}</text
			>
		{/if}
		{#if matchName}
			<text
				class="name copper"
				x={x(matchName.hz) + (matchName.rises ? -8 : 8)}
				y={Math.max(30, y(matchName.value) - 6)}
				text-anchor={matchName.rises ? 'end' : 'start'}>at the match, predicted</text
			>
		{/if}
		{#if radioName}
			<text
				class="name"
				x={x(radioName.hz) + (radioName.rises ? 14 : -14)}
				y={y(radioName.value) + 18}
				text-anchor={radioName.rises ? 'start' : 'end'}>what the radio will read</text
			>
		{/if}
	{/snippet}
</Plot>

<style>
	path {
		fill: none;
	}
	.fan {
		fill: var(--copper-wash);
		opacity: 0.8;
	}
	.fan.copper {
		stroke: none;
	}
	.fan.blueprint {
		fill: var(--blueprint-wash);
		stroke: none;
	}
	.ceiling {
		fill: var(--soft);
		opacity: 0.2;
	}
	.antenna {
		stroke: var(--blueprint);
		stroke-width: 2;
	}
	.match {
		stroke: var(--copper);
		stroke-width: 2.5;
		stroke-dasharray: 8 4;
	}
	.unsure {
		stroke-width: 1;
		stroke-dasharray: 2 4;
	}
	.dot {
		fill: var(--blueprint);
	}
	.other {
		stroke-width: 1.6;
	}
	path.blueprint {
		stroke: var(--blueprint);
	}
	path.copper {
		stroke: var(--copper);
	}
	.floor {
		fill: var(--soft);
		opacity: 0.22;
	}
	.floor-edge {
		stroke: var(--soft);
		stroke-width: 1.5;
	}
	.floor-name {
		fill: var(--soft);
		font-size: var(--size-12);
	}
	.over {
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.former {
		stroke: var(--copper);
		stroke-width: 1;
		opacity: 0.55;
	}
	.radio {
		stroke: var(--ink);
		stroke-width: 1.6;
		stroke-dasharray: 2 3;
	}
	.limit {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
	}
	.limit-name {
		fill: var(--enamel);
		font-size: var(--size-12);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.name {
		font-size: var(--size-12);
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	text.blueprint {
		fill: var(--blueprint);
		font-weight: 600;
	}
	text.copper {
		fill: var(--copper-ink);
		font-weight: 600;
	}
</style>
