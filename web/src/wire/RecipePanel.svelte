<!-- @component
	A recipe checked: lengths and turns that somebody passed on are kept as they are, and what differs here is told.
-->
<script lang="ts">
	import { answer, api, type Schemas } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, megahertz, millimetres, quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { loadingCoil } from './handOver';
	import type { AntennaPlan } from './plan.svelte';
	import { differenceText, numberText } from './words';

	interface Props {
		work: AntennaPlan;
		study: Schemas['StudyOut'] | null;
	}

	let { work, study }: Props = $props();

	const recipe = $derived(work.plan.recipe ?? null);
	const found = $derived(study?.recipe ?? null);
	const hand = $derived(work.labels[study?.lengths.tuned_by ?? '']);
	const change = $derived.by(() => {
		const name = study?.lengths.tuned_by;
		const from = name ? work.antenna?.numbers[name] : undefined;
		const to = study?.asked_for ?? null;
		return from !== undefined && to !== null ? { from, to } : null;
	});
	const hasCoil = $derived(work.antenna?.numbers['inductance_h'] !== undefined);
	let turns = $state<number | null>(null);
	let former = $state(0.05);

	/** Turns of a recipe as the inductance that they give at this band. */
	async function wound(): Promise<void> {
		const antenna = work.antenna;
		const at = study?.sketch.frequency_hz[60] ?? null;
		if (!antenna || turns === null || at === null) return;
		const element = { ...loadingCoil(1e-5), former_m: former, pitch_m: null };
		const mark = await answer(
			api.POST('/api/rulers/marks', { body: { element, center_hz: at, make: turns } })
		);
		await work.change((now) => ({
			...now,
			numbers: { ...now.numbers, inductance_h: mark.value }
		}));
	}

	// Ratios as ununs are usually wound, and 50 Ω times each.
	const ratios = [4, 9, 16, 49, 56, 64];
</script>

<h2>A recipe checked</h2>
{#if !recipe}
	<p class="told">
		Somebody passed on a design? Type its lengths, wire and height above as they were given, then
		keep them as the recipe. After that set height, soil and wire as they are here.
	</p>
	<p class="row">
		<button
			class="button"
			disabled={!work.antenna}
			onclick={() =>
				void work.attempt(() => work.keep({ recipe: work.antenna, antenna: work.antenna }))}
			>Keep this as the recipe</button
		>
	</p>
{:else}
	{#if found}
		<p class="told">
			As passed on it dips {found.there_hz === null
				? 'nowhere near'
				: `at ${megahertz(found.there_hz)} MHz`}; here {found.here_hz === null
				? 'nowhere near'
				: `at ${megahertz(found.here_hz)} MHz`}.
		</p>
		{#if found.differences.length}
			<ul class="told">
				{#each found.differences as each (each.name)}
					<li>{differenceText(each, work.labels, units.length)}</li>
				{/each}
			</ul>
		{:else}<p class="told soft">
				Nothing differs here yet: set height, soil and wire as they are.
			</p>{/if}
		{#if change && hand}
			<p class="told">
				Change first: <strong>{hand.label}</strong>
				{numberText(hand.unit, change.from, units.length)} to
				<strong>{numberText(hand.unit, change.to, units.length)}</strong>.
			</p>
		{/if}
	{:else}<p class="told soft">…</p>{/if}
	<p class="row">
		<button class="button" onclick={() => void work.attempt(() => work.keep({ recipe: null }))}
			>Forget the recipe</button
		>
	</p>
{/if}
{#if hasCoil}
	<div class="row told">
		<QuantityField
			label="Coil of turns"
			kind="turns"
			width={5}
			shown={turns === null ? '' : figures(turns)}
			onsettle={(n) => {
				turns = n;
				return wound();
			}}
		/>
		<QuantityField
			label="touching, on"
			kind="wire"
			width={7}
			shown={millimetres(former)}
			onsettle={(m) => {
				former = m;
				return wound();
			}}
		/>
		{#if turns !== null}<span class="soft"
				>{quantity(work.antenna?.numbers['inductance_h'] ?? 0, 'H')}, of 1.6 mm wire</span
			>{/if}
	</div>
{/if}
{#if work.kind?.by_unun}
	<label class="told check"
		>Its unun
		<select
			value={String(Math.round((work.plan.feed_ohm ?? work.kind?.feed_ohm ?? 2450) / 50))}
			onchange={(event) =>
				void work.attempt(() => work.keep({ feed_ohm: 50 * Number(event.currentTarget.value) }))}
		>
			{#each ratios as ratio (ratio)}<option value={String(ratio)}>{ratio} : 1</option>{/each}
		</select></label
	>
{/if}

<style>
	ul {
		padding-left: 18px;
	}
	h2 ~ :global(*) {
		margin-top: 6px;
	}
</style>
