<!-- @component
	The SWR limits of the targets, a line each.
-->
<script lang="ts">
	import type { Frame, Plotted } from '../frame';

	interface Props {
		plot: Plotted;
		targets: Frame['targets'];
	}

	let { plot, targets }: Props = $props();

	const limits = $derived([...new Set(targets.map((t) => t.swr_limit))]);
</script>

{#each limits as limit (limit)}
	{@const y = plot.y(limit)}
	<line x1="0" x2={plot.width} y1={y} y2={y} />
	<text x="6" y={y - 5}>limit {Number(limit.toFixed(2))}</text>
{/each}

<style>
	line {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
	}
	text {
		fill: var(--enamel);
		font-size: var(--size-12);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
</style>
