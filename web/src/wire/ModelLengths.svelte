<!-- @component
	How long by the model and by each rule, on one scale; where they differ, by how much and why.
-->
<script lang="ts">
	import { scaleLinear } from 'd3-scale';

	import type { Schemas } from '../lib/api/client';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { longerText, numberText, reasonText } from './words';

	interface Props {
		lengths: Schemas['LengthsByModel'];
		/** What it is tuned by. */
		number: Schemas['NumberOut'] | undefined;
	}

	let { lengths, number }: Props = $props();

	let outer = $state(240);
	const unit = $derived(number?.unit ?? 'm');
	// Of a loop rules tell a side, the model the whole wire: the part that rules speak of is drawn.
	const share = $derived(lengths.value ? lengths.part_m / lengths.value : 1);
	const model = $derived(
		lengths.value !== null && lengths.is_part
			? {
					at: lengths.part_m,
					low: (lengths.low ?? lengths.value) * share,
					high: (lengths.high ?? lengths.value) * share
				}
			: null
	);
	const edges = $derived([
		...lengths.rules.flatMap((r) => [r.low_m, r.high_m]),
		...(model ? [model.low, model.high] : [])
	]);
	const x = $derived(
		scaleLinear([Math.min(...edges), Math.max(...edges)], [4, Math.max(60, outer - 4)])
	);
</script>

<div bind:clientWidth={outer} class="told">
	<p>
		<strong>the model</strong>
		<span class="mono"
			>{lengths.value === null
				? '–'
				: model
					? length(model.at, units.length)
					: `${number?.label ?? ''} ${numberText(unit, lengths.value, units.length)}`}</span
		>
	</p>
	{#if model}
		<svg width={outer} height="14" aria-hidden="true">
			<rect
				class="own"
				x={x(model.low)}
				width={Math.max(2, x(model.high) - x(model.low))}
				y="3"
				height="8"
				rx="3"
			/>
			<line class="own" x1={x(model.at)} x2={x(model.at)} y1="0" y2="14" />
		</svg>
	{/if}
	<p class="soft small">
		{#if lengths.value === null}
			Its length brings it to no resonance here.
		{:else if lengths.low !== null && lengths.high !== null}
			{numberText(unit, lengths.low * (model ? share : 1), units.length)} to
			{numberText(unit, lengths.high * (model ? share : 1), units.length)}, nine times in ten:
			height, soil, covering, tape
		{:else}
			how far it strays is not known here
		{/if}
	</p>
	{#each lengths.rules as rule (rule.key)}
		<p>
			<strong>{rule.school}</strong> <span class="mono">{length(rule.length_m, units.length)}</span>
		</p>
		<svg width={outer} height="14" aria-hidden="true">
			<rect
				x={x(rule.low_m)}
				width={Math.max(2, x(rule.high_m) - x(rule.low_m))}
				y="3"
				height="8"
				rx="3"
			/>
			<line x1={x(rule.length_m)} x2={x(rule.length_m)} y1="0" y2="14" />
		</svg>
		<p class="soft small">
			{rule.longer === null ? rule.source : `${longerText(rule.longer)} than the model`}
		</p>
	{:else}
		<p class="soft small">No rule of length knows it: what stands in it decides.</p>
	{/each}
	{#if lengths.reasons.length}
		<p class="small">
			Against a bare wire in free space {lengths.reasons.map(reasonText).join('; ')}. The rules know
			neither.
		</p>
	{/if}
</div>

<style>
	div {
		display: grid;
		gap: 2px;
		min-width: 0;
	}
	.small {
		font-size: var(--size-12);
		margin-bottom: 4px;
	}
	svg {
		display: block;
	}
	rect {
		fill: var(--copper-wash);
	}
	line {
		stroke: var(--copper);
		stroke-width: 3;
	}
	rect.own {
		fill: var(--blueprint-wash);
	}
	line.own {
		stroke: var(--blueprint);
	}
	.mono {
		font-weight: 700;
	}
</style>
