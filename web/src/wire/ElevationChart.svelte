<!-- @component
	How low it goes: the cut through its elevation over the horizon, beside a quarter-wave or a dipole.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import Picture from '../lib/charts/Picture.svelte';

	interface Props {
		cuts: Schemas['ElevationOut'][];
		/** Which one it is compared with. */
		other: 'vertical' | 'dipole';
	}

	let { cuts, other }: Props = $props();

	let width = $state(300);
	const radius = $derived(Math.min((width - 60) / 2, 128));
	const middle = $derived(width / 2);
	const floor = $derived(radius + 16);
	const span = 30;
	const all = $derived(
		cuts
			.filter((c) => c.key === 'this' || c.key === other)
			.flatMap((c) => c.gain_dbi.filter((v): v is number => v !== null))
	);
	const top = $derived(Math.ceil(Math.max(0, ...all)));
	/** Decibels inwards from the rim, half of them on the outer third, so that small differences are seen. */
	const out = (dbi: number | null) => {
		const share = Math.max(0, 1 - (top - (dbi ?? -99)) / span);
		return radius * share ** 1.4;
	};
	const line = (cut: Schemas['ElevationOut'] | undefined) =>
		(cut?.gain_dbi ?? [])
			.map((gain, i) => {
				const at = ((cut?.elevation_deg[i] ?? 0) * Math.PI) / 180;
				const r = out(gain);
				return `${i ? 'L' : 'M'}${(middle + r * Math.cos(at)).toFixed(1)},${(floor - r * Math.sin(at)).toFixed(1)}`;
			})
			.join('');
	const own = $derived(cuts.find((c) => c.key === 'this'));
	const than = $derived(cuts.find((c) => c.key === other));
	const rings = $derived([0, 5, 10, 20].map((under) => ({ under, r: out(top - under) })));
	const spoke = (deg: number) => {
		const at = (deg * Math.PI) / 180;
		return { x: radius * Math.cos(at), y: radius * Math.sin(at) };
	};
</script>

<div bind:clientWidth={width} class="polar">
	<Picture title="Gain over elevation">
		<svg
			{width}
			height={floor + 18}
			role="img"
			aria-label="Gain over elevation, {top} dBi at the rim"
		>
			{#each rings as ring (ring.under)}
				<path
					class="ring"
					d="M{middle - ring.r},{floor}A{ring.r},{ring.r} 0 0 1 {middle + ring.r},{floor}"
				/>
			{/each}
			{#each [30, 60, 90, 120, 150] as deg (deg)}
				{@const end = spoke(deg)}
				<line class="ring" x1={middle} y1={floor} x2={middle + end.x} y2={floor - end.y} />
			{/each}
			{#each [10, 30, 60] as deg (deg)}
				{@const end = spoke(deg)}
				<text x={middle + end.x * 1.03 + 2} y={floor - end.y * 1.03}>{deg}°</text>
			{/each}
			<line class="floor" x1={middle - radius - 8} x2={middle + radius + 8} y1={floor} y2={floor} />
			<text x={middle - radius} y={floor + 14} text-anchor="middle">{top} dBi</text>
			{#each rings.slice(2) as ring (ring.under)}
				<text x={middle - ring.r} y={floor + 14} text-anchor="middle"
					>{String(top - ring.under).replace('-', '−')}</text
				>
			{/each}
			<path class="other" d={line(than)} />
			<path class="own" d={line(own)} />
		</svg>
	</Picture>
</div>

<style>
	.polar {
		min-width: 0;
		overflow: hidden;
	}
	svg {
		display: block;
	}
	.ring {
		fill: none;
		stroke: var(--line);
	}
	.floor {
		stroke: var(--core-edge);
	}
	text {
		fill: var(--soft);
		font: var(--size-12) var(--mono);
	}
	.own {
		fill: none;
		stroke: var(--blueprint);
		stroke-width: 2.5;
		stroke-dasharray: 8 4;
	}
	.other {
		fill: none;
		stroke: var(--soft);
		stroke-width: 1.8;
		stroke-dasharray: 2 3;
	}
</style>
