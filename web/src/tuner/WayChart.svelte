<!-- @component
	The chart of Γ at a tuner: the band as it stands, circles of equal SWR, one's own way, and the shortest one beside it.
-->
<script lang="ts">
	import Picture from '../lib/charts/Picture.svelte';
	import { swr } from '../lib/units/format';

	interface Point {
		re: number;
		im: number;
	}
	interface Props {
		/** Γ over the band as it stands. */
		band: Point[];
		/** Middles of the settings that were left, in order. */
		way: Point[];
		/** Of the shortest way, from where one began; empty until one is there. */
		shortest: Point[];
	}

	let { band, way, shortest }: Props = $props();

	const size = 420;
	const radius = size / 2 - 18;
	const x = (re: number) => size / 2 + re * radius;
	const y = (im: number) => size / 2 - im * radius;
	const line = (points: Point[]) =>
		points.map((p, i) => `${i ? 'L' : 'M'}${x(p.re)},${y(p.im)}`).join('');
	const rings = [1.2, 1.5, 2, 3, 5];
	const here = $derived(band[Math.floor(band.length / 2)]);
	const reads = $derived.by(() => {
		if (!here) return null;
		const size_ = Math.hypot(here.re, here.im);
		return size_ < 1 ? (1 + size_) / (1 - size_) : null;
	});
</script>

<Picture title="The way on the chart of Γ">
	<svg
		viewBox="0 0 {size} {size}"
		role="img"
		aria-label="Chart of Γ: the middle of the band reads {swr(reads)} : 1, {way.length > 1
			? `after ${way.length - 1} turns`
			: 'nothing turned yet'}"
	>
		<path class="net" d="M{x(-1)},{y(0)}H{x(1)}M{x(0)},{y(1)}V{y(-1)}" />
		{#each rings as ring (ring)}
			<circle
				class="ring"
				class:goal={ring === 1.2}
				cx={size / 2}
				cy={size / 2}
				r={(radius * (ring - 1)) / (ring + 1)}
			/>
			{#if ring > 1.2}
				<text class="soft" x={size / 2 + 4} y={y((ring - 1) / (ring + 1)) - 3}>{ring}</text>
			{/if}
		{/each}
		<circle class="rim" cx={size / 2} cy={size / 2} r={radius} />
		<text class="soft" x={x(-1) + 8} y={y(0) - 5}>short</text>
		<text class="soft" x={x(1) - 8} y={y(0) - 5} text-anchor="end">open</text>
		{#if shortest.length > 1}
			<path class="shortest" d={line(shortest)} />
			{#each shortest.slice(1) as p, i (i)}<circle
					class="gone"
					cx={x(p.re)}
					cy={y(p.im)}
					r="4"
				/>{/each}
		{/if}
		<path class="way" d={line(way)} />
		{#each way as p, i (i)}
			<circle class="left" cx={x(p.re)} cy={y(p.im)} r="3" />
		{/each}
		<path class="band" d={line(band)} />
		{#if here}<circle class="here" cx={x(here.re)} cy={y(here.im)} r="6" />{/if}
	</svg>
</Picture>

<style>
	svg {
		display: block;
		width: 100%;
		max-width: 460px;
		margin: 0 auto;
		font-size: 13px;
	}
	path,
	circle {
		fill: none;
	}
	.net,
	.ring {
		stroke: var(--line);
	}
	.ring.goal {
		stroke: var(--verdigris);
		fill: var(--verdigris-wash);
	}
	.rim {
		stroke: var(--ink);
		stroke-width: 1.4;
	}
	.soft {
		fill: var(--soft);
	}
	.way {
		stroke: var(--copper);
		stroke-width: 1.4;
		stroke-dasharray: 2 3;
	}
	.left {
		fill: var(--copper);
	}
	.band {
		stroke: var(--blueprint);
		stroke-width: 3;
	}
	.here {
		fill: var(--ink);
	}
	.shortest {
		stroke: var(--verdigris);
		stroke-width: 2.4;
	}
	.gone {
		fill: var(--verdigris);
	}
</style>
