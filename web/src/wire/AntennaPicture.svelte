<!-- @component
	The antenna from the side, to scale: its supports, the ground, a person for size; current as a swelling round the
	wire, voltage dotted, and where not to touch. Its places are dragged, or moved by keys.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import Picture from '../lib/charts/Picture.svelte';
	import { distance, quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { dangerous, outline, swelling, viewOf, type View } from './side';
	import { type Labels, numberText } from './words';

	type Sketch = Schemas['SketchOut'];
	type Held = Schemas['HeldOut'];

	interface Props {
		/** What is drawn; in metres, from the side. */
		sketch: Sketch;
		/** Names of its numbers, by their keys. */
		labels: Labels;
		/** What is under it, in words. */
		soil: string;
		/** Whether a place is on its way still. */
		moving: boolean;
		/** A place taken to a point; settled when let go. */
		onmove: (handle: string, xM: number, zM: number, settled: boolean) => void;
	}

	let { sketch, labels, soil, moving, onmove }: Props = $props();

	let width = $state(640);
	const height = $derived(width < 500 ? 280 : 300);
	const picture = $derived(sketch.picture);
	let held = $state.raw<View | null>(null);
	let dragging = $state<string | null>(null);
	/** Where the hand is, until the answer is there. */
	let hand = $state.raw<{ x: number; z: number } | null>(null);
	// A picture never rescales while something is dragged.
	const view = $derived(held ?? viewOf(picture, width, height));
	const most = $derived(Math.max(...picture.wires.flatMap((w) => w.current_a as number[]), 1e-9));
	const volts = $derived(picture.highest_v ?? 0);
	const reach = $derived(picture.within_reach_v ?? 0);
	const told = $derived(
		`The antenna from the side. Most voltage ${quantity(volts, 'V')} peak` +
			(reach > sketch.touch_v ? `; within reach ${quantity(reach, 'V')}` : '')
	);

	function point(event: PointerEvent): { x: number; z: number } {
		const box = (event.currentTarget as Element).closest('svg')?.getBoundingClientRect();
		return {
			x: view.xOf(event.clientX - (box?.left ?? 0)),
			z: view.zOf(event.clientY - (box?.top ?? 0))
		};
	}
	function take(event: PointerEvent, key: string): void {
		event.preventDefault();
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		held = view;
		dragging = key;
	}
	function move(event: PointerEvent): void {
		if (!dragging) return;
		hand = point(event);
		onmove(dragging, hand.x, hand.z, false);
	}
	function drop(event: PointerEvent): void {
		if (dragging && hand) {
			hand = point(event);
			onmove(dragging, hand.x, hand.z, true);
		}
		dragging = held = hand = null;
	}

	// Keys go from where the last one went, not from the answer that is under way.
	let keyed: { key: string; x: number; z: number } | null = null;
	function key(event: KeyboardEvent, place: Held): void {
		const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
			event.key
		];
		if (!way) return;
		event.preventDefault();
		const step = (units.length === 'ft' ? 0.0508 : 0.05) * (event.shiftKey ? 10 : 1);
		const from = moving && keyed?.key === place.key ? keyed : { x: place.x_m, z: place.z_m };
		keyed = { key: place.key, x: from.x + step * (way[0] ?? 0), z: from.z + step * (way[1] ?? 0) };
		onmove(place.key, keyed.x, keyed.z, false);
	}
	function keyUp(event: KeyboardEvent): void {
		if (!event.key.startsWith('Arrow')) return;
		if (keyed) onmove(keyed.key, keyed.x, keyed.z, true);
	}
	const numbersOf = (place: Held) =>
		place.numbers
			.map((name) => {
				const number = labels[name];
				const value = sketch.antenna.numbers[name];
				return number && value !== undefined
					? `${number.label} ${numberText(number.unit, value, units.length)}`
					: '';
			})
			.join(', ');
	// Beside the end where there is room, else above it.
	const peak = $derived.by(() => {
		const x = view.x(picture.highest.x_m);
		const y = view.z(picture.highest.z_m);
		const outwards = picture.highest.x_m < picture.feed.x_m - 0.05 ? -1 : 1;
		if (outwards < 0 && x > 110) return { x: x - 16, y: y + 4, anchor: 'end' as const };
		if (outwards > 0 && width - x > 110) return { x: x + 16, y: y + 4, anchor: 'start' as const };
		return { x: width - 4, y: Math.max(14, y - 36), anchor: 'end' as const };
	});
	/** The feedpoint hangs at the left: what is said of reach stands at the right. */
	const left = $derived(view.x(picture.feed.x_m) < width / 2 - 60);
	const personX = $derived(
		view.x(view.middle) + (Math.abs(picture.feed.x_m - view.middle) < 1.5 ? 46 : 0)
	);
