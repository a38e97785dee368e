<!-- @component
	Where the watts go: a ribbon from the feedpoint to the sky, as wide as the watts in it, what is lost branching off.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import Picture from '../lib/charts/Picture.svelte';
	import { watts } from '../lib/units/format';

	type Watts = Schemas['WattsOut'];

	interface Props {
		study: Pick<Schemas['StudyOut'], 'radiated' | 'wire' | 'loads' | 'ground'>;
		powerW: number;
		/** What loads are called: a coil. */
		loads: string;
	}

	let { study, powerW, loads }: Props = $props();

	const full = 74;
	const right = 206;
	const height = 208;
	const range = (w: Watts) => {
		const [low, high] = [w.low_w ?? 0, w.high_w ?? 0].map((v) => v.toFixed(v < 9.95 ? 1 : 0));
		return low === high ? watts(w.watts) : `${low} to ${high} W`;
	};
	const lost = $derived(
		[
			{ key: 'ground', name: 'ground', w: study.ground },
			{ key: 'loads', name: loads, w: study.loads },
			{ key: 'wire', name: 'wire', w: study.wire }
		].filter(({ w }) => (w.watts ?? 0) >= 0.05)
	);
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
		aria-label="Where {watts(powerW)} go: {range(study.radiated)} radiated"
	>
		<defs>
			<linearGradient id="sky" x1="0" y1="0" x2="0" y2="1">
				<stop offset="0" stop-color="var(--verdigris)" />
				<stop offset="1" stop-color="var(--copper)" />
			</linearGradient>
		</defs>
		<path d={body} fill="url(#sky)" />
		<text class="up" x={right + 8} y="30">{range(study.radiated)}</text>
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
			>{watts(powerW)} at its feedpoint</text
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
