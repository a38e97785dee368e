<!-- @component
	The best compromises: worst SWR across, loss or number of parts up, a numbered dot a network.
-->
<script lang="ts">
	import { scaleLinear, scaleLog, scaleSqrt } from 'd3-scale';

	import type { Way } from '../lib/api/client';
	import Picture from '../lib/charts/Picture.svelte';
	import { swr } from '../lib/units/format';
	import { wayName } from './ways';

	interface Props {
		/** On the front, in the order of their numbers. */
		front: Way[];
		/** Beaten by those, but the best of their kind. */
		others: Way[];
		/** What the worst SWR over its limit is multiplied by to be an SWR; null where limits differ. */
		limit: number | null;
		/** Key of the one shown in the design; null where it is none of these. */
		here: string | null;
		onpick: (way: Way) => void;
	}

	let { front, others, limit, here, onpick }: Props = $props();

	let up = $state<'loss' | 'parts'>('loss');

	const width = 620;
	const height = 230;
	const left = 46;
	const bottom = 34;
	const scale = $derived(limit ?? 1);
	const at = (way: Way) => (way.excess ?? 10) * scale;
	const ideal = (way: Way) => (way.ideal_excess ?? 10) * scale;
	const all = $derived([...front, ...others]);
	const most = $derived(Math.max(scale * 1.05, ...all.map((w) => Math.min(at(w), scale * 2.5))));
	const least = $derived(
		Math.max(
			limit === null ? 0.3 : 1,
			Math.min(...all.map((w) => Math.min(at(w), ideal(w)))) * 0.97
		)
	);
	const x = $derived(scaleLog([least, most], [left + 8, width - 16]).clamp(true));
	const worstLoss = $derived(Math.max(0.1, ...all.map((w) => w.loss_db ?? 0)));
	const mostParts = $derived(Math.max(3, ...all.map((w) => w.count)));
	const loss = $derived(scaleSqrt([0, worstLoss * 1.1], [height - bottom - 8, 16]));
	const count = $derived(scaleLinear([0, mostParts + 0.5], [height - bottom - 8, 16]));
	const y = (way: Way) => (up === 'loss' ? loss(way.loss_db ?? 0) : count(way.count));
	/** Where the numbers stand: at their place, or beside it where another one stands there. */
	const numbers = $derived.by(() => {
		const tries: [number, number][] = [[0, 0], [0, -20], [0, 20], [20, 0], [-20, 0], [16, -16], [-16, 16], [16, 16], [-16, -16], [0, -38], [0, 38], [36, 0], [-36, 0]]; // prettier-ignore
		const placed: { way: Way; px: number; py: number; x: number; y: number }[] = [];
		for (const way of front) {
			const [px, py] = [x(at(way)), y(way)];
			const free = tries.find(([dx, dy]) =>
				placed.every((o) => Math.hypot(o.x - px - dx, o.y - py - dy) > 19)
			) ?? [0, 0];
			const inside = (v: number, low: number, high: number) => Math.min(Math.max(v, low), high);
			placed.push({
				way,
				px,
				py,
				x: inside(px + free[0], left + 10, width - 12),
				y: inside(py + free[1], 12, height - bottom - 10)
			});
		}
		return placed;
	});
	const marks = $derived.by(() => {
		const wanted = [
			0.3, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.1, 1.2, 1.3, 1.4, 1.5, 1.6, 1.8, 2, 2.5, 3, 4, 5, 7, 10
		];
		const inside = wanted.filter((v) => v >= least && v <= most);
		return inside.filter((v, i) => i === 0 || x(v) - x(inside[i - 1] ?? 0) > 34);
	});
	const steps = $derived(
		up === 'loss'
			? loss.ticks(4).map((v) => ({ at: loss(v), text: `${v}` }))
			: Array.from({ length: mostParts + 1 }, (_, n) => ({ at: count(n), text: `${n}` }))
	);
</script>

<div class="row">
	<span class="eyebrow">Worst SWR across, {up === 'loss' ? 'loss' : 'parts'} up</span>
	<span class="choice" role="group" aria-label="What goes up">
		<button class="plain" aria-pressed={up === 'loss'} onclick={() => (up = 'loss')}>loss</button>
		<button class="plain" aria-pressed={up === 'parts'} onclick={() => (up = 'parts')}>parts</button
		>
	</span>
