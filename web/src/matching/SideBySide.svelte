<!-- @component
	Every network at its best, side by side: its curve, what it holds, and its parts.
-->
<script lang="ts">
	import { scaleLinear, scaleLog } from 'd3-scale';

	import { type Candidate, type Content, type Prediction } from '../lib/api/client';
	import { predict } from '../lib/api/predict';
	import { latest } from '../lib/api/latest.svelte';
	import { path } from '../lib/charts/curve';
	import Picture from '../lib/charts/Picture.svelte';
	import { percent, quantity, swr, watts } from '../lib/units/format';
	import { parts, sameShape, shapeName, shapeOf, valueOf } from '../design/content';

	interface Props {
		candidates: Candidate[];
		/** The design shown; its network is marked. */
		content: Content;
		/** Frequency at the left and right edge, Hz. */
		range: { lowHz: number; highHz: number };
		powerW: number;
		ontake: (candidate: Candidate) => void;
	}

	let { candidates, content, range, powerW, ontake }: Props = $props();

	const made = $derived(candidates.filter((c) => c.content));
	const predictions = latest(
		() => ({ made, power_w: powerW, low_hz: range.lowHz, high_hz: range.highHz }),
		async ({ made, ...frame }) => {
			const all = made.map(async (c) => {
				const body = { content: c.content as Content, ...frame, points: 101, carried: false };
				return [shapeName(c), await predict(body)] as const;
			});
			return Object.fromEntries(await Promise.all(all)) as Record<string, Prediction>;
		}
	);
	const found = $derived(predictions.value ?? {});

	const width = 200;
	const height = 96;
	const x = $derived(scaleLinear([range.lowHz, range.highHz], [0, width]));
	const y = scaleLog([1, 10], [height - 2, 2]);
	const curve = (p: Prediction | undefined) => {
		const box = p?.stations[p.box];
		return box
			? path(
					box.frequency_hz,
					box.swr.map((v) => Math.min(v ?? 10, 10)),
					x,
					y
				)
			: '';
	};
</script>

<section class="sheet" aria-label="Networks side by side">
	<h2>The networks side by side, SWR at the match</h2>
	<div class="cards">
		{#each made as c (shapeName(c))}
			{@const here = sameShape(c, shapeOf(content))}
			<article class:here>
				<h3>{shapeName(c)}</h3>
				<Picture title="SWR of {shapeName(c)}">
					<svg
						viewBox="0 0 {width} {height}"
						role="img"
						aria-label="SWR of {shapeName(c)}, worst {swr(c.worst_swr)}"
					>
						{#each content.targets as t, nth (nth)}
							<rect
								x={x(t.low_hz)}
								width={Math.max(1.5, x(t.high_hz) - x(t.low_hz))}
								y="0"
								{height}
							/>
							<line
								x1={x(t.low_hz) - 6}
								x2={x(t.high_hz) + 6}
								y1={y(t.swr_limit)}
								y2={y(t.swr_limit)}
							/>
						{/each}
						<path d={curve(found[shapeName(c)])} />
					</svg>
				</Picture>
				<p>
					worst <b class="mono">{swr(c.worst_swr)}</b>, {c.share === null || c.share === undefined
						? '–'
						: percent(c.share)} hold, {watts(c.heat_w)} heat
				</p>
				<p class="soft">
					{parts(c.content as Content)
						.map((p) => `${p.place} ${quantity(valueOf(p), p.kind === 'coil' ? 'H' : 'F')}`)
						.join(', ')}
				</p>
				{#if here}
					<p class="soft">shown above</p>
				{:else}
					<button class="button" aria-label="Take it: {shapeName(c)}" onclick={() => ontake(c)}
						>Take it</button
					>
				{/if}
			</article>
		{/each}
	</div>
</section>

<style>
	h2 {
		font-size: var(--size-14);
		margin-bottom: 6px;
	}
	h3 {
		font-size: var(--size-13);
	}
	.cards {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
		gap: 10px;
	}
	article {
		border: 1px solid var(--line);
		border-radius: 6px;
		padding: 8px;
		display: grid;
		gap: 3px;
		align-content: start;
		font-size: var(--size-13);
	}
	.here {
		border: 2px solid var(--copper);
		background: var(--selected);
	}
	svg {
		display: block;
		width: 100%;
	}
	rect {
		fill: var(--verdigris-wash);
	}
	line {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
	}
	path {
		fill: none;
		stroke: var(--copper);
		stroke-width: 2;
	}
</style>
