<!-- @component
	The wire as it hangs, to scale in itself: its pieces from the feedpoint outwards, their lengths, folds and bands.
-->
<script lang="ts">
	import { type Form, isUpright } from './forms';
	import Picture from '../lib/charts/Picture.svelte';
	import { length, megahertz } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';

	interface Piece {
		label: string;
		target_hz: number;
		/** From the feedpoint to where the band ends, folds included. */
		leg_m: number;
		folded_m: number;
		dip_hz?: number | null;
		settled?: boolean;
	}

	interface Props {
		form: Form;
		links: Piece[];
		nested: boolean;
		/** Whether it hangs already; as planned is dashed. */
		hung: boolean;
		/** The band that is looked at. */
		chosen?: number;
		corners?: 3 | 4;
	}

	let { form, links, nested, hung, chosen = 0, corners = 4 }: Props = $props();

	const width = 254;
	const height = 640;
	const longest = $derived(Math.max(...links.map((l) => l.leg_m), 1e-6));
	const upright = $derived(isUpright(form));
	/** Fed at one end: drawn from there, not from a middle. */
	const oneEnded = $derived(form === 'end-fed' || form === 'any-length');
	const legged = $derived(form.endsWith('dipole'));
	const feed = $derived(
		upright ? { x: 70, y: 520 } : oneEnded ? { x: 24, y: 190 } : { x: width / 2, y: 190 }
	);
	const scale = $derived((upright ? 430 : oneEnded ? 210 : 108) / longest);
	const starts = $derived(
		links.map((_, i) => (i === 0 || nested ? 0 : (links[i - 1]?.leg_m ?? 0)))
	);
	const lift = (i: number) => (nested ? 16 * i : 0);
	/** Nothing hangs yet, and no length is told. */
	const shown = (m: number, times = '') =>
		m > 0 ? `${times}${length(m, units.length)}` : 'not hung yet';
	const told = $derived(
		links
			.map((l) =>
				l.leg_m === 0
					? `${l.label}: not hung yet`
					: `${l.label}: ${legged ? 'each leg' : 'wire'} ${length(l.leg_m, units.length)}${l.folded_m > 0 ? `, ${length(l.folded_m, units.length)} folded` : ''}`
			)
			.join('; ')
	);
</script>

