<!-- @component
	SWR of two sweeps of the same thing: the one before dashed, the one after solid.
-->
<script lang="ts">
	import type { Target } from '../lib/api/client';
	import { held } from '../lib/charts/frame';
	import Curve from '../lib/charts/marks/Curve.svelte';
	import Limit from '../lib/charts/marks/Limit.svelte';
	import Plot from '../lib/charts/Plot.svelte';

	interface Swept {
		frequency_hz: (number | null)[];
		swr: (number | null)[];
	}
	interface Props {
		label: string;
		before: Swept;
		after: Swept;
		targets: Target[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
	}

	let { label, before, after, targets, markerHz, onmarker }: Props = $props();

	const top = 10;
	const edges = $derived(
		[before, after].flatMap((s) => [s.frequency_hz[0] ?? 0, s.frequency_hz.at(-1) ?? 1])
	);
	const frame = $derived({
		lowHz: Math.min(...edges),
		highHz: Math.max(...edges),
		targets,
		markerHz,
		onmarker,
		height: 160
	});
	const cut = (s: Swept) => held(s.swr, 1, top * 1.02);
</script>

<Plot {label} {frame} bottom={1} {top} ticks={[1, 1.5, 2, 3, 5, 10]} log>
	{#snippet marks(plot)}
		<Limit {plot} {targets} />
		<Curve
			{plot}
			of="before"
			hz={before.frequency_hz}
			values={cut(before)}
			hue="soft"
			width={2.5}
			dash="7 4"
		/>
		<Curve
			{plot}
			of="after"
			hz={after.frequency_hz}
			values={cut(after)}
			hue="blueprint"
			width={2.5}
		/>
	{/snippet}
</Plot>
