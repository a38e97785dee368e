<!-- @component
	A coil on its former from the side, to scale: turns, pitch, tap, and the sizes one measures.
-->
<script lang="ts">
	import Picture from '../lib/charts/Picture.svelte';
	import { millimetres, turns as turnsText } from '../lib/units/format';
	import type { Winding } from './wound';

	interface Props {
		winding: Winding;
		/** Width in pixels. */
		width?: number;
	}

	let { winding, width = 400 }: Props = $props();

	const coil = $derived(winding.picture.kind === 'coil' ? winding.picture : null);
	const height = 300;
	// The tube stands out of the winding by half a diameter at each end.
	const scale = $derived(
		coil
			? Math.min(
					(width - 90) / (coil.length_m + coil.former_m),
					(height - 90) / (coil.former_m + 2 * coil.wire_m)
				)
			: 1
	);
	const mid = height / 2 - 10;
	const half = $derived(coil ? (coil.former_m / 2) * scale : 0);
	const left = $derived(coil ? width / 2 - (coil.length_m * scale) / 2 : 0);
	const off = $derived(coil ? (coil.wire_m / 2) * scale : 0);
	/** Half turns in front, as slanted lines from bottom to top. */
	const front = $derived.by(() => {
		if (!coil) return [];
		const found: { x1: number; x2: number; share: number }[] = [];
		for (let n = 0; n < coil.turns - 1e-9; n += 1) {
			const share = Math.min(0.5, coil.turns - n) * 2;
			const x1 = left + (n + 0.25) * coil.pitch_m * scale;
			found.push({ x1, x2: x1 + 0.5 * share * coil.pitch_m * scale, share });
		}
		return found;
	});
	const last = $derived(front[front.length - 1]);
	const tapX = $derived(
		coil?.tap_turns ? left + (coil.tap_turns + 0.25) * coil.pitch_m * scale : null
	);
</script>

{#if coil}
	<Picture title="Coil">
		<svg
			{width}
			{height}
			viewBox="0 0 {width} {height}"
			role="img"
			aria-label="{turnsText(coil.turns)} turns over {millimetres(
				coil.length_m
			)} on a former of {millimetres(coil.former_m)}"
		>
			<rect
				class="former"
				x={left - half * 0.9}
				width={coil.length_m * scale + 1.8 * half}
				y={mid - half}
				height={2 * half}
				rx="3"
			/>
			{#each front as t, i (i)}
				<line
					class="wire"
					stroke-width={Math.max(1.2, coil.wire_m * scale * 0.92)}
					x1={t.x1}
					y1={mid + half + off}
					x2={t.x2}
					y2={mid + half + off - 2 * (half + off) * t.share}
				/>
			{/each}
			<line
				class="wire"
				stroke-width={Math.max(1.2, coil.wire_m * scale * 0.92)}
				x1={left + 0.25 * coil.pitch_m * scale}
				x2={left + 0.25 * coil.pitch_m * scale - 4}
				y1={mid + half + off}
				y2={mid + half + 26}
			/>
			{#if last}
				{@const top = mid + half + off - 2 * (half + off) * last.share}
				<line
					class="wire"
					stroke-width={Math.max(1.2, coil.wire_m * scale * 0.92)}
					x1={last.x2}
					x2={last.x2 + 4}
					y1={top}
					y2={top + (last.share < 1 ? 0 : -26)}
				/>
			{/if}
			{#if tapX !== null}
				<circle class="tap" cx={tapX} cy={mid + half + off} r="5" />
				<text x={tapX} y={mid + half + 24} text-anchor="middle"
					>tap at {turnsText(coil.tap_turns ?? 0)}</text
				>
			{/if}
			<g class="size">
				<line x1={left} x2={left + coil.length_m * scale} y1={height - 34} y2={height - 34} />
				<line x1={left} x2={left} y1={height - 39} y2={height - 29} />
				<line
					x1={left + coil.length_m * scale}
					x2={left + coil.length_m * scale}
					y1={height - 39}
					y2={height - 29}
				/>
			</g>
			<text x={width / 2} y={height - 14} text-anchor="middle"
				>{turnsText(coil.turns)} turns over {millimetres(coil.length_m)}, every {millimetres(
					coil.pitch_m
				)}</text
			>
			<text x={left - half * 0.9 - 6} y={mid + 4} text-anchor="end"
				>⌀ {millimetres(coil.former_m)}</text
			>
		</svg>
	</Picture>
{/if}

<style>
	svg {
		display: block;
		max-width: 100%;
		height: auto;
	}
	.former {
		fill: var(--line);
		stroke: var(--control-edge);
	}
	.wire {
		stroke: var(--copper);
		stroke-linecap: round;
	}
	.tap {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.size line {
		stroke: var(--soft);
	}
	text {
		font-size: var(--size-12);
		fill: var(--soft);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	/* Drawn smaller on a phone: its words stay as large as they can be read. */
	@media (max-width: 620px) {
		text {
			font-size: 15px;
		}
	}
</style>
