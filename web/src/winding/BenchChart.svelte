<!-- @component
	The sweep to expect on the bench, with the band in which nineteen right builds in twenty lie.
-->
<script lang="ts">
	import type { Schemas, Target } from '../lib/api/client';
	import { band, path } from '../lib/charts/curve';
	import Plot from '../lib/charts/Plot.svelte';
	import type { Winding } from './wound';

	interface Props {
		bench: Winding['bench'];
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		/** Another winding's expectation laid over, with its name; none when left out. */
		other?: { name: string; bench: Winding['bench'] } | null;
		/** What was swept; none when left out. */
		measured?: Schemas['MeasuredOut'] | null;
	}

	let { bench, targets, markerHz, onmarker, other = null, measured = null }: Props = $props();

	const f = $derived(bench.frequency_hz);
	const frame = $derived({
		lowHz: f[0] ?? 1.8e6,
		highHz: f[f.length - 1] ?? 30e6,
		targets,
		markerHz,
		onmarker,
		height: 190
	});
	const swr = $derived(bench.what === 'swr');
	const known = $derived(
		bench.value.filter((v): v is number => v !== null && v > 0).sort((a, b) => a - b)
	);
	// An inductance is drawn round its middle value; near self-resonance it leaves the chart.
	const middle = $derived(known[Math.floor(known.length / 3)] ?? 1e-6);
	const ohms = $derived(bench.what === 'resistance');
	/** Decades that hold the resistance. */
	const decades = $derived.by(() => {
		const most = known[known.length - 1] ?? 1e3;
		const high = Math.ceil(Math.log10(most));
		return [high - 3, high - 2, high - 1, high].map((k) => 10 ** k);
	});
	const top = $derived(swr ? 5 : ohms ? (decades[3] ?? 1e4) : middle * 2);
	const bottom = $derived(swr ? 1 : ohms ? (decades[0] ?? 10) : 0);
	const ticks = $derived(
		swr ? [1, 1.5, 2, 3, 5] : ohms ? decades : [0, 0.5, 1, 1.5, 2].map((k) => k * middle)
	);
	const tickText = $derived(
		swr
			? String
			: ohms
				? (v: number) => (v >= 1e3 ? `${v / 1e3}k` : String(v))
				: (v: number) => (v * 1e6).toFixed(1)
	);
	const swept = $derived(
		measured ? (swr ? measured.swr : ohms ? measured.resistance_ohm : measured.inductance_h) : null
	);
	const name = $derived(
		swr
			? 'Expected SWR on the bench'
			: ohms
				? 'Expected resistance on the bench, ohms'
				: 'Expected inductance on the bench'
	);
	const limits = $derived([...new Set(targets.map((t) => t.swr_limit))]);
	const cut = (values: (number | null)[]) =>
		values.map((v) => Math.max(bottom, Math.min(v ?? top, top * 1.02)));
</script>

<Plot
	label={name}
	{frame}
	{bottom}
	{top}
	{ticks}
	{tickText}
	log={swr || ohms}
	logX={f[f.length - 1] !== undefined && (f[f.length - 1] ?? 0) > 3 * (f[0] ?? 1)}
>
	{#snippet marks({ x, y, width })}
		<path class="fan" d={band(f, cut(bench.low), cut(bench.high), x, y, top)} />
		{#if swr}
			{#each limits as limit (limit)}
				<line class="limit" x1="0" x2={width} y1={y(limit)} y2={y(limit)} />
				<text class="limit-name" x="6" y={y(limit) - 5}>limit {Number(limit.toFixed(2))}</text>
			{/each}
		{/if}
		{#if other && other.bench.what === bench.what}
			<path class="other" d={path(other.bench.frequency_hz, cut(other.bench.value), x, y)} />
		{/if}
		<path class="expected" d={path(f, cut(bench.value), x, y)} />
		{#if measured && swept}
			<path class="measured" d={path(measured.frequency_hz, cut(swept), x, y)} />
		{/if}
	{/snippet}
</Plot>

<style>
	path {
		fill: none;
	}
	.fan {
		fill: var(--copper-wash);
	}
	.expected {
		stroke: var(--copper);
		stroke-width: 2.5;
		stroke-dasharray: 8 4;
	}
	.other {
		stroke: var(--verdigris);
		stroke-width: 2;
		stroke-dasharray: 2 3;
	}
	.measured {
		stroke: var(--blueprint);
		stroke-width: 2.5;
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
</style>
