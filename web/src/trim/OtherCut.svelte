<!-- @component
	What was really done, where that was something else: kind of act, and an amount for each leg.
-->
<script lang="ts">
	import { untrack } from 'svelte';

	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Stepper from './Stepper.svelte';
	import type { Done, Trimming } from './trimming.svelte';

	interface Props {
		work: Trimming;
		onclose: () => void;
		/** Called once it is in the log. */
		ondone?: () => void | Promise<void>;
	}

	let { work, onclose, ondone }: Props = $props();

	const trim = $derived(work.view);
	const folded = $derived((trim?.links[trim.link]?.folded_m ?? 0) > 0);
	const choices = $derived<[Done, string][]>([
		['fold', 'Folded back'],
		['cut', 'Cut off'],
		...(folded
			? ([
					['unfold', 'Unfolded'],
					['cut_folds', 'Cut off all folds']
				] as [Done, string][])
			: []),
		['splice', 'Spliced on']
	]);
	const said = untrack(() => work.view?.next);
	let done = $state<Done>(!said || said.act === 'none' ? 'fold' : said.act);
	let first = $state(said?.per_leg_m || 0.05);
	let second = $state<number | null>(null);
	const step = $derived(units.length === 'm' ? 0.005 : 0.0254 / 4);

	async function keep(): Promise<void> {
		const amounts = done === 'cut_folds' ? [] : second === null ? [first] : [first, second];
		const kept = await work.attempt(() =>
			work.act(done, trim?.legs === 2 && amounts.length === 1 ? [first, first] : amounts)
		);
		if (!kept) return;
		onclose();
		await ondone?.();
	}
</script>

<div class="other">
	<p class="eyebrow">What did you do?</p>
	<div class="row">
		{#each choices as [key, name] (key)}
			<button
				class="button"
				class:main={done === key}
				aria-pressed={done === key}
				onclick={() => (done = key)}>{name}</button
			>
		{/each}
	</div>
	{#if done !== 'cut_folds'}
		<Stepper
			label={trim?.legs === 2 ? (second === null ? 'From each leg' : 'From one leg') : 'How much'}
			kind="length"
			value={first}
			{step}
			least={step}
			text={(m) => length(m, units.length)}
			onchange={(m) => (first = m)}
		/>
		{#if trim?.legs === 2}
			{#if second !== null}
				<Stepper
					label="From the other"
					kind="length"
					value={second}
					{step}
					least={step}
					text={(m) => length(m, units.length)}
					onchange={(m) => (second = m)}
				/>
			{:else}
				<button class="plain" onclick={() => (second = first)}>The legs differ</button>
			{/if}
		{/if}
	{/if}
	<div class="row">
		<button class="button main" disabled={work.working} onclick={keep}>That is what I did</button>
		<button class="button" onclick={onclose}>Back</button>
	</div>
</div>

<style>
	.other {
		display: grid;
		gap: 10px;
	}
	.plain {
		justify-self: start;
		min-height: 32px;
	}
</style>