</script>

<div class="side" bind:clientWidth={width}>
	<Picture title="The antenna from the side">
		<svg {width} {height} role="group" aria-label={told}>
			<rect class="earth" x="0" y={view.z(0)} {width} height={Math.max(0, height - view.z(0))} />
			<line class="ground" x1="0" x2={width} y1={view.z(0)} y2={view.z(0)} />
			<text class="soft" x="10" y={Math.min(height - 8, view.z(0) + 20)}>{soil}</text>
			{#each picture.supports as s, i (i)}
				{#if s.tied}
					<path
						class="rope"
						d="M{view.x(s.x_m)},{view.z(s.z_m)}L{view.x(s.x_m) +
							Math.sign(s.x_m - view.middle) * Math.min(30, view.px(s.z_m) * 0.5)},{view.z(0)}"
					/>
				{:else}
					<rect
						class="pole"
						x={view.x(s.x_m) - 3}
						y={view.z(s.z_m) - 5}
						width="6"
						height={view.px(s.z_m) + 5}
					/>
				{/if}
			{/each}
			<g class="person" transform="translate({personX},{view.z(0)}) scale({view.px(1.75) / 100})">
				<circle cx="0" cy="-91" r="9" />
				<path d="M0,-82V-42M0,-74L-20,-52M0,-74L20,-52M0,-42L-14,0M0,-42L14,0" />
			</g>
			{#each picture.wires as wire, i (i)}
				<path class="current" d={swelling(wire, view, most)} />
			{/each}
			<path
				class="feeder"
				d="M{view.x(picture.feed.x_m)},{view.z(picture.feed.z_m)}V{view.z(0)}"
				class:gone={picture.feed.z_m < 0.05}
			/>
			{#each picture.wires as wire, i (i)}
				<path class="reached" d={dangerous(wire, view, sketch.touch_v, sketch.reach_m)} />
				<path class="wire" d={outline(wire.x_m, wire.z_m, view)} />
				<path class="volts" d={swelling(wire, view, volts, true)} />
			{/each}
			{#each picture.coils as coil, i (i)}
				<g
					class="coil"
					data-part={coil.part}
					transform="translate({view.x(coil.x_m)},{view.z(coil.z_m)})"
				>
					<rect x="-7" y="-11" width="14" height="22" rx="4" />
					<path
						d={coil.part === 'trap' ? 'M-7,0H-2M2,0H7M-2,-6V6M2,-6V6' : 'M-7,-5H7M-7,0H7M-7,5H7'}
					/>
				</g>
			{/each}
			<circle class="feed" cx={view.x(picture.feed.x_m)} cy={view.z(picture.feed.z_m)} r="5" />
			<text class="danger" x={peak.x} y={peak.y} text-anchor={peak.anchor}
				>{quantity(volts, 'V')} peak</text
			>
			{#if reach > sketch.touch_v}
				<g class="reach">
					<line x1="0" x2={width} y1={view.z(sketch.reach_m)} y2={view.z(sketch.reach_m)} />
					<text
						class="danger"
						x={left ? width - 4 : 8}
						y={view.z(sketch.reach_m) - 5}
						text-anchor={left ? 'end' : 'start'}>within reach: {quantity(reach, 'V')}</text
					>
				</g>
			{/if}
			{#each picture.handles as place (place.key)}
				{@const at = dragging === place.key && hand ? hand : { x: place.x_m, z: place.z_m }}
				<g
					class="handle"
					class:dragging={dragging === place.key}
					role="button"
					tabindex="0"
					data-handle={place.key}
					data-free
					aria-label="{place.label}: {numbersOf(place)}. Arrow keys move it."
					transform="translate({view.x(at.x)},{view.z(at.z)})"
					onpointerdown={(event) => take(event, place.key)}
					onpointermove={move}
					onpointerup={drop}
					onpointercancel={() => (dragging = held = hand = null)}
					onkeydown={(event) => key(event, place)}
					onkeyup={keyUp}
				>
					<circle class="touch" r="22" />
					<circle class="knob" r="8" />
				</g>
			{/each}
			{#if dragging}
				{@const place = picture.handles.find((h) => h.key === dragging)}
				{#if place}
					<text class="now" x="12" y="20">{numbersOf(place)}</text>
				{/if}
			{/if}
		</svg>
	</Picture>
	<p class="key told">
		<span
			><svg width="26" height="10" aria-hidden="true"
				><path class="current" d="M0,5Q13,-4 26,5Q13,14 0,5Z" /></svg
			> current</span
		>
		<span
			><svg width="26" height="10" aria-hidden="true"><path class="volts" d="M0,5H26" /></svg> voltage:
			do not touch while transmitting</span
		>
		<span class="soft"
			>person {distance(1.75, units.length)}; {distance(view.metre, units.length)} is
			<svg class="scale" width={view.px(view.metre)} height="8" aria-hidden="true"
				><path d="M0.5,0V8M0,4H{view.px(view.metre)}M{view.px(view.metre) - 0.5},0V8" /></svg
			></span
		>
	</p>
</div>

<style>
	.side {
		min-width: 0;
		overflow: hidden;
	}
	svg {
		display: block;
		font-size: var(--size-12);
		user-select: none;
	}
	.key svg {
		display: inline-block;
		vertical-align: middle;
	}
	.key {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 16px;
		font-size: var(--size-12);
	}
	.scale path {
		stroke: var(--soft);
		fill: none;
	}
	.earth {
		fill: var(--tape-wash);
		opacity: 0.45;
	}
	.ground {
		stroke: var(--core-edge);
		stroke-width: 1.5;
	}
	.pole {
		fill: var(--core);
	}
	.rope,
	.feeder {
		fill: none;
		stroke: var(--soft);
		stroke-width: 1.2;
	}
	.feeder {
		stroke-width: 2.5;
	}
	.gone {
		display: none;
	}
	.person circle,
	.person path {
		fill: none;
		stroke: var(--soft);
		stroke-width: 6;
		stroke-linecap: round;
	}
	.current {
		fill: var(--copper-wash);
	}
	.reached {
		fill: none;
		stroke: var(--enamel);
		stroke-width: 8;
		stroke-linecap: round;
		opacity: 0.4;
	}
	.wire {
		fill: none;
		stroke: var(--blueprint);
		stroke-width: 3;
		stroke-dasharray: 8 4;
	}
	.volts {
		fill: none;
		stroke: var(--enamel);
		stroke-width: 1.8;
		stroke-dasharray: 1.5 4;
		stroke-linecap: round;
	}
	.coil rect {
		fill: var(--sheet);
		stroke: var(--copper);
		stroke-width: 2;
	}
	.coil path {
		stroke: var(--copper);
		stroke-width: 1.5;
	}
	.feed {
		fill: var(--ink);
	}
	text {
		fill: var(--ink);
	}
	text.soft {
		fill: var(--soft);
	}
	text.danger {
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4;
		fill: var(--enamel);
		font-weight: 700;
	}
	.reach line {
		stroke: var(--enamel);
		stroke-dasharray: 2 6;
	}
	.now {
		font-weight: 700;
		font-size: var(--size-14);
	}
	.handle {
		cursor: grab;
		touch-action: none;
	}
	.handle:focus-visible {
		outline: none;
	}
	.handle:focus-visible .knob {
		stroke: var(--blueprint);
		stroke-width: 5;
	}
	.dragging {
		cursor: grabbing;
	}
	.touch {
		fill: transparent;
	}
	.knob {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 2.5;
	}
	@media print {
		.handle {
			display: none;
		}
	}
</style>
