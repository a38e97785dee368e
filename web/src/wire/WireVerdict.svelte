<!-- @component
	The piece to cut, by the model; of a set of wires for several bands by the chosen rule.
-->
<script lang="ts">
	import type { LengthsOut, Schemas, Target } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { length, megahertz } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import type { AntennaPlan } from './plan.svelte';
	import { dipText, numberText } from './words';

	interface Props {
		work: AntennaPlan;
		/** In full, or what was told before. */
		study: Schemas['StudyOut'] | null;
		stale: boolean;
		/** What rules say of a set of wires, and of the band that is looked at; null for one wire. */
		set: LengthsOut | null;
		ofSet: LengthsOut['bands'][number] | null;
		target: Target;
	}

	let { work, study, stale, set, ofSet, target }: Props = $props();

	const build = $derived(openBuild().build);
	const kind = $derived(work.kind);
	/** Of several bands at once, the piece of this one. */
	const first = $derived(study?.pieces[study.lengths.band] ?? null);
	const hand = $derived(work.labels[study?.lengths.tuned_by ?? '']);
	const off = $derived(study?.asked_for ?? null);
</script>

<section class="sheet verdict" class:stale aria-busy={stale}>
	{#if set && ofSet}
		{@const cut = set.cuts[0]}
		<p class="do">
			Cut {build.wire?.form === 'loop'
				? 'one wire'
				: build.wire?.form === 'vertical'
					? 'the wire'
					: 'two legs'},
			{cut?.label} first, of
		</p>
		<p><span class="figure">{length(cut?.cut_m ?? 0, units.length)}</span></p>
		<p class="told">
			{length(cut?.measure_m ?? 0, units.length)} to the mark, {length(
				cut?.add_m ?? 0,
				units.length
			)}
			over it to fold back. For {megahertz(ofSet.frequency_hz)} MHz a
			{set.part === 'leg' ? 'leg' : set.part === 'side' ? 'side' : 'wire'} may end up anywhere from
			{length(ofSet.low_m, units.length)} to {length(ofSet.high_m, units.length)}: height, nearby
			objects and covering decide, and no rule knows them.
		</p>
	{:else if first && study}
		<p class="do">
			{first.count > 1 ? `Cut ${first.count} × ${first.label}` : `Cut the ${first.label}`}, and fold
			back to the mark
		</p>
		<p><span class="figure">{length(first.cut_m, units.length)}</span></p>
		<p class="told">
			{length(first.measure_m, units.length)} to the mark, {length(first.add_m, units.length)} over it.
			{#if kind?.resonant}On {target.label}
				{dipText(study).replace(/^T/, 't')} A sweep of the first hanging narrows that.{:else}It is
				not resonant: hang it, sweep it, and choose a match. Its length is not critical.{/if}
		</p>
		{#if off}
			<p class="told">
				For {megahertz((target.low_hz + target.high_hz) / 2)} MHz: {hand?.label ?? ''}
				<strong>{hand ? numberText(hand.unit, off, units.length) : ''}</strong>.
				<button class="button main" onclick={() => void work.bring()}>Bring it there</button>
			</p>
		{/if}
	{:else}
		<p class="wait soft">How long to cut follows…</p>
	{/if}
</section>

<style>
	.verdict {
		display: grid;
		gap: 6px;
	}
	.stale {
		opacity: 0.5;
	}
	.wait {
		min-height: 60px;
	}
</style>
