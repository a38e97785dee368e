<!-- @component
	One band: the watts from the radio to the sky as a ribbon, losses branching off; SWR, volts and heat beside it.
	Its places can be pointed at.
-->
<script lang="ts">
	import type { Content } from '../lib/api/client';
	import { figures, quantity, swr } from '../lib/units/format';
	import { FULL, hornOf, ribbonOf, TOP } from './ribbon';
	import { type Band, lossText, placeName, standingAt, upText } from './words';

	interface Props {
		band: Band;
		content: Content;
		powerW: number;
		/** Whether what stands below is told of this band. */
		chosen: boolean;
		/** Key of the station that is pointed at; none when left out. */
		pointed: string | null;
		onchoose: () => void;
		onpoint: (key: string) => void;
	}

	let { band, content, powerW, chosen, pointed, onchoose, onpoint }: Props = $props();

	let width = $state(560);
	const ribbon = $derived(ribbonOf(band.losses, powerW, width));
	const height = $derived(ribbon.branches.some((b) => b.row) ? 106 : 90);
	/** Stations from the radio to the wire, where one can point: between what takes watts. */
	const places = $derived(
		[...band.stations].reverse().map((s, i, all) => ({
			key: s.key,
			x: all.length < 2 ? 8 : 8 + ((width - 60) * i) / (all.length - 1)
		}))
	);
	const warm = $derived(band.warmest);
	const text = $derived(new Map(band.losses.map((l) => [l.key, lossText(l)])));
</script>

<li class="band" class:chosen>
	<button class="name" aria-pressed={chosen} onclick={onchoose}>{band.label}</button>
	<div class="flow" bind:clientWidth={width}>
		<svg
			{width}
			{height}
			role="img"
			aria-label="{band.label}: {upText(band)}; {band.losses.map(lossText).join('; ')}"
		>
			<defs>
				<linearGradient id="flow-{band.at_hz}">
					<stop offset="0" stop-color="var(--copper)" />
					<stop offset="1" stop-color="var(--verdigris)" />
				</linearGradient>
			</defs>
			<path d={ribbon.body} fill="url(#flow-{band.at_hz})" />
			{#each ribbon.branches as branch (branch.key)}
				<path class="horn" d={hornOf(branch)} />
				<text class="lost" x={branch.x + branch.width / 2 + 7} y={TOP + FULL + 27 + 16 * branch.row}
					>{text.get(branch.key)}</text
				>
			{/each}
			<text class="up" x={width} y="14" text-anchor="end">{upText(band)}</text>
		</svg>
		{#each places as place (place.key)}
			<button
				class="place"
				class:pointed={chosen && pointed === place.key}
				style:left="{place.x}px"
				aria-label="{band.label}, {standingAt(place.key, content)}"
				onmouseenter={() => chosen && onpoint(place.key)}
				onfocus={() => {
					onchoose();
					onpoint(place.key);
				}}
				onclick={() => {
					onchoose();
					onpoint(place.key);
				}}
			></button>
		{/each}
	</div>
	<dl class="figures">
		<div>
			<dt class="unseen">SWR at the radio, on the line, at the wire</dt>
			<dd class="mono">
				SWR {swr(band.swr_radio)} · {band.swr_line === null ? '–' : swr(band.swr_line)} · {swr(
					band.swr_antenna
				)}
			</dd>
		</div>
		<div>
			<dt class="unseen">Volts and amperes where they are worst</dt>
			<dd>
				{#if band.up_w !== null}
					{quantity(band.peak_voltage_v, 'V', 2)} at {placeName(band.voltage_at, content)}, {figures(
						band.peak_current_a ?? 0,
						2
					)} A at {placeName(band.current_at, content)}
				{/if}
			</dd>
		</div>
		{#if warm && warm.rise_c !== null}
			<div>
				<dt class="unseen">Heat</dt>
				<dd class="hot">
					{placeName(warm.key, content)} +{warm.rise_c.toFixed(0)} °C{warm.settles_s
						? ` in ${Math.max(1, Math.round(warm.settles_s / 60))} min`
						: ''}
				</dd>
			</div>
		{/if}
	</dl>
</li>

<style>
	.band {
		display: grid;
		grid-template-columns: 84px minmax(0, 1fr) 232px;
		gap: 10px;
		align-items: center;
		padding: 4px 14px;
		border-top: 1px solid var(--line);
	}
	.chosen {
		background: var(--selected);
	}
	.name {
		border: 0;
		background: none;
		font-weight: 700;
		text-align: left;
		padding: 6px 0;
		cursor: pointer;
		color: inherit;
	}
	.chosen .name {
		text-decoration: underline;
		text-decoration-color: var(--copper);
		text-decoration-thickness: 3px;
		text-underline-offset: 4px;
	}
	.flow {
		position: relative;
		min-width: 0;
	}
	svg {
		display: block;
		overflow: visible;
		font-size: var(--size-12);
	}
	.horn {
		fill: var(--heat);
	}
	.lost {
		fill: var(--heat-ink);
	}
	.up {
		fill: var(--verdigris);
		font-weight: 700;
		font-size: var(--size-13);
	}
	.place {
		position: absolute;
		top: 32px;
		width: 14px;
		height: 14px;
		margin-left: -7px;
		padding: 0;
		border: 2px solid var(--sheet);
		border-radius: 50%;
		background: transparent;
		cursor: pointer;
	}
	.place:hover,
	.pointed {
		background: var(--sheet);
	}
	.figures {
		display: grid;
		gap: 2px;
		font-size: var(--size-13);
	}
	dd {
		color: var(--soft);
	}
	dd.mono {
		color: var(--ink);
		white-space: nowrap;
	}
	dd.hot {
		color: var(--heat-ink);
	}
	@media (max-width: 900px) {
		.band {
			grid-template-columns: 1fr;
			gap: 2px;
		}
	}
	@media (max-width: 620px), (pointer: coarse) {
		.place {
			width: 44px;
			height: 44px;
			margin-left: -22px;
			top: 17px;
			border-color: transparent;
			background: radial-gradient(
				circle,
				transparent 4px,
				var(--sheet) 5px,
				var(--sheet) 6px,
				transparent 7px
			);
		}
		.pointed {
			background: radial-gradient(circle, var(--sheet) 6px, transparent 7px);
		}
		.name {
			min-height: 44px;
		}
	}
	@media print {
		.place {
			display: none;
		}
	}
</style>
