<!-- @component
	What came in so far: R and X, SWR, the chart of Γ; with the doubt of a corrected sweep as a fan.
-->
<script lang="ts">
	import type { SweepCurves, Target } from '../lib/api/client';
	import { valueAt } from '../lib/charts/curve';
	import GammaChart from '../lib/charts/GammaChart.svelte';
	import ImpedanceChart from '../lib/charts/ImpedanceChart.svelte';
	import SwrChart from '../lib/charts/SwrChart.svelte';
	import MarkerSlider from '../lib/controls/MarkerSlider.svelte';
	import Help from '../lib/help/Help.svelte';
	import { impedance, swr } from '../lib/units/format';

	interface Props {
		curves: SweepCurves;
		/** Edges of the charts, Hz: those asked for, so that nothing rescales while a pass comes in. */
		lowHz: number;
		highHz: number;
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number) => void;
		/** What the curve is, written on it. */
		title: string;
	}

	let { curves, lowHz, highHz, targets, markerHz, onmarker, title }: Props = $props();

	const read = (values: (number | null)[]) => valueAt(curves.frequency_hz, values, markerHz);
	const at = $derived({
		r: read(curves.resistance_ohm),
		x: read(curves.reactance_ohm),
		swr: read(curves.swr),
		re: read(curves.gamma_real),
		im: read(curves.gamma_imag)
	});
	const frame = $derived({
		lowHz,
		highHz,
		targets: targets.filter((t) => t.low_hz < highHz && t.high_hz > lowHz),
		markerHz,
		onmarker
	});
	const fan = $derived(curves.fan ?? null);
	const limits = $derived([...new Set(targets.map((t) => t.swr_limit))]);
</script>

<section class="sheet">
	<div class="head">
		<h2>SWR against 50 Ω</h2>
		<MarkerSlider
			{lowHz}
			{highHz}
			{markerHz}
			stepHz={(highHz - lowHz) / 200}
			says="{impedance(at.r, at.x)}, SWR {swr(at.swr)}"
			onmarker={(hz) => onmarker(hz)}
		/>
		<span class="mono">{swr(at.swr)} : 1</span>
		<Help topic="doubt" name="how sure this is" />
	</div>
	<SwrChart
		frame={{ ...frame, height: 228 }}
		antenna={{ frequency_hz: curves.frequency_hz, values: curves.swr }}
		sampledHz={curves.sampled_hz}
		fan={fan
			? { hz: curves.frequency_hz as number[], low: fan.low_swr, high: fan.high_swr }
			: undefined}
		fanHue="blueprint"
		antennaTitle={title}
	/>
</section>
<div class="pair">
	<section class="sheet grow">
		<div class="head">
			<h2>R and X</h2>
			<span class="mono">{impedance(at.r, at.x)}</span>
			<Help topic="impedance" name="R and X" />
		</div>
		<ImpedanceChart
			frame={{ ...frame, height: 218 }}
			{curves}
			sampledHz={curves.sampled_hz}
			hue="blueprint"
			{fan}
		/>
	</section>
	<section class="sheet chart">
		<h2>Γ, centre 50 Ω <Help topic="gamma" name="the chart of Γ" /></h2>
		<GammaChart
			size={230}
			antenna={curves}
			at={at.re !== null && at.im !== null ? { re: at.re, im: at.im } : null}
			{limits}
		/>
	</section>
</div>

<style>
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 6px 14px;
		margin-bottom: 6px;
	}
	.pair {
		display: flex;
		gap: 12px;
	}
	.grow {
		flex: 1;
		min-width: 0;
	}
	.chart {
		flex: 0 0 246px;
	}
	@media (max-width: 620px) {
		.pair {
			flex-direction: column;
		}
		.chart {
			flex-basis: auto;
		}
	}
</style>
