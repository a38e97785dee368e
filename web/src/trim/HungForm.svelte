<!-- @component
	How long the legs are as the wire hangs: the beginning of the trail.
-->
<script lang="ts">
	import { answer, api, type Build } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Stepper from './Stepper.svelte';
	import type { Trimming } from './trimming.svelte';

	interface Props {
		build: Build;
		work: Trimming;
		onclose?: () => void;
	}

	let { build, work, onclose }: Props = $props();

	const plan = $derived(build.wire ?? {});
	const nested = $derived(plan.arrangement === 'nested');
	let said = $state.raw<Record<number, number>>({});
	let folded = $state.raw<Record<number, number>>({});
	let withFolds = $state(false);

	// The plan's lengths are what it most likely was cut to.
	const lengths = latest(
		() => ({
			plan,
			unit: units.length,
			bands: build.targets.map((t) => ({
				label: t.label,
				frequency_hz: (t.low_hz + t.high_hz) / 2
			}))
		}),
		(body) => answer(api.POST('/api/lengths', { body }))
	);
	const planned = $derived(lengths.value);

	const reach = $derived.by(() => {
		let so_far = 0;
		return (planned?.cuts ?? []).map((cut, i) => {
			so_far = nested ? cut.cut_m : so_far + cut.cut_m;
			return said[i] ?? so_far;
		});
	});
	const what = $derived(
		plan.form === 'loop' ? 'Whole wire' : plan.form === 'vertical' ? 'Wire' : 'One leg'
	);
	const step = $derived(units.length === 'm' ? 0.01 : 0.0254);

	async function keep(): Promise<void> {
		const data = {
			kind: 'hung' as const,
			form: plan.form ?? 'dipole',
			arrangement: plan.arrangement ?? 'linked',
			reach_m: reach,
			folded_m: withFolds ? reach.map((_, i) => folded[i] ?? 0) : []
		};
		if (await work.attempt(() => work.log(data))) onclose?.();
	}
</script>

<div class="hung">
	<p class="told">
		{#if plan.form === 'loop'}All the wire there is, once round.{:else}From the feedpoint to where
			it ends, folds included{reach.length > 1 && !nested
				? '; of the outer bands with all that lies inside them'
				: ''}.{/if}
	</p>
	{#each planned?.cuts ?? [] as cut, i (i)}
		<Stepper
			label="{what}{reach.length > 1 ? `, ${cut.label}` : ''}"
			kind="length"
			value={reach[i] ?? 0}
			{step}
			least={step}
			text={(m) => length(m, units.length)}
			onchange={(m) => (said = { ...said, [i]: m })}
		/>
		{#if withFolds}
			<Stepper
				label="of it folded back{reach.length > 1 ? `, ${cut.label}` : ''}"
				kind="length"
				value={folded[i] ?? 0}
				{step}
				least={0}
				text={(m) => length(m, units.length)}
				onchange={(m) => (folded = { ...folded, [i]: m })}
			/>
		{/if}
	{/each}
	<label class="told check"
		><input type="checkbox" bind:checked={withFolds} /> some of it is folded back already</label
	>
	<p class="row">
		<button class="button main" disabled={!planned || work.working} onclick={keep}
			>So it hangs</button
		>
		{#if onclose}<button class="button" onclick={onclose}>Back</button>{/if}
	</p>
</div>

<style>
	.hung {
		display: grid;
		gap: 10px;
	}
</style>
