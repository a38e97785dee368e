<!-- @component
	The sweep to expect on the bench, with the band in which nineteen right builds in twenty lie.
-->
<script lang="ts">
	import type { Target } from '../lib/api/client';
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
	}

	let { bench, targets, markerHz, onmarker, other = null }: Props = $props();

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
	const top = $derived(swr ? 5 : middle * 2);
	const bottom = $derived(swr ? 1 : 0);
	const ticks = $derived(swr ? [1, 1.5, 2, 3, 5] : [0, 0.5, 1, 1.5, 2].map((k) => k * middle));
	const limits = $derived([...new Set(targets.map((t) => t.swr_limit))]);
	const cut = (values: (number | null)[]) => values.map((v) => Math.min(v ?? top, top * 1.02));
</script>

<Plot
	label={swr ? 'Expected SWR on the bench' : 'Expected inductance on the bench'}
	{frame}
	{bottom}
	{top}
	{ticks}
	tickText={swr ? String : (v) => (v * 1e6).toFixed(1)}
	log={swr}
	logX
>
	{#snippet marks({ x, y, width })}
		<path class="fan" d={band(f, bench.low, bench.high, x, y, top)} />
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