<div class="sheet wire">
	<Picture title={told}>
		<svg viewBox="0 0 {width} {height}" role="img" aria-label={told}>
			<line class="ground" x1="0" x2={width} y1={height - 36} y2={height - 36} />
			{#if form === 'loop'}
				{#if corners === 3}
					<path class="leg" class:planned={!hung} d="M127,90L227,260H27Z" />
				{:else}
					<path class="leg" class:planned={!hung} d="M37,80h180v180h-180z" />
				{/if}
				<path class="feeder" d="M127,260V{height - 60}" />
				<circle class="point" cx="127" cy="260" r="5" />
				<text x="137" y="286">{shown(links[0]?.leg_m ?? 0)}{links[0]?.leg_m ? ' round' : ''}</text>
			{:else if upright}
				<path class="feeder" d="M{feed.x},{feed.y}V{height - 60}" />
				<path class="radial" d="M{feed.x - 45},{feed.y + 22}L{feed.x},{feed.y}l90,22" />
				{#each links as link, i (i)}
					<path
						class="leg"
						class:planned={!hung}
						class:chosen={i === chosen && links.length > 1}
						d="M{feed.x + lift(i)},{feed.y - (starts[i] ?? 0) * scale}V{feed.y -
							link.leg_m * scale}"
					/>
					{#if link.folded_m > 0}
						<path
							class="fold"
							d="M{feed.x + lift(i)},{feed.y - link.leg_m * scale}h7v{Math.max(
								8,
								link.folded_m * scale
							)}"
						/>
					{/if}
					<circle class="end" cx={feed.x + lift(i)} cy={feed.y - link.leg_m * scale} r="3.5" />
					<text x={feed.x + 22 + lift(i)} y={feed.y - link.leg_m * scale + (i === 0 ? 14 : 2)}
						>{link.label}</text
					>
					<text
						class="mono"
						x={feed.x + 22 + lift(i)}
						y={feed.y - link.leg_m * scale + (i === 0 ? 30 : 18)}>{shown(link.leg_m)}</text
					>
				{/each}
				<circle class="point" cx={feed.x} cy={feed.y} r="5" />
			{:else}
				<path class="feeder" d="M{feed.x},{feed.y}V{height - 60}" />
				{#each links as link, i (i)}
					{#each oneEnded ? [1] : [-1, 1] as side (side)}
						<path
							class="leg"
							class:planned={!hung}
							class:chosen={i === chosen && links.length > 1}
							d="M{feed.x + side * (4 + (starts[i] ?? 0) * scale)},{feed.y + lift(i)}H{feed.x +
								side * link.leg_m * scale}"
						/>
						{#if link.folded_m > 0}
							<path
								class="fold"
								d="M{feed.x + side * link.leg_m * scale},{feed.y + lift(i)}v6h{-side *
									Math.max(8, link.folded_m * scale)}"
							/>
						{/if}
						<circle
							class="end"
							cx={feed.x + side * link.leg_m * scale}
							cy={feed.y + lift(i)}
							r="3.5"
						/>
					{/each}
					{@const y = feed.y - 22 - 34 * (links.length - 1 - i)}
					<text x={width / 2} {y} text-anchor="middle" class:soft={i !== chosen}
						>{link.label}{link.settled ? ' ✓' : ''}:
						<tspan class="mono"> {shown(link.leg_m, oneEnded ? '' : '2 × ')}</tspan></text
					>
					<text class="soft" x={width / 2} y={y + 15} text-anchor="middle"
						>{link.folded_m > 0
							? `${length(link.folded_m, units.length)} of it folded`
							: `${link.dip_hz ? `dip ${megahertz(link.dip_hz)} MHz` : ''}`}</text
					>
				{/each}
				<circle class="point" cx={feed.x} cy={feed.y} r="5" />
			{/if}
			<rect
				class="radio"
				x={Math.max(2, feed.x - 30)}
				y={height - 60}
				width="60"
				height="24"
				rx="4"
			/>
			<text class="soft" x={Math.max(32, feed.x)} y={height - 44} text-anchor="middle">radio</text>
			<text class="soft" x="6" y={height - 12}
				>{hung ? 'as it hangs' : 'as planned'}{form === 'loop' || longest < 1e-3
					? ''
					: `, longest ${legged ? 'leg' : 'wire'} ${length(longest, units.length)}`}</text
			>
		</svg>
	</Picture>
</div>

<style>
	.wire {
		padding: 0;
		overflow: hidden;
		display: grid;
	}
	svg {
		width: 100%;
		height: 100%;
		max-height: 100%;
		font-size: 12px;
	}
	/* In one column, and on paper, it keeps to its panel. */
	@media (max-width: 1050px) {
		svg {
			width: 206px;
			margin: 0 auto;
			display: block;
		}
	}
	@media print {
		svg {
			width: 180px;
		}
	}
	.leg {
		fill: none;
		stroke: var(--blueprint);
		stroke-width: 3;
	}
	.leg.chosen {
		stroke: var(--copper);
		stroke-width: 4;
	}
	.planned {
		stroke-dasharray: 7 5;
	}
	.fold {
		fill: none;
		stroke: var(--copper);
		stroke-width: 2.5;
	}
	.end,
	.point {
		fill: var(--ink);
	}
	.feeder {
		fill: none;
		stroke: var(--soft);
		stroke-width: 2;
	}
	.radial {
		fill: none;
		stroke: var(--soft);
		stroke-width: 1.5;
	}
	.ground {
		stroke: var(--line);
		stroke-width: 2;
	}
	.radio {
		fill: var(--paper);
		stroke: var(--control-edge);
	}
	text {
		fill: var(--ink);
	}
	text.soft {
		fill: var(--soft);
	}
	/* Drawn smaller on a phone: its words stay as large as they can be read. */
	@media (max-width: 620px) {
		text {
			font-size: 15px;
		}
	}
</style>