</div>
<Picture title="Ways to match">
	<svg
		viewBox="0 0 {width} {height}"
		role="img"
		aria-label="{front.length} best compromises, the lowest SWR {swr(
			front[0] ? at(front[0]) : null
		)}"
	>
		{#each steps as step (step.text)}
			<line class="grid" x1={left} x2={width - 8} y1={step.at} y2={step.at} />
			<text x={left - 6} y={step.at + 4} text-anchor="end">{step.text}</text>
		{/each}
		<text x="4" y="12">{up === 'loss' ? 'dB lost' : 'parts'}</text>
		{#each marks as mark (mark)}
			<text x={x(mark)} y={height - bottom + 14} text-anchor="middle">{mark}</text>
			<line class="grid" x1={x(mark)} x2={x(mark)} y1="16" y2={height - bottom} />
		{/each}
		<text x={width - 8} y={height - 4} text-anchor="end"
			>{limit === null ? 'worst SWR over its limit' : 'worst SWR'}</text
		>
		{#if scale >= least && scale <= most}
			<line class="limit" x1={x(scale)} x2={x(scale)} y1="16" y2={height - bottom} />
			<text class="limit" x={x(scale) - 5} y="26" text-anchor="end"
				>limit {Number(scale.toFixed(2))}</text
			>
		{/if}
		{#each others as way (way.key)}
			<circle class="other" cx={x(at(way))} cy={y(way)} r="5" />
		{/each}
		{#each front as way (way.key)}
			{#if Math.abs(x(ideal(way)) - x(at(way))) > 13}
				<line class="ideal" x1={x(ideal(way))} x2={x(at(way))} y1={y(way)} y2={y(way)} />
				<circle class="ideal" cx={x(ideal(way))} cy={y(way)} r="3.5" />
			{/if}
		{/each}
		{#each numbers as { way, px, py, x: cx, y: cy }, nth (way.key)}
			<!-- The lines below are the buttons; a dot is a short cut for the mouse. -->
			<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
			<g class="dot" class:here={way.key === here} onclick={() => onpick(way)}>
				<title>{wayName(way)}</title>
				<line class="lead" x1={px} y1={py} x2={cx} y2={cy} />
				<circle class="true" cx={px} cy={py} r="2.5" />
				<circle {cx} {cy} r="9.5" />
				<text x={cx} y={cy + 4} text-anchor="middle">{nth + 1}</text>
			</g>
		{/each}
	</svg>
</Picture>
<p class="soft">
	A ring shows what the same parts could do in every value: the line to it is what whole turns and
	sold values cost. Grey dots are beaten in everything, and the best of their kind.
</p>

<style>
	.row {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
	}
	.choice {
		display: flex;
		gap: 8px;
	}
	.choice [aria-pressed='true'] {
		color: var(--ink);
		font-weight: 700;
		text-decoration: none;
	}
	svg {
		display: block;
		width: 100%;
	}
	.grid {
		stroke: var(--line);
	}
	text {
		font: 12px var(--mono);
		fill: var(--soft);
	}
	line.limit {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
		stroke-width: 1.5;
	}
	text.limit {
		fill: var(--enamel);
	}
	.other {
		fill: var(--line);
		stroke: var(--control-edge);
	}
	line.ideal {
		stroke: var(--copper);
		stroke-dasharray: 2 3;
	}
	circle.ideal {
		fill: var(--sheet);
		stroke: var(--copper);
		stroke-width: 1.5;
	}
	.dot {
		cursor: pointer;
	}
	.dot circle {
		fill: var(--sheet);
		stroke: var(--copper);
		stroke-width: 2;
	}
	.dot .lead {
		stroke: var(--copper);
	}
	.dot .true {
		fill: var(--copper);
	}
	.dot text {
		fill: var(--copper-ink);
		font-weight: 700;
	}
	.here circle {
		fill: var(--copper);
	}
	.here text {
		fill: var(--on-ink);
	}
	.soft {
		color: var(--soft);
		font-size: var(--size-12);
		margin: 2px 0 8px;
	}
	@media (max-width: 620px) {
		text {
			font-size: 19px;
		}
	}
</style>
