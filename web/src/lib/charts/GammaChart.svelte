<!-- @component
	The chart of Γ: the wire over frequency, the match over frequency, and the road each part takes at the marker.
-->
<script lang="ts">
	import { arcThrough, path } from './curve';
	import Picture from './Picture.svelte';

	interface Curve {
		gamma_real: (number | null)[];
		gamma_imag: (number | null)[];
	}
	interface Point {
		re: number;
		im: number;
	}
	/** One part's way: from, through half of its effect, to; with its name. */
	interface Leg {
		from: Point;
		half: Point;
		to: Point;
		name: string;
	}

	interface Props {
		/** Side of the square, pixels. */
		size: number;
		/** The antenna as measured. */
		antenna: Curve;
		/** With the match; none on the sweep desk. */
		match?: Curve;
		/** Where the marker stands on the antenna. */
		at: Point | null;
		/** What each part does at the marker; empty on the sweep desk. */
		road?: Leg[];
		/** SWR limits to draw as circles. */
		limits: number[];
		/** Which way more and less of one part moves the band; none when left out. */
		sway?: { name: string; present: Curve; more: Curve; less: Curve } | null;
	}

	let { size, antenna, match, at, road = [], limits, sway = null }: Props = $props();

	const margin = 16;
	const radius = $derived(size / 2 - margin);
	const x = $derived((re: number) => size / 2 + re * radius);
	const y = $derived((im: number) => size / 2 - im * radius);
	const circles = [0.2, 0.5, 1, 2, 5];
	const clip = `chart-${Math.random().toString(36).slice(2)}`;
	const end = $derived(road[road.length - 1]?.to ?? at);
	/** Circles of equal SWR, besides the limits. */
	const rings = [1.5, 2, 3, 5];
	const line = $derived((c: Curve) => path(c.gamma_real, c.gamma_imag, x, y));
	/** The ground that the band sweeps over on its way from one to the other. */
	function between(a: Curve, b: Curve): string {
		const back: Curve = {
			gamma_real: [...b.gamma_real].reverse(),
			gamma_imag: [...b.gamma_imag].reverse()
		};
		return `${line(a)}${line(back).replace(/^M/, 'L')}Z`;
	}
	const middle = $derived((c: Curve): Point => {
		const k = Math.floor(c.gamma_real.length / 2);
		return { re: c.gamma_real[k] ?? 0, im: c.gamma_imag[k] ?? 0 };
	});
	const spot = $derived((p: Point) => ({ x: x(p.re), y: y(p.im) }));
</script>

<Picture title="Chart of Γ">
	<svg
		viewBox="0 0 {size} {size}"
		role="img"
		aria-label="Chart of the reflection coefficient; the centre is 50 ohm"
	>
		<defs>
			<clipPath id={clip}><circle cx={size / 2} cy={size / 2} r={radius} /></clipPath>
			<marker
				id="{clip}-arrow"
				viewBox="0 0 10 10"
				refX="13"
				refY="5"
				markerWidth="5"
				markerHeight="5"
				orient="auto"><path class="arrow" d="M0,0L10,5L0,10Z" /></marker
			>
		</defs>
		<g class="net" clip-path="url(#{clip})">
			{#each circles as r (r)}
				<circle cx={x(r / (1 + r))} cy={y(0)} r={radius / (1 + r)} />
				<circle cx={x(1)} cy={y(1 / r)} r={radius / r} />
				<circle cx={x(1)} cy={y(-1 / r)} r={radius / r} />
			{/each}
			<line x1={x(-1)} x2={x(1)} y1={y(0)} y2={y(0)} />
		</g>
		{#each rings as ring (ring)}
			<circle class="ring" cx={size / 2} cy={size / 2} r={(radius * (ring - 1)) / (ring + 1)} />
			<text class="ringed" x={size / 2 + 3} y={y((ring - 1) / (ring + 1)) + 11}>{ring}</text>
		{/each}
		<circle class="rim" cx={size / 2} cy={size / 2} r={radius} />
		{#each limits as limit (limit)}
			<circle class="limit" cx={size / 2} cy={size / 2} r={(radius * (limit - 1)) / (limit + 1)} />
		{/each}
		<path class="antenna" d={path(antenna.gamma_real, antenna.gamma_imag, x, y)} />
		{#if match}
			<path class="match" d={path(match.gamma_real, match.gamma_imag, x, y)} />
		{/if}
		{#if sway}
			<path class="toMore" d={between(sway.present, sway.more)} />
			<path class="toLess" d={between(sway.present, sway.less)} />
			{#each [['more', sway.more], ['less', sway.less]] as const as [said, to] (said)}
				{@const p = middle(to)}
				<path class="end" d={line(to)} />
				<text
					class="leg"
					x={x(p.re) + (p.re > 0.3 ? -6 : 6)}
					y={y(p.im) + 4}
					text-anchor={p.re > 0.3 ? 'end' : 'start'}>{said} {sway.name}</text
				>
			{/each}
		{/if}
		{#each road as leg, i (i)}
			<path
				class="road"
				marker-end="url(#{clip}-arrow)"
				d={arcThrough(spot(leg.from), spot(leg.half), spot(leg.to))}
			/>
			<circle class="stop" cx={x(leg.to.re)} cy={y(leg.to.im)} r="4" />
			{#if !sway}<text
					class="leg"
					x={x(leg.half.re) + (leg.half.re > 0.55 ? -10 : 8)}
					y={y(leg.half.im) + (leg.half.im < 0 ? 16 : -8)}
					text-anchor={leg.half.re > 0.2 ? 'end' : 'start'}>+ {leg.name}</text
				>{/if}
		{/each}
		{#if at}
			<circle class="here" cx={x(at.re)} cy={y(at.im)} r="5" />
			<text
				class="wire"
				x={x(at.re) + (at.re > 0.5 ? -9 : 9)}
				y={y(at.im) - 9}
				text-anchor={at.re > 0.5 ? 'end' : 'start'}>wire</text
			>
		{/if}
		{#if road.length && end}
			<circle class="here" cx={x(end.re)} cy={y(end.im)} r="5" />
		{/if}
	</svg>
</Picture>

<style>
	svg {
		display: block;
		width: 100%;
		max-width: 300px;
		margin: 0 auto;
	}
	.net * {
		fill: none;
		stroke: var(--line);
	}
	.rim {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1.4;
	}
	.limit {
		fill: none;
		stroke: var(--enamel);
		stroke-dasharray: 4 3;
	}
	path {
		fill: none;
		stroke-width: 2.2;
	}
	.antenna {
		stroke: var(--blueprint);
	}
	.match {
		stroke: var(--copper);
		stroke-dasharray: 7 3;
	}
	.road {
		stroke: var(--verdigris);
	}
	.stop,
	path.arrow {
		fill: var(--verdigris);
	}
	path.arrow {
		stroke: none;
	}
	.ring {
		fill: none;
		stroke: var(--control-edge);
		stroke-width: 0.7;
		stroke-dasharray: 1 3;
	}
	text.ringed {
		fill: var(--soft);
	}
	path.toMore,
	path.toLess {
		fill: var(--copper-wash);
		fill-opacity: 0.8;
		stroke: none;
	}
	path.toLess {
		fill: var(--blueprint-wash);
	}
	path.end {
		stroke: var(--ink);
		stroke-width: 1.6;
	}
	.here {
		fill: var(--ink);
	}
	text {
		font-size: var(--size-12);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.leg {
		fill: var(--verdigris);
	}
	.wire {
		fill: var(--ink);
	}
</style>
