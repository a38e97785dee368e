<!-- @component
	SWR of a finished design: between what builds as expected lie, as planned, as swept, and as the fit has it.
-->
<script lang="ts">
	import type { Target } from '../lib/api/client';
	import { held } from '../lib/charts/frame';
	import Curve from '../lib/charts/marks/Curve.svelte';
	import Fan from '../lib/charts/marks/Fan.svelte';
	import Limit from '../lib/charts/marks/Limit.svelte';
	import Plot from '../lib/charts/Plot.svelte';
	import type { Fit } from './asBuilt';

	interface Props {
		fit: Fit;
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
	}

	let { fit, targets, markerHz, onmarker }: Props = $props();

	const top = 10;
	const f = $derived(fit.frequency_hz);
	const frame = $derived({
		lowHz: f[0] ?? 0,
		highHz: f[f.length - 1] ?? 1,
		targets,
		markerHz,
		onmarker,
		height: 200
	});
	const cut = (values: (number | null)[]) => held(values, 1, top * 1.02);
</script>

<Plot
	label="SWR as built"
	{frame}
	bottom={1}
	{top}
	ticks={[1, 1.5, 2, 3, 5, 10]}
	tickText={String}
	log
>
	{#snippet marks(plot)}
		<Fan {plot} hz={f} low={cut(fit.low)} high={cut(fit.high)} {top} hue="copper" />
		<Limit {plot} {targets} />
		<Curve {plot} of="planned" hz={f} values={cut(fit.planned)} hue="copper" width={2} dash="8 4" />
		{#if fit.state !== 'no_match'}
			<Curve
				{plot}
				of="fitted"
				hz={f}
				values={cut(fit.fitted)}
				hue="verdigris"
				width={3}
				dash="2 3"
			/>
		{/if}
		<Curve {plot} of="measured" hz={f} values={cut(fit.read)} hue="blueprint" width={2.5} />
	{/snippet}
</Plot>
<p class="told soft">
	Blue: as swept. Dashed: as planned, shaded where nine builds of ten lie{fit.state === 'no_match'
		? ''
		: '. Dotted: with the values found'}.
</p>
