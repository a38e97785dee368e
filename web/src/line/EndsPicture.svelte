<!-- @component
	SWR at the antenna against what is read at the radio, for one matched loss; other losses faint, the ceiling marked.
-->
<script lang="ts">
	import Picture from '../lib/charts/Picture.svelte';
	import { figures, swr } from '../lib/units/format';

	interface Props {
		matchedDb: number;
		radio: number | null;
		load: number | null;
		/** The highest that can be read at the radio; null without loss. */
		highest: number | null;
	}

	let { matchedDb, radio, load, highest }: Props = $props();

	let width = $state(600);
	const height = 300;
	const edge = { left: 44, right: 16, top: 10, bottom: 34 };
	const ticks = [1, 1.5, 2, 3, 5, 10];
	const log = Math.log(10);
	const x = (s: number) => edge.left + ((width - edge.left - edge.right) * Math.log(s)) / log;
	const y = (s: number) =>
		height - edge.bottom - ((height - edge.top - edge.bottom) * Math.log(s)) / log;
	/** |Γ| at the radio is that at the load less twice the loss: the same line for the eye that core sums. */
	function curve(db: number): string {
		const a = 10 ** (-db / 10);
		return Array.from({ length: 90 }, (_, i) => 10 ** (i / 89))
			.map((s) => [s, (a * (s - 1)) / (s + 1)] as const)
			.map(([s, g], i) => `${i ? 'L' : 'M'}${x((1 + g) / (1 - g))},${y(s)}`)
			.join('');
	}
	const others = [0.5, 1, 2, 3, 6];
	const inside = $derived(radio !== null && load !== null && load <= 10 && radio <= 10);
	/** What practice reads off the published chart at 2 : 1 behind 1 dB. */
	const practised = $derived(Math.abs(matchedDb - 1) < 0.05 && Math.abs((radio ?? 0) - 2) < 0.05);
</script>

<Picture title="SWR at the antenna against SWR at the radio">
	<div bind:clientWidth={width}>
		<svg
			{width}
			{height}
			role="img"
			aria-label="SWR {swr(radio)} at the radio is {swr(load)} at the antenna behind {figures(
				matchedDb
			)} dB"
		>
			{#each ticks as tick (tick)}
				<path
					class="net"
					d="M{x(tick)},{edge.top}V{height - edge.bottom}M{edge.left},{y(tick)}H{width -
						edge.right}"
				/>
				<text class="tick" x={x(tick)} y={height - edge.bottom + 15} text-anchor="middle"
					>{tick}</text
				>
				<text class="tick" x={edge.left - 6} y={y(tick) + 4} text-anchor="end">{tick}</text>
			{/each}
			<text class="tick" x={width - edge.right} y={height - 3} text-anchor="end"
				>SWR at the radio</text
			>
			<text class="tick" x={edge.left + 6} y={edge.top + 10}>SWR at the antenna</text>
			<path class="even" d="M{x(1)},{y(1)}L{x(10)},{y(10)}" />
			{#each others as db (db)}
				<path class="other" d={curve(db)} />
				{@const g = 10 ** (-db / 10) * (9 / 11)}
				<text class="tick" x={x((1 + g) / (1 - g)) + 4} y={y(10) + 26}>{db} dB</text>
			{/each}
			<path class="mine" d={curve(matchedDb)} />
			{#if highest !== null && highest < 10}
				<path class="ceiling" d="M{x(highest)},{edge.top}V{height - edge.bottom}" />
				<text class="most" x={x(highest) - 5} y={height - edge.bottom - 8} text-anchor="end"
					>never above {swr(highest)}</text
				>
			{/if}
			{#if inside}
				<path class="road" d="M{x(radio!)},{height - edge.bottom}V{y(load!)}H{edge.left}" />
				<circle class="here" cx={x(radio!)} cy={y(load!)} r="5" />
				<text class="value" x={edge.left + 6} y={y(load!) - 6}>{swr(load)}</text>
				{#if practised}
					<path class="practice" d="M{x(radio!) - 9},{y(2.4)}V{y(2.5)}" />
					<text class="tick" x={x(radio!) + 10} y={y(2.4) + 14}
						>practice reads 2.4 to 2.5 off the chart</text
					>
				{/if}
			{/if}
		</svg>
	</div>
</Picture>

<style>
	svg {
		display: block;
		font-size: var(--size-12);
	}
	path {
		fill: none;
	}
	.net {
		stroke: var(--line);
	}
	.tick {
		fill: var(--soft);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.even {
		stroke: var(--soft);
		stroke-dasharray: 2 4;
	}
	.other {
		stroke: var(--copper-wash);
		stroke-width: 1.5;
	}
	.mine {
		stroke: var(--copper);
		stroke-width: 2.5;
	}
	.ceiling {
		stroke: var(--enamel);
		stroke-dasharray: 3 3;
	}
	.most {
		fill: var(--enamel);
	}
	.road {
		stroke: var(--ink);
		stroke-dasharray: 3 3;
	}
	.here {
		fill: var(--ink);
	}
	.value {
		fill: var(--ink);
		font-weight: 700;
	}
	.practice {
		stroke: var(--blueprint);
		stroke-width: 5;
	}
</style>
