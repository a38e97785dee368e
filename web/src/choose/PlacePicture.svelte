<!-- @component
	The place: one support or two, the ground, how far wires may reach. Tops are dragged, or stepped by keys.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import { distance, type LengthUnit } from '../lib/units/format';

	type Place = Required<Omit<Schemas['PlaceIn'], 'stock' | 'soil'>>;
	interface Props {
		place: Place;
		/** What the first support holds a wire at. */
		topM: number | null;
		unit: LengthUnit;
		onplace: (changes: Partial<Place>, settled: boolean) => void;
	}

	let { place, topM, unit, onplace }: Props = $props();

	let width = $state(226);
	const height = 168;
	const two = $derived(place.other_m > 0);
	const wideM = $derived(Math.max(place.width_m, place.span_m, 4) * 1.12);
	const highM = $derived(Math.max(place.high_m, place.other_m, 4) * 1.3);
	/** It stays while one drags. */
	let scale = $state.raw({ wide: 1, high: 1 });
	let dragging = $state<'first' | 'other' | null>(null);
	$effect(() => {
		const now = { wide: wideM, high: highM };
		if (!dragging) scale = now;
	});
	const px = $derived(Math.min((width - 60) / scale.wide, (height - 34) / scale.high));
	const ground = height - 26;
	const left = $derived(width / 2 - (two ? (place.span_m * px) / 2 : 0));
	const right = $derived(left + place.span_m * px);
	const tops = $derived([
		{ key: 'first' as const, x: left, m: place.high_m, name: 'first support' },
		...(two ? [{ key: 'other' as const, x: right, m: place.other_m, name: 'second support' }] : [])
	]);
	let svg = $state<SVGSVGElement>();
	const round = (m: number) => Math.max(0.5, Math.round(m * 10) / 10);
	function to(event: PointerEvent, settled: boolean): void {
		const box = svg?.getBoundingClientRect();
		if (!box || !dragging) return;
		const m = round((ground - (event.clientY - box.top)) / px);
		if (dragging === 'first') onplace({ high_m: m }, settled);
		else onplace({ other_m: m, span_m: round((event.clientX - box.left - left) / px) }, settled);
	}
	function key(event: KeyboardEvent, which: 'first' | 'other'): void {
		const up = { ArrowUp: 0.1, ArrowDown: -0.1 }[event.key];
		const out = { ArrowRight: 0.1, ArrowLeft: -0.1 }[event.key];
		if (up === undefined && out === undefined) return;
		event.preventDefault();
		const by = (event.shiftKey ? 10 : 1) * (up ?? out ?? 0);
		if (which === 'first') onplace({ high_m: round(place.high_m + by) }, true);
		else if (up !== undefined) onplace({ other_m: round(place.other_m + by) }, true);
		else onplace({ span_m: round(place.span_m + by) }, true);
	}
</script>

<div bind:clientWidth={width}>
	<svg
		bind:this={svg}
		{width}
		{height}
		role="group"
		aria-label="The place: {place.is_pole ? 'a pole' : 'a support'} of {distance(
			place.high_m,
			unit
		)}{two
			? `, another of ${distance(place.other_m, unit)}, ${distance(place.span_m, unit)} apart`
			: ''}"
		onpointermove={(event) => to(event, false)}
		onpointerup={(event) => {
			to(event, true);
			dragging = null;
		}}
		onpointercancel={() => (dragging = null)}
	>
		<rect class="earth" x="0" y={ground} {width} height={height - ground} />
		<path
			class="reach"
			d="M{width / 2 - (place.width_m * px) / 2},{ground + 8}H{width / 2 +
				(place.width_m * px) / 2}"
		/>
		<text x={width / 2} y={height - 3} text-anchor="middle"
			>{distance(two ? place.span_m : place.width_m, unit)}{two ? ' apart' : ' of room'}</text
		>
		{#each tops as top (top.key)}
			<path
				class={place.is_pole && top.key === 'first' ? 'pole' : 'tree'}
				d="M{top.x},{ground}V{ground - top.m * px}"
			/>
			<text
				x={top.x + (two && top.key === 'first' ? -2 : two ? 2 : 10)}
				y={ground - top.m * px - 12}
				text-anchor={two ? (top.key === 'first' ? 'end' : 'start') : 'start'}
				>{distance(top.key === 'first' && topM !== null ? topM : top.m, unit)}</text
			>
			<g
				class="handle"
				role="slider"
				tabindex="0"
				aria-label="{top.name}, height"
				aria-valuenow={top.m}
				aria-valuemin={0.5}
				aria-valuemax={1000}
				aria-valuetext={distance(top.m, unit)}
				transform="translate({top.x},{ground - top.m * px})"
				onpointerdown={(event) => {
					dragging = top.key;
					svg?.setPointerCapture(event.pointerId);
				}}
				onkeydown={(event) => key(event, top.key)}
			>
				<circle class="touch" r="22" />
				<circle class="knob" r="7" />
			</g>
		{/each}
	</svg>
</div>

<style>
	svg {
		display: block;
		font-size: var(--size-12);
		touch-action: none;
		user-select: none;
	}
	text {
		fill: var(--ink);
		font-family: var(--mono);
	}
	.earth {
		fill: var(--tape-wash);
		opacity: 0.6;
	}
	.reach {
		stroke: var(--soft);
		stroke-width: 2;
	}
	.pole {
		stroke: var(--core);
		stroke-width: 6;
	}
	.tree {
		stroke: var(--verdigris);
		stroke-width: 8;
	}
	.knob {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 2;
		cursor: grab;
	}
	.touch {
		fill: transparent;
		cursor: grab;
	}
</style>
