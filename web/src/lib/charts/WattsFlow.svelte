<!-- @component
	Where the watts go: a ribbon from where they go in to the sky, as wide as the watts in it, what is lost branching off.
-->
<script lang="ts">
	import { watts } from '../units/format';
	import Picture from './Picture.svelte';

	/** Likely, and between what nine of ten lie. */
	interface Watts {
		watts: number | null;
		low_w: number | null;
		high_w: number | null;
	}

	interface Props {
		radiated: Watts;
		/** What is lost on the way, the last thing before the sky first. */
		places: { key: string; name: string; w: Watts }[];
		powerW: number;
		/** Where they go in. */
		into: string;
	}

	let { radiated, places, powerW, into }: Props = $props();

	const full = 74;
	const right = 206;
	const height = 208;
	const range = (w: Watts) => {
		const [low, high] = [w.low_w ?? 0, w.high_w ?? 0].map((v) => v.toFixed(v < 9.95 ? 1 : 0));
		return low === high ? watts(w.watts) : `${low} to ${high} W`;
	};
	const lost = $derived(places.filter(({ w }) => (w.watts ?? 0) >= 0.05));
	const wide = (w: number | null) => Math.max(1.5, (full * (w ?? 0)) / powerW);
	const rows = $derived.by(() => {
		let left = full;
		const step = (height - 60) / Math.max(1, lost.length);
		return lost.map((each, i) => {
			const w = wide(each.w.watts);
			left -= w;
			return {
				...each,
				width: w,
				x: right - full + (full - left),
				y: height - 40 - step * (i + 0.5)
			};
		});
	});
	const body = $derived.by(() => {
		let d = `M${right},18V${height - 20}H${right - full}`;
		let x = right - full;
		for (const row of rows) {
			d += `V${row.y + 12}`;
			x += row.width;
			d += `L${x},${row.y - 8}`;
		}
		return `${d}V18Z`;
	});
</script>

<Picture title="Where the watts go">
	<svg
		viewBox="0 0 296 {height}"
		role="img"
		aria-label="Where {watts(powerW)} go: {range(radiated)} radiated"
	>
		<defs>
			<linearGradient id="sky" x1="0" y1="0" x2="0" y2="1">
				<stop offset="0" stop-color="var(--verdigris)" />
				<stop offset="1" stop-color="var(--copper)" />
			</linearGradient>
		</defs>
		<path d={body} fill="url(#sky)" />
		<text class="up" x={right + 8} y="30">{range(radiated)}</text>
		<text x={right + 8} y="45">radiated</text>
		{#each rows as row (row.key)}
			<path
				class="heat"
				stroke-width={row.width}
				d="M{row.x - row.width / 2},{row.y + 14}Q{row.x - row.width / 2},{row.y} {row.x -
					row.width -
					24},{row.y}"
			/>
			<text class="lost" x="0" y={row.y - 3}>{range(row.w)}</text>
			<text x="0" y={row.y + 13}>{row.name}</text>
		{/each}
		<text class="in" x={right - full / 2} y={height - 5} text-anchor="middle"
			>{watts(powerW)} {into}</text
		>
	</svg>
</Picture>

<style>
	svg {
		display: block;
		width: 100%;
		max-width: 300px;
		font-size: 12px;
	}
	text {
		fill: var(--soft);
	}
	.up {
		fill: var(--verdigris);
		font-weight: 700;
	}
	.lost {
		fill: var(--heat-ink);
		font-family: var(--mono);
	}
	.in {
		fill: var(--copper-ink);
		font-weight: 700;
	}
	.heat {
		fill: none;
		stroke: var(--heat);
	}
</style>
