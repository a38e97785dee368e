<!-- @component
	Dips on a frequency rule that never rescales by itself: the band, the trail, and where the next act will put the dip.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { TrimOut } from '../lib/api/client';
	import Picture from '../lib/charts/Picture.svelte';
	import { length, megahertz } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';

	interface Props {
		trim: TrimOut;
		/** Outdoors only the last dip and the target are labelled. */
		plain?: boolean;
	}

	let { trim, plain = false }: Props = $props();

	let outer = $state(600);
	const side = 22;
	const x = $derived(
		scaleLinear([trim.rule_low_hz, trim.rule_high_hz], [side, Math.max(side + 40, outer - side)])
	);
	const held = (hz: number) => Math.min(trim.rule_high_hz, Math.max(trim.rule_low_hz, hz));
	const points = $derived(
		trim.trail
			.filter((p) => p.dip_hz !== null)
			.map((p) => ({ ...p, hz: p.dip_hz as number, out: held(p.dip_hz as number) !== p.dip_hz }))
	);
	const shown = $derived(trim.next && trim.next.act !== 'none' ? trim.next : null);
	const rowOf = $derived(plain ? 0 : 17);
	const line = $derived(plain ? 38 : 52 + rowOf * points.length);
	const height = $derived(line + 48);
	const ticks = $derived(x.ticks(Math.max(3, Math.min(8, Math.round(outer / 80)))));
	const label = $derived(
		`Dips on a frequency rule from ${megahertz(trim.rule_low_hz)} to ${megahertz(trim.rule_high_hz)} MHz: ` +
			(points.length
				? points
						.map((p) => `${megahertz(p.hz)} MHz${p.apart ? ' under other conditions' : ''}`)
						.join(', ')
				: 'none yet') +
			`; wanted at ${megahertz(trim.target_hz)} MHz` +
			(shown ? `; the next act should bring it to ${megahertz(shown.lands_hz)} MHz` : '')
	);
</script>

<div bind:clientWidth={outer}>
	<Picture title={label}>
		<svg width={outer} {height} role="img" aria-label={label}>
			<rect
				class="band"
				x={x(held(trim.low_hz))}
				width={Math.max(3, x(held(trim.high_hz)) - x(held(trim.low_hz)))}
				y={line - 15}
				height="30"
			/>
			<line class="rule" x1={side} x2={outer - side} y1={line} y2={line} />
			{#if !plain}
				{#each ticks as tick (tick)}
					<line class="rule thin" x1={x(tick)} x2={x(tick)} y1={line} y2={line + 6} />
					<text class="tick" x={x(tick)} y={line + 42} text-anchor="middle"
						>{(tick / 1e6).toFixed(1)}</text
					>
				{/each}
			{/if}
			{#if shown}
				<rect
					class="fan"
					x={x(held(shown.lands_low_hz))}
					width={Math.max(2, x(held(shown.lands_high_hz)) - x(held(shown.lands_low_hz)))}
					y={line - 8}
					height="16"
				/>
				<line
					class="next"
					x1={x(held(points.at(-1)?.hz ?? trim.target_hz))}
					x2={x(held(shown.lands_hz))}
					y1={line}
					y2={line}
				/>
				<path class="landing" d="M{x(held(shown.lands_hz))},{line - 7}v14" />
			{/if}
			{#each points as p, i (i)}
				{@const at = x(held(p.hz))}
				{@const last = i === points.length - 1}
				{#if !plain}
					<line class="drop" x1={at} x2={at} y1={20 + rowOf * i} y2={line} />
					<text
						class="length"
						x={at > outer * 0.6 ? at - 7 : at + 7}
						y={24 + rowOf * i}
						text-anchor={at > outer * 0.6 ? 'end' : 'start'}
						>{length(p.leg_m, units.length)}{p.folded_m > 0
							? `, ${length(p.folded_m, units.length)} folded`
							: ''}{p.apart ? ', other conditions' : ''}</text
					>
				{/if}
				{#if p.out}
					<text class="out" x={at} y={line + 5} text-anchor="middle"
						>{p.hz < trim.target_hz ? '◀' : '▶'}</text
					>
				{:else}
					<circle
						class={last ? 'dip last' : p.apart ? 'dip apart' : 'dip'}
						cx={at}
						cy={line}
						r={last ? 8 : 6}
					/>
				{/if}
				{#if last}
					<text
						class="figure-of"
						x={Math.min(outer - 30, Math.max(30, at))}
						y={line + (Math.abs(at - x(trim.target_hz)) < 60 ? -20 : 26)}
						text-anchor="middle">{megahertz(p.hz)}</text
					>
				{/if}
			{/each}
			<text class="figure-of target" x={x(trim.target_hz)} y={line + 27} text-anchor="middle"
				>{megahertz(trim.target_hz)}</text
			>
		</svg>
	</Picture>
</div>

<style>
	div {
		min-width: 0;
	}
	svg {
		display: block;
	}
	.band {
		fill: var(--verdigris-wash);
		stroke: var(--verdigris);
		stroke-width: 1.5;
	}
	.rule {
		stroke: var(--ink);
		stroke-width: 2.5;
	}
	.thin {
		stroke-width: 1;
	}
	.tick,
	.length {
		fill: var(--soft);
		font: var(--size-12) var(--mono);
	}
	.drop {
		stroke: var(--line);
	}
	.fan {
		fill: var(--copper-wash);
	}
	.next {
		stroke: var(--enamel);
		stroke-width: 3;
		stroke-dasharray: 6 5;
	}
	.landing {
		stroke: var(--enamel);
		stroke-width: 2.5;
	}
	.dip {
		fill: var(--soft);
	}
	.dip.apart {
		fill: var(--sheet);
		stroke: var(--soft);
		stroke-width: 2;
		stroke-dasharray: 3 2;
	}
	.dip.last,
	.out {
		fill: var(--enamel);
	}
	.figure-of {
		fill: var(--ink);
		font: 700 var(--size-13) var(--mono);
	}
	.target {
		fill: var(--verdigris);
	}
</style>
