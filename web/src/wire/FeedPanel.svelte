<!-- @component
	What the antenna shows at its feed: SWR against what its kind asks for, or R and X, with the range of nine in ten.
-->
<script lang="ts">
	import { answer, api, type Schemas, type Target } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { latest } from '../lib/api/latest.svelte';
	import { valueAt } from '../lib/charts/curve';
	import ImpedanceChart from '../lib/charts/ImpedanceChart.svelte';
	import SwrChart from '../lib/charts/SwrChart.svelte';
	import MarkerSlider from '../lib/controls/MarkerSlider.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, impedance, swr } from '../lib/units/format';
	import type { AntennaPlan } from './plan.svelte';

	interface Props {
		work: AntennaPlan;
		/** In full, or what was told before. */
		study: Schemas['StudyOut'] | null;
		/** Whether the newest is still worked out. */
		stale: boolean;
		target: Target;
	}

	let { work, study, stale, target }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	const { shown, full } = $derived(work);
	const middle = $derived((target.low_hz + target.high_hz) / 2);
	const feedOhm = $derived(work.plan.feed_ohm ?? work.kind?.feed_ohm ?? 50);
	const frame = $derived.by(() => {
		const f = shown?.frequency_hz ?? [];
		const lowHz = f[0] ?? target.low_hz * 0.95;
		const highHz = f.at(-1) ?? target.high_hz * 1.05;
		return {
			lowHz,
			highHz,
			targets: build.targets.filter((t) => t.high_hz > lowHz && t.low_hz < highHz),
			markerHz: page.markerIn(lowHz, highHz),
			onmarker: (hz: number, settled: boolean) => page.mark(hz, settled),
			height: 214
		};
	});
	const curve = $derived(shown && { frequency_hz: shown.frequency_hz, values: shown.swr });
	const swrFan = $derived(
		full && {
			hz: full.sketch.frequency_hz,
			low: full.swr.low,
			high: full.swr.high
		}
	);
	const zFan = $derived(
		full && {
			low_resistance_ohm: full.resistance.low,
			high_resistance_ohm: full.resistance.high,
			low_reactance_ohm: full.reactance.low,
			high_reactance_ohm: full.reactance.high
		}
	);
	let asked = $state<'swr' | 'z'>('swr');

	// A sweep of the same wire, laid over what is modelled.
	const swept = $derived(build.sweeps.filter((s) => s.carries === 'impedance').at(-1));
	const over = latest(
		() =>
			swept && swept.low_hz < frame.highHz && swept.high_hz > frame.lowHz ? { id: swept.id } : null,
		({ id }) =>
			answer(
				api.GET('/api/sweeps/{sweep_id}/curves', {
					params: { path: { sweep_id: id }, query: { points: 400 } }
				})
			)
	);
	const seenAt = (hz: number) =>
		shown && {
			r: valueAt(shown.frequency_hz, shown.resistance_ohm, hz),
			x: valueAt(shown.frequency_hz, shown.reactance_ohm, hz),
			swr: valueAt(shown.frequency_hz, shown.swr, hz)
		};
	const seen = $derived(seenAt(frame.markerHz));
	const centre = $derived(seenAt(middle));
</script>

<section class="sheet shows">
	<div class="head">
		<h2>{asked === 'swr' ? 'SWR' : 'R and X'}</h2>
		<span class="soft told"
			>{asked === 'swr'
				? `against ${figures(feedOhm, 4)} Ω, which its feed expects`
				: 'at its feedpoint'}</span
		>
		<span class="row" role="group" aria-label="What is drawn">
			<button
				class="button"
				class:main={asked === 'swr'}
				aria-pressed={asked === 'swr'}
				onclick={() => (asked = 'swr')}>SWR</button
			>
			<button
				class="button"
				class:main={asked === 'z'}
				aria-pressed={asked === 'z'}
				onclick={() => (asked = 'z')}>R and X</button
			>
		</span>
	</div>
	{#if shown && curve}
		{#if asked === 'swr'}
			<SwrChart
				{frame}
				antenna={curve}
				antennaTitle="as modelled"
				modelled
				fan={swrFan ?? undefined}
				fanHue="blueprint"
			/>
		{:else}
			<ImpedanceChart
				{frame}
				curves={shown}
				hue="blueprint"
				modelled
				fan={zFan}
				others={over.value ? [{ name: swept?.name ?? 'swept', curves: over.value }] : []}
			/>
		{/if}
		<MarkerSlider
			lowHz={frame.lowHz}
			highHz={frame.highHz}
			markerHz={frame.markerHz}
			stepHz={(frame.highHz - frame.lowHz) / 100}
			says={seen ? `${impedance(seen.r, seen.x)}, SWR ${swr(seen.swr)}` : ''}
			onmarker={frame.onmarker}
		/>
		{#if seen}<span class="mono told">{impedance(seen.r, seen.x)} · {swr(seen.swr)} : 1</span>{/if}
		<p class="told soft">
			{#if centre}In the middle of {target.label}
				<span class="mono">{impedance(centre.r, centre.x)}</span>{/if}{#if study}, worst in the band
				<strong class:bad={(study.worst_swr ?? 99) > target.swr_limit}
					>{swr(study.worst_swr)}</strong
				>.{/if}
			{#if stale}<span role="status"
					>Working out ranges, watts and lengths…
					<button class="plain" onclick={() => work.study.drop()}>stop</button></span
				>{/if}
		</p>
		<QuantityField
			label="Its feed expects"
			kind="resistance"
			shown="{figures(feedOhm, 4)} Ω"
			width={8}
			onsettle={(ohm) => work.keep({ feed_ohm: ohm })}
		/>
	{/if}
</section>

<style>
	.bad {
		color: var(--enamel);
	}
</style>
