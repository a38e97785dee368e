<!-- @component
	What comes back along the coax by one sweep: where something reflects, and where its far end was when it was good.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import Picture from '../lib/charts/Picture.svelte';
	import { units } from '../lib/units/units.svelte';
	import { type Fault, place } from './faultWords';

	interface Props {
		echo: NonNullable<Fault['echo']>;
		/** Where a fault of the line is, if one leads. */
		at: { m: number; within: number } | null;
		/** What it is. */
		what: string;
	}

	let { echo, at, what }: Props = $props();

	let outer = $state(600);
	const height = 170;
	const left = 10;
	const bottom = 24;
	const top = 26;
	const last = $derived(echo.metres.at(-1) ?? 1);
	const x = $derived(scaleLinear([0, last], [left, outer - 16]));
	const most = $derived(Math.max(0.2, ...(echo.now ?? []), ...(echo.before ?? [])));
	const y = $derived(scaleLinear([0, most], [height - bottom, top]));
	const path = (size: number[] | null | undefined) =>
		(size ?? [])
			.map((v, i) => `${i ? 'L' : 'M'}${x(echo.metres[i] ?? 0).toFixed(1)} ${y(v).toFixed(1)}`)
			.join('');
	const foot = $derived(units.length === 'ft' ? 0.3048 : 1);
	const ticks = $derived(scaleLinear([0, last / foot], [0, 1]).ticks(7));
	const label = $derived(
		`Echoes along ${place(echo.line_m, units.length)} of coax${at ? `; ${what} near ${place(at.m, units.length)}` : ''}`
	);
	const markAt = $derived(at ? Math.min(Math.max(x(at.m), 60), outer - 90) : 0);
	const endAt = $derived(Math.min(x(echo.line_m), outer - 40));
</script>

<div bind:clientWidth={outer}>
	<Picture title={label}>
		<svg width={outer} {height} role="img" aria-label={label}>
			{#if at}
				<rect
					class="place"
					x={x(Math.max(0, at.m - at.within))}
					width={Math.max(3, x(at.m + at.within) - x(at.m - at.within))}
					y={top}
					height={height - bottom - top}
				/>
				<text class="what" x={markAt} y={14} text-anchor="middle">{what}</text>
			{/if}
			<line class="end" x1={endAt} x2={endAt} y1={top} y2={height - bottom} />
			{#if !at || Math.abs(endAt - markAt) > 130}
				<text class="far" x={endAt} y={14} text-anchor="middle">far end</text>
			{/if}
			<line class="axis" x1={left} x2={outer - 16} y1={height - bottom} y2={height - bottom} />
			{#if echo.before}<path class="before" d={path(echo.before)} />{/if}
			{#if echo.now}<path class="now" d={path(echo.now)} />{/if}
			{#each ticks as tick, i (tick)}
				<text class="tick" x={x(tick * foot)} y={height - 8} text-anchor="middle"
					>{tick}{i === ticks.length - 1 ? ` ${units.length}` : ''}</text
				>
			{/each}
		</svg>
	</Picture>
</div>
<p class="told soft">
	{#if echo.now}Blue: now.{/if}
	{#if echo.before}Dashed: when it was good.{/if}
	Two places nearer than {place(echo.resolution_m, units.length)} show as one{echo.range_m <
	2 * echo.line_m
		? `; beyond ${place(echo.range_m, units.length)} an echo appears again nearer: sweep in smaller steps`
		: ''}. A peak that spreads and sinks is water rather than a break.
</p>

<style>
	svg {
		display: block;
	}
	.place {
		fill: var(--caution);
		stroke: var(--enamel);
		stroke-dasharray: 2 3;
	}
	.what {
		fill: var(--enamel);
		font-size: 12px;
		font-weight: 700;
	}
	.far {
		fill: var(--verdigris);
		font-size: 12px;
	}
	.end {
		stroke: var(--verdigris);
		stroke-dasharray: 2 4;
		stroke-width: 2;
	}
	.axis {
		stroke: var(--control-edge);
	}
	path {
		fill: none;
		stroke-width: 2;
	}
	.now {
		stroke: var(--blueprint);
	}
	.before {
		stroke: var(--soft);
		stroke-dasharray: 5 4;
		stroke-width: 1.5;
	}
	.tick {
		fill: var(--soft);
		font-size: 12px;
		font-family: var(--mono);
	}
</style>
