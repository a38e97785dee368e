<!-- @component
	Resistance and reactance against frequency, one or two pairs of curves.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { Curves, Fan } from '../api/client';
	import { band, extent, path, valueAt } from './curve';
	import Plot from './Plot.svelte';

	import { dashes, type Frame } from './frame';

	interface Props {
		frame: Frame;
		curves: Curves;
		/** Where it was sampled, when so few that what lies between is a guess; empty when left out. */
		sampledHz?: (number | null)[];
		/** Blueprint for the antenna as measured, copper for what is predicted at the match. */
		hue: 'blueprint' | 'copper';
		/** Edges of the 90 % bands of R and X, a value a frequency; none when left out. */
		fan?: Fan | null;
		/** Other sweeps laid over, with the names written on them. */
		others?: { name: string; curves: Curves }[];
	}

	let { frame, curves, sampledHz = [], hue, fan, others = [] }: Props = $props();

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
	{#snippet marks({ x, y, width })}
		{#if fan}
			{@const hz = curves.frequency_hz as number[]}
			{@const most = axis.domain()[1] ?? 50}
			<path
				class="fan {hue}"
				d={band(hz, fan.low_resistance_ohm, fan.high_resistance_ohm, x, y, most)}
			/>
			<path
				class="fan {hue}"
				d={band(hz, fan.low_reactance_ohm, fan.high_reactance_ohm, x, y, most)}
			/>
		{/if}
		<line class="zero" x1="0" x2={width} y1={y(0)} y2={y(0)} />
		{#each others as other, i (other.name)}
			{@const c = other.curves}
			{#each [c.resistance_ohm, c.reactance_ohm] as values, k (k)}
				<path
					class="curve other {hue}"
					stroke-dasharray={dashes[i % dashes.length]}
					d={path(c.frequency_hz, values, x, y)}
				/>
			{/each}
			{@const hz = lowHz + (0.3 + 0.16 * i) * (highHz - lowHz)}
			<text
				class="name {hue}"
				x={x(hz)}
				y={y(valueAt(c.frequency_hz, c.reactance_ohm, hz) ?? 0) + 14}>{other.name}</text
			>
		{/each}
		<path
			class="curve {hue}"
			class:unsure={sampledHz.length > 0}
			d={path(curves.frequency_hz, curves.resistance_ohm, x, y)}
		/>
		<path
			class="curve x {hue}"
			class:unsure={sampledHz.length > 0}
			d={path(curves.frequency_hz, curves.reactance_ohm, x, y)}
		/>
		{#each sampledHz as at, i (i)}
			{#each [curves.resistance_ohm, curves.reactance_ohm] as values, k (k)}
				{@const value = at === null ? null : valueAt(curves.frequency_hz, values, at)}
				{#if at !== null && value !== null}<circle
						class="dot {hue}"
						cx={x(at)}
						cy={y(value)}
						r="3.5"
					/>{/if}
			{/each}
		{/each}
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
	.fan.blueprint {
		fill: var(--blueprint-wash);
		stroke: none;
	}
	.fan.copper {
		fill: var(--copper-wash);
		stroke: none;
	}
	.other {
		stroke-width: 1.4;
	}
	.curve.unsure {
		stroke-width: 1;
		stroke-dasharray: 2 4;
	}
	.dot.blueprint {
		fill: var(--blueprint);
		stroke: none;
	}
	.dot.copper {
		fill: var(--copper);
		stroke: none;
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
