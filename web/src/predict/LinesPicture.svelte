<!-- @component
	What goes up on one band through each coax, against its length; the present one thick, a tuner at either end as dots.
-->
<script lang="ts">
	import type { LengthUnit } from '../lib/units/format';
	import { distance, swr, watts } from '../lib/units/format';
	import Picture from '../lib/charts/Picture.svelte';
	import { type Bands, shortCable } from './words';

	interface Props {
		bands: Bands;
		/** Which band is looked at. */
		band: number;
		powerW: number;
		unit: LengthUnit;
		/** Of the line as it is set: while it is dragged what is drawn lags behind. */
		lengthM: number;
		/** Whether the length is being dragged: then the picture keeps its scale. */
		dragging: boolean;
		ondrag: (lengthM: number, settled: boolean) => void;
	}

	let { bands, band, powerW, unit, lengthM, dragging, ondrag }: Props = $props();

	let width = $state(420);
	const height = 196;
	const edge = { left: 42, right: 152, top: 12, bottom: 26 };
	const lengths = $derived(bands.lengths_m);
	const own = $derived(lengths[lengths.length - 1]! / 2);
	const all = $derived(
		bands.cables
			.flatMap((c) => c.up_w.map((row) => row[band]))
			.filter((w): w is number => w !== null && w !== undefined)
	);
	const mostNow = $derived(Math.min(powerW, Math.max(...all, 1e-9) * 1.04));
	const leastNow = $derived(Math.max(0, Math.min(...all) - 0.08 * (mostNow - Math.min(...all))));
	/** The length at the right edge, and the watts at top and bottom: they stay while one drags. */
	let scale = $state.raw({ length: 1, most: 1, least: 0 });
	$effect(() => {
		const length = lengths[lengths.length - 1] ?? 1;
		const now = { length, most: mostNow, least: leastNow };
		if (!dragging) scale = now;
	});
	const most = $derived(scale.most);
	const least = $derived(scale.least);
	const x = (m: number) => edge.left + ((width - edge.left - edge.right) * m) / scale.length;
	const y = (w: number) =>
		edge.top + ((height - edge.top - edge.bottom) * (most - w)) / Math.max(most - least, 1e-9);
	/** On a phone names go where there is room. */
	const tiny = $derived(width < 360);
	const narrow = $derived(x(own) - edge.left < 118);
	const lengthAt = (field: HTMLInputElement) =>
		Math.max(0.1, Math.round((Number(field.value) * scale.length) / 10) / 100);
	const ticks = $derived.by(() => {
		const step =
			[1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((s) => (most - least) / s <= 5) ?? 5000;
		const first = Math.ceil(least / step) * step;
		return Array.from(
			{ length: Math.floor((most - first) / step) + 1 },
			(_, i) => first + i * step
		);
	});
	const curves = $derived(
		bands.cables.map((c) => ({
			...c,
			d: lengths
				.map((m, i) => ({ m, w: c.up_w[i]?.[band] ?? null }))
				.filter((p): p is { m: number; w: number } => p.w !== null)
				.map((p, i) => `${i ? 'L' : 'M'}${x(p.m)},${y(p.w)}`)
				.join(''),
			end: c.up_w[lengths.length - 1]?.[band] ?? null
		}))
	);
	/** Names at the right end, moved apart where they would touch. */
	const names = $derived.by(() => {
		const found = curves
			.filter((c) => c.end !== null)
			.map((c) => ({ key: c.cable, name: shortCable(c.name), here: c.here, y: y(c.end!) }))
			.sort((a, b) => a.y - b.y);
		for (let i = 1; i < found.length; i++)
			found[i]!.y = Math.max(found[i]!.y, found[i - 1]!.y + 12.5);
		const over = Math.max(0, (found[found.length - 1]?.y ?? 0) - (height - edge.bottom));
		return found.map((f) => ({ ...f, y: f.y - over }));
	});
	const dots = $derived(
		bands.tuners.flatMap((t) => {
			const w = t.up_w[band];
			return t.at === 'nowhere' || w === null || w === undefined
				? []
				: [{ at: t.at, w, text: `tuner at the ${t.at}` }];
		})
	);
	const said = $derived(
		bands.cables
			.map((c) => {
				const i = lengths.indexOf(own);
				return `${c.name}: ${watts(c.up_w[i]?.[band])} up, the meter reads ${swr(c.meter_swr[i]?.[band])}`;
			})
			.join('; ')
	);
</script>

<Picture title="What goes up through each coax">
	<div bind:clientWidth={width}>
		<svg
			{width}
			{height}
			role="img"
			aria-label="What goes up through {distance(own, unit)} of each coax. {said}"
		>
			{#each ticks as tick (tick)}
				<path class="grid" d="M{edge.left},{y(tick)}H{width - edge.right}" />
				<text class="tick" x={edge.left - 6} y={y(tick) + 4} text-anchor="end">{tick} W</text>
			{/each}
			<path class="own" d="M{x(own)},{edge.top}V{height - edge.bottom}" />
			<text class="tick" x={x(own)} y={height - 8} text-anchor="middle"
				>{distance(own, unit)}, yours</text
			>
			{#if !tiny}<text class="tick" x={x(scale.length)} y={height - 8} text-anchor="end"
					>{distance(scale.length, unit)}</text
				>{/if}
			{#if !narrow}<text class="tick" x={x(lengths[0]!)} y={height - 8} text-anchor="middle"
					>{distance(lengths[0]!, unit)}</text
				>{/if}
			<clipPath id="inside"
				><rect
					x={edge.left}
					y={edge.top}
					width={width - edge.left - edge.right}
					height={height - edge.top - edge.bottom}
				/></clipPath
			>
			<g clip-path="url(#inside)">
				{#each curves as curve (curve.cable)}
					<path class="curve" class:here={curve.here} d={curve.d} />
				{/each}
			</g>
			{#each names as name (name.key)}
				<text class="named" class:here={name.here} x={width - edge.right + 6} y={name.y + 4}
					>{name.name}</text
				>
			{/each}
			{#each dots as dot (dot.at)}
				<circle class="dot" cx={x(own)} cy={Math.max(edge.top, y(dot.w))} r="5" />
				{#if !tiny}<text
						class="tuner"
						x={x(own) + (narrow ? 9 : -9)}
						y={Math.max(edge.top, y(dot.w)) + (dot.at === 'radio' ? 15 : -6)}
						text-anchor={narrow ? 'start' : 'end'}>{dot.text}</text
					>{/if}
			{/each}
		</svg>
		<input
			class="unprinted"
			type="range"
			style:margin-left="{edge.left - 8}px"
			style:width="{width - edge.left - edge.right + 16}px"
			min="0"
			max="1000"
			value={Math.round((1000 * lengthM) / scale.length)}
			aria-label="Length of coax, dragged"
			aria-valuetext={distance(lengthM, unit)}
			oninput={(e) => ondrag(lengthAt(e.currentTarget), false)}
			onchange={(e) => ondrag(lengthAt(e.currentTarget), true)}
		/>
	</div>
</Picture>
{#if tiny && dots.length}<p class="told">Green: {dots.map((d) => d.text).join(', ')}.</p>{/if}

<style>
	svg {
		display: block;
		font-size: var(--size-12);
	}
	input {
		display: block;
		accent-color: var(--copper);
	}
	@media (max-width: 620px), (pointer: coarse) {
		input {
			min-height: 44px;
		}
	}
	.grid {
		stroke: var(--line);
	}
	.own {
		stroke: var(--ink);
		stroke-dasharray: 2 3;
	}
	.tick {
		fill: var(--soft);
	}
	.curve {
		fill: none;
		stroke: var(--heat);
		stroke-width: 1.2;
		opacity: 0.75;
	}
	.curve.here {
		stroke: var(--copper);
		stroke-width: 3;
		opacity: 1;
	}
	.named {
		fill: var(--soft);
	}
	.named.here {
		fill: var(--copper-ink);
		font-weight: 700;
	}
	.dot {
		fill: var(--verdigris);
		stroke: var(--sheet);
		stroke-width: 2;
	}
	.tuner {
		fill: var(--verdigris);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
</style>
