<!-- @component
	Return loss against frequency, in dB, more upwards.
-->
<script lang="ts">
	import Plot from './Plot.svelte';

	import type { Curve as CurveData, Frame } from './frame';
	import Curve from './marks/Curve.svelte';
	import CurveName from './marks/CurveName.svelte';
	import Samples from './marks/Samples.svelte';

	interface Props {
		frame: Frame;
		/** The antenna as measured. */
		antenna: CurveData;
		/** Where it was sampled, when so few that what lies between is a guess; empty when left out. */
		sampledHz?: (number | null)[];
		/** With the match, predicted; none on the sweep desk. */
		match?: CurveData;
	}

	let { frame, antenna, sampledHz = [], match }: Props = $props();

	const most = $derived(
		Math.max(
			...[...antenna.values, ...(match?.values ?? [])].map((v) => v ?? 0).filter(Number.isFinite)
		)
	);
	const top = $derived(most > 20 ? 40 : most > 5 ? 20 : most > 1 ? 5 : 1);
	const ticks = $derived([0, 1, 2, 3, 4].map((n) => (n * top) / 4));
</script>

<Plot label="Return loss against frequency, in dB" {frame} bottom={0} {top} {ticks}>
	{#snippet marks(plot)}
		<Curve
			{plot}
			of="antenna"
			hz={antenna.frequency_hz}
			values={antenna.values}
			hue="blueprint"
			unsure={sampledHz.length > 0}
		/>
		<Samples
			{plot}
			atHz={sampledHz}
			hz={antenna.frequency_hz}
			values={antenna.values}
			hue="blueprint"
		/>
		{#if match}
			<Curve
				{plot}
				of="match"
				hz={match.frequency_hz}
				values={match.values}
				hue="copper"
				dash="8 4"
			/>
		{/if}
		<CurveName x={8} y={plot.height - 8} hue="soft">dB; more is better</CurveName>
	{/snippet}
</Plot>
