<!-- @component
	One way to match as a line: its network in small, what it holds and takes; opened, its curve and its parts.
-->
<script lang="ts">
	import { scaleLinear, scaleLog } from 'd3-scale';

	import type { Target, Way } from '../lib/api/client';
	import { path } from '../lib/charts/curve';
	import { percent, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { shorterText } from '../design/words';
	import { inSmall } from './schematic';
	import Schematic from './Schematic.svelte';
	import { made, purpose, shopping, wayName, worstOf } from './ways';

	interface Props {
		way: Way;
		/** Its number in the picture; nothing for one that is beaten. */
		number?: number;
		targets: Target[];
		/** What an excess is multiplied by to be an SWR; null where limits differ. */
		limit: number | null;
		/** Whether the design is made so. */
		here: boolean;
		/** Whether its share of builds is still being counted. */
		counting: boolean;
		open: boolean;
		onopen: () => void;
		ontake: () => void;
	}

	let { way, number, targets, limit, here, counting, open, onopen, ontake }: Props = $props();

	const width = 300;
	const height = 110;
	const x = $derived(
		scaleLinear([way.curve_hz[0] ?? 0, way.curve_hz[way.curve_hz.length - 1] ?? 1], [0, width])
	);
	const y = scaleLog([1, 10], [height - 2, 2]);
	const curve = $derived(
		path(
			way.curve_hz,
			way.curve_swr.map((v) => Math.min(v ?? 10, 10)),
			x,
			y
		)
	);
	const bought = $derived(shopping(way));
	const share = $derived(
		way.share === null || way.share === undefined ? (counting ? '…' : '–') : percent(way.share)
	);
	const says = $derived(`${number ? `${number}, ` : ''}${wayName(way)}`);
</script>

<article class:here class:open aria-label={says}>
	<button class="line" aria-expanded={open} onclick={onopen}>
		<span class="number" class:none={!number}>{number ?? ''}</span>
		<span class="glyph"><Schematic parts={inSmall(way.parts)} small /></span>
		<span class="name"
			><strong>{wayName(way)}</strong><small
				>{way.shortened < 1 ? `wire ${shorterText(way.shortened)} · ` : ''}{way.parts
					.map((p) => made(p, units.length))
					.join(' · ') || 'nothing to make'}</small
			></span
		>
		<span class="value mono"><b>{swr(worstOf(way, limit))}</b><small>SWR</small></span>
		<span class="value mono">{(way.loss_db ?? 0).toFixed(2)}<small>dB lost</small></span>
		<span class="value mono">{share}<small>hold</small></span>
	</button>
	{#if open}
		<div class="more">
			<svg
				viewBox="0 0 {width} {height}"
				role="img"
				aria-label="SWR, worst {swr(worstOf(way, limit))}"
			>
				{#each targets as t, nth (nth)}
					<rect x={x(t.low_hz)} width={Math.max(1.5, x(t.high_hz) - x(t.low_hz))} y="0" {height} />
					<line
						x1={x(t.low_hz) - 4}
						x2={x(t.high_hz) + 4}
						y1={y(t.swr_limit)}
						y2={y(t.swr_limit)}
					/>
					<text x={x(t.high_hz) + 6} y={y(t.swr_limit) + 4}>{Number(t.swr_limit.toFixed(2))}</text>
				{/each}
				<path d={curve} />
			</svg>
			<div>
				<p>{purpose[way.family]}</p>
				{#if way.shortened < 1}
					<p>
						First cut the wire <b>{shorterText(way.shortened)}</b> than it was swept, and sweep it again:
						by scaling it then wants this.
					</p>
				{/if}
				{#if limit !== null}
					<p>
						Worst SWR <b class="mono">{swr(worstOf(way, limit))}</b>; {way.family.startsWith(
							'transformer'
						)
							? 'with an ideal unun and parts of any value'
							: 'with parts of any value'}
						<span class="mono">{swr((way.ideal_excess ?? 0) * limit)}</span>.
					</p>
				{/if}
				{#if way.few_hold}
					<p>Few builds hold: parts as they stray take it over the limit.</p>
				{/if}
				{#if bought.have.length}<p>In your drawer: {bought.have.join(', ')}.</p>{/if}
				{#if bought.buy.length}
					<p>To buy, prices not known: {bought.buy.join('; ')}.</p>
				{/if}
				{#if here}
					<p class="taken">This is on the rulers above.</p>
				{:else}
					<button class="button main" aria-label="Take it: {says}" onclick={ontake}>Take it</button>
				{/if}
			</div>
		</div>
	{/if}
</article>

<style>
	article {
		border-bottom: 1px solid var(--line);
		min-width: 0;
	}
	.here {
		background: var(--selected);
		box-shadow: inset 4px 0 0 var(--copper);
	}
	.line {
		display: grid;
		grid-template-columns: 24px 84px minmax(0, 1fr) repeat(3, 62px);
		gap: 8px;
		align-items: center;
		width: 100%;
		border: 0;
		background: none;
		color: inherit;
		padding: 3px 4px 3px 8px;
		text-align: left;
		cursor: pointer;
		font-size: var(--size-13);
	}
	.number {
		display: grid;
		place-items: center;
		width: 22px;
		height: 22px;
		border-radius: 11px;
		border: 2px solid var(--copper);
		color: var(--copper-ink);
		font: 700 var(--size-12) var(--mono);
	}
	.none {
		border-color: var(--control-edge);
		background: var(--line);
	}
	.name {
		display: grid;
		min-width: 0;
	}
	.value {
		display: grid;
		text-align: right;
	}
	small {
		color: var(--soft);
		font-size: var(--size-12);
		font-family: var(--face);
		font-weight: 400;
	}
	.more {
		display: grid;
		grid-template-columns: minmax(0, 300px) minmax(0, 1fr);
		gap: 14px;
		padding: 4px 8px 10px 40px;
		font-size: var(--size-13);
	}
	.more p {
		margin-bottom: 3px;
	}
	.more svg {
		display: block;
		width: 100%;
	}
	rect {
		fill: var(--verdigris-wash);
	}
	.more line {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
	}
	.more text {
		font: 12px var(--mono);
		fill: var(--enamel);
	}
	.more path {
		fill: none;
		stroke: var(--copper);
		stroke-width: 2;
	}
	.taken {
		color: var(--copper-ink);
		font-weight: 700;
	}
	@media (max-width: 620px) {
		.line {
			grid-template-columns: 24px 84px repeat(3, 1fr);
			min-height: 44px;
		}
		.name {
			grid-column: 2 / -1;
			grid-row: 1;
		}
		.number {
			grid-row: 1;
		}
		.glyph {
			grid-column: 2;
		}
		.more {
			grid-template-columns: 1fr;
			padding-left: 8px;
		}
	}
</style>
