<!-- @component
	What the match does over frequency: SWR with its fan, or R and X, or return loss; and which way it just moved.
-->
<script lang="ts">
	import type { Content, Station, Target, Yield } from '../lib/api/client';
	import { valueAt } from '../lib/charts/curve';
	import ImpedanceChart from '../lib/charts/ImpedanceChart.svelte';
	import ReturnLossChart from '../lib/charts/ReturnLossChart.svelte';
	import SwrChart from '../lib/charts/SwrChart.svelte';
	import type { FloorMark } from '../lib/charts/frame';
	import Help from '../lib/help/Help.svelte';
	import MarkerSlider from '../lib/controls/MarkerSlider.svelte';
	import { impedance, swr } from '../lib/units/format';

	interface Props {
		/** Frequency at the left and right edge, Hz. */
		range: { lowHz: number; highHz: number };
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		/** What stands at the top: a sweep, a wire as modelled, a resistor. */
		top: Content['antenna']['kind'];
		/** The wire itself, and what is seen below the match. */
		antenna: Station;
		box: Station;
		/** What the radio sees; none where it sits at the match. */
		radio?: Station;
		/** The highest SWR that the radio can read; none when left out. */
		ceiling?: (number | null)[] | null;
		/** The match before the present edit; none when nothing moved. */
		former?: Station;
		/** Its fan is drawn; none while it is computed. */
		yielded: Yield | null;
		/** Which way the last edit moved the curve, in words. */
		shift: string | null;
		/** Other designs and states laid over. */
		laid: { name: string; station: Station }[];
		/** What no lossless match goes below. */
		floors: FloorMark[];
	}

	let {
		range,
		targets,
		markerHz,
		onmarker,
		top,
		antenna,
		box,
		radio,
		ceiling,
		former,
		yielded,
		shift,
		laid,
		floors
	}: Props = $props();

	const titles = {
		sweep: 'the wire as measured',
		wire: 'the wire as modelled',
		resistor: 'the resistor'
	};

	const frame = $derived({ ...range, targets, markerHz, onmarker, height: 272 });

	let shown = $state<'SWR' | 'R and X' | 'return loss'>('SWR');
	const at = $derived({
		r: valueAt(box.frequency_hz, box.resistance_ohm, markerHz),
		x: valueAt(box.frequency_hz, box.reactance_ohm, markerHz),
		swr: valueAt(box.frequency_hz, box.swr, markerHz)
	});
</script>

<section class="sheet">
	<div class="head">
		<h2>
			{shown} at the match
			<Help topic={shown === 'R and X' ? 'impedance' : 'swr'} name={shown} />
		</h2>
		{#each ['SWR', 'R and X', 'return loss'] as const as other (other)}
			{#if other !== shown}
				<button class="plain" onclick={() => (shown = other)}>{other}</button>
			{/if}
		{/each}
		<MarkerSlider
			{...range}
			{markerHz}
			stepHz={(range.highHz - range.lowHz) / 100}
			says="{impedance(at.r, at.x)} at the match, SWR {swr(at.swr)}"
			{onmarker}
		/>
		<span class="mono">{impedance(at.r, at.x)}</span>
		<span class="mono">{swr(at.swr)} : 1</span>
	</div>
	{#if shown === 'SWR'}
		<SwrChart
			{frame}
			{floors}
			others={laid.map(({ name, station }) => ({
				name,
				frequency_hz: station.frequency_hz,
				values: station.swr
			}))}
			otherHue="copper"
			antenna={{ frequency_hz: antenna.frequency_hz, values: antenna.swr }}
			returnLoss={antenna.return_loss_db}
			antennaTitle={titles[top]}
			modelled={top !== 'sweep'}
			match={{ frequency_hz: box.frequency_hz, values: box.swr }}
			radio={radio ? { frequency_hz: radio.frequency_hz, values: radio.swr } : undefined}
			{ceiling}
			former={former ? { frequency_hz: former.frequency_hz, values: former.swr } : undefined}
			fan={yielded
				? { hz: yielded.fan_hz, low: yielded.fan_low, high: yielded.fan_high }
				: undefined}
		/>
	{:else if shown === 'R and X'}
		<ImpedanceChart
			{frame}
			curves={box}
			hue="copper"
			others={laid.map(({ name, station }) => ({ name, curves: station }))}
		/>
	{:else}
		<ReturnLossChart
			{frame}
			antenna={{ frequency_hz: antenna.frequency_hz, values: antenna.return_loss_db }}
			match={{ frequency_hz: box.frequency_hz, values: box.return_loss_db }}
		/>
	{/if}
	<p class="shift">{shift ?? ' '}</p>
</section>

<style>
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 6px 9px;
		margin-bottom: 4px;
	}
	.head .mono {
		white-space: nowrap;
	}
	.shift {
		font-size: var(--size-13);
		color: var(--copper-ink);
		margin-top: -4px;
		min-height: 1.4em;
		white-space: pre-wrap;
	}
</style>
