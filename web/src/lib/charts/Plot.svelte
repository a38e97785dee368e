<!-- @component
	A chart's frame: axes, band, the shared marker, and whatever marks are put in it.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	import { scaleLinear, scaleLog } from 'd3-scale';

	import { megahertz } from '../units/format';
	import type { Frame, Plotted } from './frame';
	import Picture from './Picture.svelte';

	interface Props {
		/** What a screen reader says of the drawing. */
		label: string;
		frame: Frame;
		/** Value at the bottom and top edge. */
		bottom: number;
		top: number;
		/** Values that get a line and a number. */
		ticks: number[];
		/** What the numbers at the left read; the value itself when left out. */
		tickText?: (value: number) => string;
		/** Logarithmic upright axis; linear when left out. */
		log?: boolean;
		/** Logarithmic frequency axis, for sweeps over several bands; linear when left out. */
		logX?: boolean;
		/** The marks, drawn on this. */
		marks: Snippet<[Plotted]>;
	}

	let {
		label,
		frame,
		bottom,
		top,
		ticks,
		tickText = String,
		log = false,
		logX = false,
		marks
	}: Props = $props();

	const { lowHz, highHz, targets, markerHz, height } = $derived(frame);
	const left = 48;
	const right = 12;
	const above = 12;
	const below = 24;

	let outer = $state(640);
	const width = $derived(Math.max(120, outer - left - right));
	const inner = $derived(height - above - below);
	const x = $derived((logX ? scaleLog : scaleLinear)([lowHz, highHz], [0, width]));
	const y = $derived((log ? scaleLog : scaleLinear)([bottom, top], [inner, 0]));
	const amateur = [1.8e6, 3.5e6, 7e6, 10e6, 14e6, 21e6, 30e6, 50e6];
	const xTicks = $derived(
		logX
			? amateur
					.filter((f) => f >= lowHz && f <= highHz)
					.filter((f, i, all) => i === all.length - 1 || x(all[all.length - 1] ?? f) - x(f) > 56)
					.filter((f, i, all) => i === 0 || x(f) - x(all[i - 1] ?? f) > 34)
			: // The last one carries the unit and needs the room of it.
				x
					.ticks(Math.max(3, Math.round(width / 120)))
					.filter((f, i, all) => i === all.length - 1 || x(all[all.length - 1] ?? f) - x(f) > 62)
	);
	const step = $derived(((xTicks[1] ?? 0) - (xTicks[0] ?? 0)) / 1e6);
	const decimals = $derived(step <= 0 || step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3);
	const clip = `clip-${Math.random().toString(36).slice(2)}`;

	// A band's name stands at its right edge, a line lower where it would run into another one.
	const names = $derived.by(() => {
		const taken: { from: number; to: number }[][] = [];
		return [...targets]
			.sort((a, b) => a.low_hz - b.low_hz)
			.map((stretch) => {
				const edge = x(Math.min(stretch.high_hz, highHz));
				const long = 7 * stretch.label.length;
				const start = edge < long;
				const from = start ? edge + 4 : edge - 5 - long;
				const free = (row: number) =>
					!(taken[row] ?? []).some((t) => from < t.to + 6 && t.from < from + long + 6);
				let row = 0;
				while (row < 4 && !free(row)) row += 1;
				(taken[row] ??= []).push({ from, to: from + long });
				return { stretch, edge, row, start };
			});
	});

	let dragging = false;

	function moved(event: PointerEvent, settled: boolean): void {
		const box = (event.currentTarget as SVGSVGElement).getBoundingClientRect();
		const hz = x.invert(event.clientX - box.left - left);
		frame.onmarker(Math.min(highHz, Math.max(lowHz, hz)), settled);
	}
</script>

<div class="frame" bind:clientWidth={outer}>
	<Picture title={label}>
		<!-- The marker is also a slider outside the drawing, for keys and screen readers. -->
		<svg
			width={outer}
			{height}
			role="img"
			aria-label={label}
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
			<defs>
				<clipPath id={clip}><rect x="0" y="-1" {width} height={inner + 2} /></clipPath>
			</defs>
			<g transform="translate({left},{above})">
				{#each names as { stretch }, nth (nth)}
					<rect
						class="band"
						x={x(Math.max(stretch.low_hz, lowHz))}
						width={Math.max(
							1.5,
							x(Math.min(stretch.high_hz, highHz)) - x(Math.max(stretch.low_hz, lowHz))
						)}
						y="0"
						height={inner}
					/>
				{/each}
				{#each names as { stretch, edge, row, start }, nth (nth)}
					<text
						class="band-name"
						x={start ? edge + 4 : edge - 5}
						y={15 + 14 * row}
						text-anchor={start ? 'start' : 'end'}>{stretch.label}</text
					>
				{/each}
				{#each ticks as tick (tick)}
					<line class="grid" x1="0" x2={width} y1={y(tick)} y2={y(tick)} />
					<text class="tick" x="-7" y={y(tick) + 4} text-anchor="end">{tickText(tick)}</text>
				{/each}
				{#each xTicks as tick, i (tick)}
					<text
						class="tick"
						x={x(tick)}
						y={inner + 18}
						text-anchor={x(tick) > width - 24 ? 'end' : 'middle'}
						>{logX ? tick / 1e6 : (tick / 1e6).toFixed(decimals)}{i === xTicks.length - 1
							? ' MHz'
							: ''}</text
					>
				{/each}
				<g clip-path="url(#{clip})">{@render marks({ x, y, width, height: inner })}</g>
				<g class="marker" transform="translate({x(markerHz)},0)">
					<line y1="0" y2={inner} />
					<path d="M-6,-9h12l-6,9z" />
				</g>
			</g>
		</svg>
	</Picture>
	<span class="unseen">Marker at {megahertz(markerHz)} MHz</span>
</div>

<style>
	.frame {
		width: 100%;
		min-width: 0;
		overflow: hidden;
	}
	svg {
		display: block;
		touch-action: pan-y;
		cursor: ew-resize;
		user-select: none;
	}
	.band {
		fill: var(--verdigris-wash);
		opacity: 0.55;
	}
	.band-name {
		fill: var(--verdigris);
		font-size: var(--size-12);
	}
	.grid {
		stroke: var(--line);
	}
	.tick {
		fill: var(--soft);
		font: var(--size-12) var(--mono);
	}
	.marker line {
		stroke: var(--ink);
	}
	.marker path {
		fill: var(--ink);
	}
</style>
