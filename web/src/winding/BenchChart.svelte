<!-- @component
	The sweep to expect on the bench, with the band in which nineteen right builds in twenty lie.
-->
<script lang="ts">
	import type { Schemas, Target } from '../lib/api/client';
	import { held } from '../lib/charts/frame';
	import Curve from '../lib/charts/marks/Curve.svelte';
	import Fan from '../lib/charts/marks/Fan.svelte';
	import Limit from '../lib/charts/marks/Limit.svelte';
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
		height?: number;
	}

	let {
		bench,
		targets,
		markerHz,
		onmarker,
		other = null,
		measured = null,
		height = 190
	}: Props = $props();

	const f = $derived(bench.frequency_hz);
	const frame = $derived({
		lowHz: f[0] ?? 1.8e6,
		highHz: f[f.length - 1] ?? 30e6,
		targets,
		markerHz,
		onmarker,
		height
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
	const cut = (values: (number | null)[]) => held(values, bottom, top * 1.02);
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
	{#snippet marks(plot)}
		<Fan {plot} hz={f} low={cut(bench.low)} high={cut(bench.high)} {top} hue="copper" />
		{#if swr}<Limit {plot} {targets} />{/if}
		{#if other && other.bench.what === bench.what}
			<Curve
				{plot}
				of="other"
				hz={other.bench.frequency_hz}
				values={cut(other.bench.value)}
				hue="verdigris"
				dash="2 3"
			/>
		{/if}
		<Curve
			{plot}
			of="expected"
			hz={f}
			values={cut(bench.value)}
			hue="copper"
			width={2.5}
			dash="8 4"
		/>
		{#if measured && swept}
			<Curve
				{plot}
				of="measured"
				hz={measured.frequency_hz}
				values={cut(swept)}
				hue="blueprint"
				width={2.5}
			/>
		{/if}
	{/snippet}
</Plot>
