<!-- @component
	Every length against every band: how hard the tuner has it, as shades; half-waves by three rules, as bars; the length
	that is looked at, dragged or stepped.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { Schemas, Target } from '../lib/api/client';
	import Picture from '../lib/charts/Picture.svelte';
	import { length, type LengthUnit } from '../lib/units/format';
	import { ruleNames } from './words';

	interface Props {
		targets: Target[];
		schools: Schemas['LengthRuleOut'][];
		clear: Schemas['WindowOut'][];
		strip: Schemas['StripOut'] | null;
		stale: boolean;
		leastM: number;
		mostM: number;
		lengthM: number;
		unit: LengthUnit;
		onlength: (m: number, settled: boolean) => void;
	}

	let { targets, schools, clear, strip, stale, leastM, mostM, lengthM, unit, onlength }: Props =
		$props();

	let width = $state(720);
	const left = $derived(width < 480 ? 40 : 58);
	const top = 20;
	const lane = 46;
	const shade = 20;
	const height = $derived(top + targets.length * lane + 44);
	const x = $derived(scaleLinear([leastM, mostM], [left, width - 14]));
	const foot = 0.3048;
	const ticks = $derived(
		scaleLinear([leastM, mostM].map((m) => (unit === 'ft' ? m / foot : m)) as [number, number], [
			left,
			width - 14
		])
			.ticks(width < 480 ? 5 : 10)
			.map((t) => ({ at: x(unit === 'ft' ? t * foot : t), text: `${t}` }))
	);
	/** Neighbours of one grade in one stretch. */
	const runs = (band: string) => {
		const row = strip?.bands.find((b) => b.label === band);
		if (!strip || !row) return [];
		const at = strip.lengths_m as number[];
		const found: { from: number; to: number; grade: number }[] = [];
		row.grades.forEach((grade, i) => {
			const from = at[i] ?? 0;
			const to = at[i + 1] ?? mostM;
			const last = found.at(-1);
			if (last && last.grade === grade) last.to = to;
			else found.push({ from, to, grade });
		});
		return found;
	};
	const bars = (school: Schemas['LengthRuleOut'], band: string) =>
		school.zones.filter((z) => z.label === band && z.high_m > leastM && z.low_m < mostM);
	const clip = (m: number) => Math.min(Math.max(m, leastM), mostM);
	const marker = $derived(x(clip(lengthM)));
	const edges = $derived(strip?.grade_edges ?? [3, 6, 10, 20]);

	let dragging = $state(false);
	let svg = $state<SVGSVGElement>();
	function to(event: PointerEvent, settled: boolean): void {
		const box = svg?.getBoundingClientRect();
		if (!box) return;
		onlength(clip(Math.round(x.invert(event.clientX - box.left) * 100) / 100), settled);
	}
	function key(event: KeyboardEvent): void {
		const fine = unit === 'ft' ? foot / 12 : 0.01;
		const step = {
			ArrowLeft: -1,
			ArrowDown: -1,
			ArrowRight: 1,
			ArrowUp: 1,
			PageUp: 100,
			PageDown: -100
		}[event.key];
		if (step === undefined) return;
		event.preventDefault();
		onlength(clip(lengthM + step * fine * (event.shiftKey ? 10 : 1)), true);
	}
</script>

