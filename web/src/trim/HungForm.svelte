<!-- @component
	How long the legs are as the wire hangs: the beginning of the trail.
-->
<script lang="ts">
	import { answer, api, type Build } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { kinds } from '../wire/kinds.svelte';
	import Stepper from './Stepper.svelte';
	import type { Trimming } from './trimming.svelte';

	interface Props {
		build: Build;
		work: Trimming;
		onclose?: () => void;
	}

	let { build, work, onclose }: Props = $props();

	kinds.load();
	/** Forms that have two legs. */
	const LEGS = ['dipole', 'loaded-dipole', 'trap-dipole', 'long-dipole'];
	const plan = $derived(build.wire ?? {});
	const nested = $derived(plan.arrangement === 'nested');
	let said = $state.raw<Record<number, number>>({});
	let folded = $state.raw<Record<number, number>>({});
	let folds = $state<boolean | null>(null);

	// The plan's lengths are what it most likely was cut to.
	const lengths = latest(
		() =>
			oneWire
				? null
				: {
						plan,
						unit: units.length,
						bands: build.targets.map((t) => ({
							label: t.label,
							frequency_hz: (t.low_hz + t.high_hz) / 2
						}))
					},
		(body) => answer(api.POST('/api/lengths', { body }))
	);
	// One wire by its numbers: hung with what lies over its mark folded back.
	const oneWire = $derived(
		plan.antenna &&
			(build.targets.length === 1 ||
				kinds.get(plan.antenna.antenna)?.in_sets === false ||
				(kinds.get(plan.antenna.antenna)?.bands ?? 1) > 1)
			? plan.antenna
			: null
	);
	const pieces = latest(
		() =>
			oneWire && build.targets[0]
				? {
						antenna: oneWire,
						target: build.targets[0],
						others: build.targets.slice(1),
						added: plan.added ?? 0.045,
						unit: units.length
					}
				: null,
		(body) => answer(api.POST('/api/structures/pieces', { body }))
	);
	const planned = $derived(
		oneWire
			? pieces.value && {
					cuts: pieces.value.reaches.map((each, i, all) => ({
						label: work.view?.links[i]?.label ?? build.targets[0]?.label ?? '',
						// A piece of its own each, or what lies beyond the one inside it.
						cut_m: each.reach_m - (nested || i === 0 ? 0 : (all[i - 1]?.reach_m ?? 0))
					}))
				}
			: lengths.value
	);

	const reach = $derived.by(() => {
		let so_far = 0;
		return (planned?.cuts ?? []).map((cut, i) => {
			so_far = nested ? cut.cut_m : so_far + cut.cut_m;
			return said[i] ?? so_far;
		});
	});
	const what = $derived(
		plan.form === 'loop' ? 'Whole wire' : LEGS.includes(plan.form ?? 'dipole') ? 'One leg' : 'Wire'
	);
	/** What is folded back of it as it goes up. */
	const usual = $derived(oneWire ? (pieces.value?.reaches ?? []).map((each) => each.folded_m) : []);
	const withFolds = $derived(folds ?? usual.some((back) => back > 0));
	const step = $derived(units.length === 'm' ? 0.01 : 0.0254);

	async function keep(): Promise<void> {
		const data = {
			kind: 'hung' as const,
			form: plan.form ?? 'dipole',
			arrangement: plan.arrangement ?? 'linked',
			reach_m: reach,
			folded_m: withFolds ? reach.map((_, i) => folded[i] ?? usual[i] ?? 0) : []
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
				value={folded[i] ?? usual[i] ?? 0}
				{step}
				least={0}
				text={(m) => length(m, units.length)}
				onchange={(m) => (folded = { ...folded, [i]: m })}
			/>
		{/if}
	{/each}
	<label class="told check"
		><input
			type="checkbox"
			checked={withFolds}
			onchange={(event) => (folds = event.currentTarget.checked)}
		/> some of it is folded back already</label
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
