<!-- @component
	What a winding loses over frequency on its bench resistor; of a coil, its Q.
-->
<script lang="ts">
	import type { Target } from '../lib/api/client';
	import { held } from '../lib/charts/frame';
	import Curve from '../lib/charts/marks/Curve.svelte';
	import Plot from '../lib/charts/Plot.svelte';
	import type { Winding } from './wound';

	interface Props {
		winding: Winding;
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		/** Another winding laid over, dotted; none when left out. */
		other?: Winding | null;
	}

	let { winding, targets, markerHz, onmarker, other = null }: Props = $props();

	const loss = $derived(winding.kind === 'transformer');
	const of = (w: Winding) => (loss ? w.seen.loss_db : w.seen.q);
	const f = $derived(winding.seen.frequency_hz);
	const values = $derived(of(winding));
	const highest = $derived(Math.max(...values.filter((v) => v !== null), loss ? 1 : 50));
	// A round top: half decibels, or the next 1, 2 or 5.
	const top = $derived.by(() => {
		if (loss) return Math.min(10, Math.ceil(highest * 2) / 2);
		const step = 10 ** Math.floor(Math.log10(highest));
		return [1, 2, 5, 10].map((k) => k * step).find((k) => k >= highest) ?? highest;
	});
	const frame = $derived({
		lowHz: f[0] ?? 1.8e6,
		highHz: f[f.length - 1] ?? 30e6,
		targets,
		markerHz,
		onmarker,
		height: 130
	});
</script>

<h3 class="eyebrow">{loss ? 'Loss on that resistor, dB' : 'Q of the coil alone'}</h3>
<Plot
	label={loss ? 'Loss over frequency' : 'Q over frequency'}
	{frame}
	bottom={0}
	{top}
	ticks={[0, top / 2, top]}
	logX
>
	{#snippet marks(plot)}
		{#if other && other.kind === winding.kind}
			<Curve
				{plot}
				of="other"
				hz={other.seen.frequency_hz}
				values={held(of(other), 0, top)}
				hue="verdigris"
				dash="2 3"
			/>
		{/if}
		<Curve {plot} of="own" hz={f} values={held(values, 0, top)} hue="heat" width={2.5} dash="8 4" />
	{/snippet}
</Plot>

<style>
	h3 {
		margin-top: 8px;
	}
</style>