<Picture title="Every length on every band">
	<div bind:clientWidth={width} class:stale aria-busy={stale}>
		<svg
			bind:this={svg}
			{width}
			{height}
			role="group"
			aria-label="Lengths from {length(leastM, unit)} to {length(mostM, unit)} on every band"
			onpointerdown={(event) => {
				dragging = true;
				svg?.setPointerCapture(event.pointerId);
				to(event, false);
			}}
			onpointermove={(event) => dragging && to(event, false)}
			onpointerup={(event) => {
				if (dragging) to(event, true);
				dragging = false;
			}}
			onpointercancel={() => (dragging = false)}
		>
			{#each clear as window (window.low_m)}
				<rect
					class="clear"
					x={x(window.low_m)}
					y={top - 4}
					width={Math.max(1, x(window.high_m) - x(window.low_m))}
					height={targets.length * lane + 8}
				/>
			{/each}
			{#each targets as target, i (target.label)}
				{@const y = top + i * lane}
				<text class="band" x={left - 8} y={y + 15} text-anchor="end">{target.label}</text>
				<rect class="empty" x={x(leastM)} {y} width={x(mostM) - x(leastM)} height={shade} />
				{#each runs(target.label) as run (run.from)}
					<rect
						class="grade g{run.grade}"
						x={x(run.from)}
						{y}
						width={Math.max(0.5, x(run.to) - x(run.from))}
						height={shade}
					/>
				{/each}
				{#each schools as school, s (school.school)}
					{#each bars(school, target.label) as zone (zone.half_waves)}
						<rect
							class="zone {school.school}"
							class:quarter={zone.half_waves % 1 !== 0}
							x={x(clip(zone.low_m))}
							y={y + shade + 2 + 6 * s}
							width={Math.max(2, x(clip(zone.high_m)) - x(clip(zone.low_m)))}
							height="5"
						/>
					{/each}
				{/each}
			{/each}
			{#each ticks as tick (tick.text)}
				<path class="tick" d="M{tick.at},{height - 40}v6" />
				<text x={tick.at} y={height - 22} text-anchor="middle">{tick.text}</text>
			{/each}
			<text class="soft" x={width - 14} y={height - 6} text-anchor="end"
				>wire, {unit === 'ft' ? 'feet' : 'metres'}</text
			>
			<path class="marker" d="M{marker},{top - 8}V{height - 40}" />
			<g
				class="handle"
				role="slider"
				tabindex="0"
				aria-label="Length of the wire"
				aria-valuemin={leastM}
				aria-valuemax={mostM}
				aria-valuenow={lengthM}
				aria-valuetext={length(lengthM, unit)}
				transform="translate({marker},{top - 8})"
				onkeydown={key}
			>
				<circle class="touch" r="22" />
				<path class="knob" d="M-8,-9H8V0L0,9L-8,0Z" />
			</g>
		</svg>
	</div>
	<p class="key told">
		{#each ruleNames as [school, name] (school)}
			<span
				><svg width="22" height="8" aria-hidden="true"
					><rect class="zone {school}" width="22" height="6" y="1" /></svg
				>
				{name}</span
			>
		{/each}
		<span class="soft">bars: a half-wave or more of them somewhere in the band</span>
	</p>
	<p class="key told">
		<span>SWR behind 9 : 1, by the model:</span>
		{#each [...edges, Infinity] as edge, i (i)}
			<span
				><svg width="16" height="10" aria-hidden="true"
					><rect class="grade g{i}" width="16" height="10" /></svg
				>
				{edge === Infinity ? `over ${edges.at(-1)}` : `to ${edge}`}</span
			>
		{/each}
		<span
			><svg width="16" height="10" aria-hidden="true"
				><rect class="clear" width="16" height="10" /></svg
			> clear by all three</span
		>
	</p>
</Picture>

<style>
	svg {
		display: block;
		font-size: var(--size-12);
		touch-action: pan-y;
		user-select: none;
	}
	.key {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 14px;
		font-size: var(--size-12);
		margin-top: 4px;
	}
	.key svg {
		display: inline-block;
		vertical-align: middle;
	}
	text {
		fill: var(--ink);
	}
	text.soft {
		fill: var(--soft);
	}
	.band {
		font-weight: 700;
	}
	.empty {
		fill: var(--tape-wash);
		opacity: 0.4;
	}
	.clear {
		fill: var(--verdigris);
		opacity: 0.16;
	}
	.g0 {
		fill: var(--verdigris);
	}
	.g1 {
		fill: color-mix(in oklab, var(--verdigris) 45%, var(--sheet));
	}
	.g2 {
		fill: var(--tape);
	}
	.g3 {
		fill: var(--heat);
	}
	.g4 {
		fill: var(--enamel);
	}
	.zone {
		fill: var(--ink);
	}
	.zone.practice {
		fill: var(--copper);
	}
	.zone.long-wire {
		fill: var(--blueprint);
	}
	.zone.quarter {
		opacity: 0.45;
	}
	.tick {
		stroke: var(--soft);
	}
	.marker {
		stroke: var(--ink);
		stroke-width: 2;
	}
	.knob {
		fill: var(--ink);
		cursor: ew-resize;
	}
	.touch {
		fill: transparent;
		cursor: ew-resize;
	}
	.stale {
		opacity: 0.6;
	}
</style>
