<!-- @component
	A value on a ruler: what one makes above, what it is below; dragged, stepped by keys and buttons.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	interface Mark {
		/** Value in SI at the mark. */
		value: number;
		/** What is printed over it; empty for a bare mark. */
		text: string;
	}

	interface Props {
		/** Name for screen readers. */
		label: string;
		/** The value, SI. */
		value: number;
		/** How the value reads, with its unit. */
		valueText: string;
		/** Value at each end of the ruler, SI. */
		low: number;
		high: number;
		/** Marks of what one makes. */
		makes: Mark[];
		/** Turns a value into the number printed below, as in 1e6 for µH. */
		perUnit: number;
		/** Name of the unit below, as in µH. */
		unit: string;
		/** Copper for the coil, verdigris for the capacitor. */
		hue: 'copper' | 'verdigris';
		/** Called while dragged, and with `settled` when let go or stepped. */
		onchange: (value: number, settled: boolean) => void;
	}

	let { label, value, valueText, low, high, makes, perUnit, unit, hue, onchange }: Props = $props();

	let width = $state(240);
	let dragging = $state(false);
	const x = $derived(scaleLinear([low, high], [8, Math.max(60, width - 8)]).clamp(true));
	const numbers = $derived(
		scaleLinear([low * perUnit, high * perUnit], [0, 1]).ticks(Math.max(3, width / 46))
	);
	const fine = $derived(
		scaleLinear([low * perUnit, high * perUnit], [0, 1]).ticks(Math.max(12, width / 9))
	);

	function moved(event: PointerEvent, settled: boolean): void {
		const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
		onchange(x.invert(event.clientX - box.left), settled);
	}

	/** A step is one mark of what is made, half a turn or a centimetre; a fine one a tenth of that. */
	export function step(way: 1 | -1, fine = false): void {
		const marks = makes.map((m) => m.value);
		const part = fine ? 0.1 : 1;
		if (marks.length < 2) {
			onchange(value * (1 + way * 0.01 * part), true);
			return;
		}
		let at = 0;
		for (let i = 1; i < marks.length - 1; i++) if ((marks[i] ?? 0) <= value) at = i;
		const size = (marks[at + 1] ?? 0) - (marks[at] ?? 0);
		onchange(Math.min(high, Math.max(low, value + way * size * part)), true);
	}

	function keyed(event: KeyboardEvent): void {
		const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
		if (way === undefined) return;
		event.preventDefault();
		step(way as 1 | -1, event.shiftKey);
	}
</script>

<div
	class="ruler {hue}"
	bind:clientWidth={width}
	role="slider"
	tabindex="0"
	aria-label={label}
	aria-valuemin={low * perUnit}
	aria-valuemax={high * perUnit}
	aria-valuenow={value * perUnit}
	aria-valuetext={valueText}
	onkeydown={keyed}
	onpointerdown={(event) => {
		dragging = true;
		event.currentTarget.setPointerCapture(event.pointerId);
		moved(event, false);
	}}
	onpointermove={(event) => dragging && moved(event, false)}
	onpointerup={(event) => {
		if (dragging) moved(event, true);
		dragging = false;
	}}
	onpointercancel={() => (dragging = false)}
>
	<svg {width} height="68" aria-hidden="true">
		<rect class="body" x="0.5" y="19.5" width={width - 1} height="29" rx="3" />
		{#each makes as mark (mark.value)}
			{#if mark.value >= low && mark.value <= high}
				<line class="make" x1={x(mark.value)} x2={x(mark.value)} y1="20" y2={mark.text ? 30 : 26} />
				<text x={x(mark.value)} y="14" text-anchor="middle">{mark.text}</text>
			{/if}
		{/each}
		{#each fine as tick (tick)}
			<line class="fine" x1={x(tick / perUnit)} x2={x(tick / perUnit)} y1="48" y2="43" />
		{/each}
		{#each numbers as tick (tick)}
			<line class="fine" x1={x(tick / perUnit)} x2={x(tick / perUnit)} y1="48" y2="38" />
			{#if x(tick / perUnit) > 14 && x(tick / perUnit) < width - 32}
				<text x={x(tick / perUnit)} y="62" text-anchor="middle">{Number(tick.toPrecision(6))}</text>
			{/if}
		{/each}
		<text class="unit" x={width - 2} y="62" text-anchor="end">{unit}</text>
		<g class="handle" transform="translate({x(value)},0)">
			<rect x="-6" y="15" width="12" height="38" rx="3" />
			<line y1="22" y2="46" />
		</g>
	</svg>
</div>

<style>
	.ruler {
		touch-action: none;
		cursor: ew-resize;
		user-select: none;
		border-radius: 4px;
		min-width: 0;
	}
	svg {
		display: block;
	}
	.body {
		fill: var(--tape-wash);
		stroke: var(--tape);
	}
	.make {
		stroke: var(--ink);
		stroke-width: 1.4;
	}
	.fine {
		stroke: var(--soft);
		stroke-width: 0.8;
	}
	text {
		font: var(--size-12) var(--mono);
		fill: var(--ink);
	}
	.unit {
		fill: var(--soft);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 6px;
	}
	.handle rect {
		fill: var(--hue);
	}
	.handle line {
		stroke: var(--sheet);
		stroke-width: 2;
	}
	.copper {
		--hue: var(--copper);
	}
	.verdigris {
		--hue: var(--verdigris);
	}
</style>
