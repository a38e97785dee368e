<!-- @component
	What each school says of a length, side by side on one rule, each with how far it may stray; one is chosen.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { Schemas } from '../lib/api/client';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';

	interface Props {
		schools: Schemas['School'][];
		/** Key of the chosen one; none where there is nothing to choose. */
		chosen?: string;
		onchoose?: (key: string) => void;
	}

	let { schools, chosen, onchoose }: Props = $props();

	let outer = $state(600);
	const low = $derived(Math.min(...schools.map((s) => s.low_m)));
	const high = $derived(Math.max(...schools.map((s) => s.high_m)));
	const x = $derived(
		scaleLinear(
			[low - 0.04 * (high - low + 1e-9), high + 0.04 * (high - low + 1e-9)],
			[0, Math.max(60, outer)]
		)
	);
	const wide = (s: Schemas['School']) => s.high_m - s.low_m > 1e-6;
</script>

<ul bind:clientWidth={outer}>
	{#each schools as s (s.key)}
		<li class:chosen={s.key === chosen}>
			<div class="row">
				{#if onchoose}
					<label
						><input
							type="radio"
							name="school"
							checked={s.key === chosen}
							onchange={() => onchoose(s.key)}
						/>
						{s.school}</label
					>
				{:else}<strong>{s.school}</strong>{/if}
				<span class="mono">{length(s.part_m, units.length)}</span>
				{#if wide(s)}<span class="soft"
						>{length(s.low_m, units.length)} to {length(s.high_m, units.length)}</span
					>{/if}
			</div>
			<svg width={outer} height="18" aria-hidden="true">
				<line class="rule" x1="0" x2={outer} y1="9" y2="9" />
				<rect
					x={x(s.low_m)}
					width={Math.max(2, x(s.high_m) - x(s.low_m))}
					y="4"
					height="10"
					rx="3"
				/>
				<line class="mark" x1={x(s.part_m)} x2={x(s.part_m)} y1="1" y2="17" />
			</svg>
			<p class="soft source">{s.source}</p>
		</li>
	{/each}
</ul>

<style>
	ul {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 8px;
		min-width: 0;
	}
	svg {
		display: block;
	}
	.rule {
		stroke: var(--line);
	}
	rect {
		fill: var(--blueprint-wash);
	}
	.chosen rect {
		fill: var(--copper-wash);
	}
	.mark {
		stroke: var(--blueprint);
		stroke-width: 3;
	}
	.chosen .mark {
		stroke: var(--copper);
	}
	.source {
		font-size: var(--size-12);
	}
	.mono {
		font-weight: 700;
	}
	.row {
		font-size: var(--size-13);
	}
</style>
