<!-- @component
	The antenna system as it hangs: sky above, radio below; a ribbon as wide as the watts in it, heat branching off.
-->
<script lang="ts">
	import { impedance, swr, watts } from '../units/format';

	/** A station of the drop, from the top. */
	interface Stop {
		key: string;
		title: string;
		detail: string;
		/** Seen looking up at the marker; null where it is not known, SWR left out then. */
		resistance: number | null;
		reactance: number | null;
		swr: number | null | undefined;
		/** Watts that go up past it, and those it turns to heat. */
		watts: number | null;
		heat: number | null;
		measured: boolean;
		/** Where a click leads; nowhere when left out. */
		href?: string;
		here: boolean;
	}

	interface Props {
		stops: Stop[];
		/** Watts that go in at the radio. */
		powerW: number;
		/** SWR that is still good. */
		limit: number;
	}

	let { stops, powerW, limit }: Props = $props();

	let height = $state(600);
	const full = 34;
	const topPad = 22;
	const bottomPad = 26;
	const run = $derived(Math.max(120, height - topPad - bottomPad));
	const rows = $derived(
		stops.map((stop, i) => ({ ...stop, y: topPad + (run * (i + 0.5)) / stops.length }))
	);
	const widthOf = (w: number | null) => Math.max(2, (full * (w ?? 0)) / powerW);
	const known = $derived(stops.every((s) => s.watts !== null));
	// The right edge of the ribbon stays; the left edge moves in where watts leave as heat.
	const ribbon = $derived.by(() => {
		const edge = 92;
		let left = `M${edge},${topPad}L${edge},${topPad + run}`;
		let w = powerW;
		left += `L${edge - widthOf(w)},${topPad + run}`;
		for (const row of [...rows].reverse()) {
			left += `L${edge - widthOf(w)},${row.y + 14}`;
			w -= row.heat ?? 0;
			left += `L${edge - widthOf(w)},${row.y - 14}`;
		}
		return `${left}L${edge - widthOf(w)},${topPad}Z`;
	});
	const heats = $derived.by(() => {
		let w = powerW;
		return [...rows].reverse().map((row) => {
			const x = 92 - widthOf(w);
			w -= row.heat ?? 0;
			return { key: row.key, heat: row.heat ?? 0, x, y: row.y };
		});
	});
	const lost = $derived(stops.reduce((sum, s) => sum + (s.heat ?? 0), 0));
</script>

<section class="drop" bind:clientHeight={height} aria-label="The antenna system">
	{#if known}
		<svg width="100" {height} aria-hidden="true">
			<defs>
				<linearGradient id="up" x1="0" y1="0" x2="0" y2="1">
					<stop offset="0" stop-color="var(--verdigris)" />
					<stop offset="1" stop-color="var(--copper)" />
				</linearGradient>
			</defs>
			<path d={ribbon} fill="url(#up)" />
			{#each heats as h (h.key)}
				{#if h.heat >= 0.05}
					{@const w = Math.max(1.5, (full * h.heat) / powerW)}
					<path
						class="heat"
						d="M{h.x + 1},{h.y + 14}C{h.x - 2},{h.y + 2} {h.x - 10},{h.y + w / 2} {h.x - 22},{h.y +
							w / 2}L{h.x - 22},{h.y - w / 2}C{h.x - 8},{h.y - w / 2} {h.x + 1},{h.y - 6} {h.x +
							2},{h.y - 14}Z"
					/>
					<text class="lost" x="0" y={h.y - 8 - w / 2}>{watts(h.heat)}</text>
				{/if}
			{/each}
			<text class="in" x="92" y={height - 8} text-anchor="end">{watts(powerW)}</text>
			<text class="out" x="0" y="14">{watts(stops[0]?.watts)} into the wire</text>
		</svg>
	{:else}
		<svg width="100" {height} aria-hidden="true">
			<path class="bare" d="M78,{topPad}V{topPad + run}" />
		</svg>
	{/if}
	<ol>
		{#each rows as row (row.key)}
			<li style:top="{row.y}px" class:here={row.here} class:modelled={!row.measured}>
				<svelte:element this={row.href ? 'a' : 'div'} href={row.href} class="card">
					<strong>{row.title}</strong>
					<small>{row.detail}</small>
					<span class="mono seen">
						<span>{impedance(row.resistance, row.reactance)}</span>
						{#if row.swr !== undefined}<b
								class:good={row.swr !== null && row.swr <= limit}
								title="SWR">{swr(row.swr)}</b
							>{/if}
					</span>
				</svelte:element>
			</li>
		{/each}
	</ol>
	{#if known}<p class="sum">{watts(lost)} lost as heat</p>{/if}
</section>

<style>
	.drop {
		position: relative;
		min-height: 420px;
	}
	svg {
		position: absolute;
		left: 0;
		top: 0;
		overflow: visible;
	}
	.bare {
		stroke: var(--copper);
		stroke-width: 2;
		stroke-dasharray: 6 5;
	}
	.heat {
		fill: var(--heat);
	}
	text {
		font-size: var(--size-12);
	}
	.lost {
		fill: var(--heat-ink);
		font-family: var(--mono);
	}
	.in {
		fill: var(--copper-ink);
		font-weight: 700;
	}
	.out {
		fill: var(--verdigris);
		font-weight: 700;
	}
	ol {
		list-style: none;
		padding: 0;
	}
	li {
		position: absolute;
		left: 106px;
		right: 0;
		transform: translateY(-50%);
	}
	.card {
		display: block;
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: var(--radius);
		padding: 7px 10px;
		color: var(--ink);
		text-decoration: none;
	}
	.modelled .card {
		border-style: dashed;
		border-color: var(--control-edge);
	}
	.here .card {
		border: 2px solid var(--copper);
		background: var(--selected);
	}
	strong,
	small {
		display: block;
	}
	small {
		color: var(--soft);
		font-size: var(--size-12);
	}
	.seen {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 0 4px;
		font-size: var(--size-12);
		white-space: nowrap;
	}
	.seen b {
		color: var(--enamel);
	}
	.seen b.good {
		color: var(--verdigris);
	}
	.sum {
		position: absolute;
		bottom: 4px;
		left: 106px;
		font-size: var(--size-12);
		color: var(--soft);
	}
	@media (max-width: 900px) {
		.drop {
			min-height: 460px;
		}
	}
</style>
