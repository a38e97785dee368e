<!-- @component
	SWR as swept, laid on a fan of what was expected; as planned, and as a fit has it, where there are such.
-->
<script lang="ts">
	import type { Target } from '../api/client';
	import { held } from './frame';
	import Curve from './marks/Curve.svelte';
	import Fan from './marks/Fan.svelte';
	import Limit from './marks/Limit.svelte';
	import Plot from './Plot.svelte';

	type Values = (number | null)[];
	interface Curves {
		frequency_hz: number[];
		low: Values;
		high: Values;
		read: Values;
		planned?: Values;
		fitted?: Values;
	}

	interface Props {
		label: string;
		curves: Curves;
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		height?: number;
	}

	let { label, curves, targets, markerHz, onmarker, height = 200 }: Props = $props();

	const top = 10;
	const f = $derived(curves.frequency_hz);
	const frame = $derived({
		lowHz: f[0] ?? 0,
		highHz: f[f.length - 1] ?? 1,
		targets,
		markerHz,
		onmarker,
		height
	});
	const cut = (values: Values) => held(values, 1, top * 1.02);
</script>

<Plot {label} {frame} bottom={1} {top} ticks={[1, 1.5, 2, 3, 5, 10]} tickText={String} log>
	{#snippet marks(plot)}
		<Fan {plot} hz={f} low={cut(curves.low)} high={cut(curves.high)} {top} hue="copper" />
		<Limit {plot} {targets} />
		{#if curves.planned}
			<Curve
				{plot}
				of="planned"
				hz={f}
				values={cut(curves.planned)}
				hue="copper"
				width={2}
				dash="8 4"
			/>
		{/if}
		{#if curves.fitted}
			<Curve
				{plot}
				of="fitted"
				hz={f}
				values={cut(curves.fitted)}
				hue="verdigris"
				width={3}
				dash="2 3"
			/>
		{/if}
		<Curve {plot} of="measured" hz={f} values={cut(curves.read)} hue="blueprint" width={2.5} />
	{/snippet}
</Plot>
