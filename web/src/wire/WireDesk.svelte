<!-- @component
	The wire desk: how long to cut, by which school and how surely; the cut list; and sums beside it.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Build,
		type LengthsOut,
		problemText,
		type Target
	} from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Desk from '../lib/shell/Desk.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, length, megahertz } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import TargetChooser from '../sweep/TargetChooser.svelte';
	import RelatedLengths from './RelatedLengths.svelte';
	import { forms } from './forms';
	import CutList from './CutList.svelte';
	import Schools from './Schools.svelte';
	import WirePicture from './WirePicture.svelte';

	const page = openBuild();
	const build = $derived(page.build);

	type Plan = NonNullable<Build['wire']>;
	let refused = $state<string | null>(null);
	let band = $state(0);
	const plan = $derived<Partial<Plan>>(build.wire ?? {});
	const form = $derived(plan.form ?? 'dipole');
	const middle = (t: Target) => (t.low_hz + t.high_hz) / 2;

	async function attempt(act: () => Promise<unknown>): Promise<void> {
		try {
			await act();
			refused = null;
		} catch (why) {
			refused = problemText(why);
		}
	}
	/** Another kind of antenna begins with the rule that is usual for it. */
	const planned = (key: string): Partial<Plan> => {
		const chosen = forms.find((f) => f.key === key);
		return { form: chosen?.key, rule: chosen?.rule };
	};
	const set = (changes: Partial<Plan>) =>
		attempt(() => page.change({ wire: { ...plan, ...changes } as Plan }));

	// The lengths follow the plan, the bands and the tape.
	const lengths = latest(
		() => ({
			plan,
			unit: units.length,
			bands: build.targets.map((t) => ({ label: t.label, frequency_hz: middle(t) }))
		}),
		(body) => answer(api.POST('/api/lengths', { body })),
		{ keeps: true }
	);
	const found = $derived(lengths.value);
	const problem = $derived(refused ?? lengths.problem);

	const shown = $derived(found?.bands[Math.min(band, (found?.bands.length ?? 1) - 1)] ?? null);
	const whole = (b: LengthsOut['bands'][number]) =>
		b.schools.find((s) => s.key === found?.rule)?.whole_m ?? b.leg_m;
	const links = $derived(
		(found?.bands ?? []).map((b) => ({
			label: b.label,
			target_hz: b.frequency_hz,
			leg_m: form === 'loop' ? whole(b) : b.leg_m,
			folded_m: 0
		}))
	);
	const first = $derived(found?.cuts[0] ?? null);
	const several = $derived((found?.cuts.length ?? 0) > 1);
	const what = $derived(form === 'dipole' ? 'two legs' : form === 'loop' ? 'one wire' : 'the wire');
</script>

{#if problem}<Note kind="danger">{problem}</Note>{/if}
<Desk>
	{#snippet drop()}
		<WirePicture
			{form}
			{links}
			nested={plan.arrangement === 'nested'}
			hung={false}
			chosen={band}
			corners={plan.corners ?? 4}
		/>
	{/snippet}
	{#snippet pictures()}
		<section class="sheet unprinted">
			<div class="row">
				<label class="told"
					>Antenna
					<select value={form} onchange={(event) => set(planned(event.currentTarget.value))}>
						{#each forms as { key, name } (key)}<option value={key}>{name}</option>{/each}
					</select></label
				>
				{#if form === 'loop'}
					<label class="told"
						>Corners
						<select
							value={String(plan.corners ?? 4)}
							onchange={(event) =>
								set({ corners: Number(event.currentTarget.value) as Plan['corners'] })}
						>
							<option value="3">three</option>
							<option value="4">four</option>
						</select></label
					>
				{/if}
				{#if build.targets.length > 1}
					<label class="told"
						>Bands are
						<select
							value={plan.arrangement ?? 'linked'}
							onchange={(event) =>
								set({ arrangement: event.currentTarget.value as Plan['arrangement'] })}
						>
							<option value="linked">linked, one wire end to end</option>
							<option value="nested">nested, a wire of its own each</option>
						</select></label
					>
				{/if}
				<label class="told check"
					><input
						type="checkbox"
						checked={plan.covered ?? false}
						onchange={(event) => set({ covered: event.currentTarget.checked })}
					/> covered wire</label
				>
				<QuantityField
					label="Over the mark, of a leg"
					kind="share"
					shown="{figures(100 * (plan.added ?? 0.045), 2)} %"
					width={5}
					onsettle={(added) => page.change({ wire: { ...plan, added } as Plan })}
				/>
			</div>
		</section>
		<section class="sheet unprinted">
			<div class="head">
				<h2>
					{found?.part === 'leg' ? 'One leg' : found?.part === 'side' ? 'One side' : 'The wire'}, by
					school <Help topic="lengths" name="lengths" />
				</h2>
				{#if several}
					<div class="row" role="group" aria-label="Band">
						{#each found?.bands ?? [] as b, i (i)}
							<button
								class="button"
								class:main={i === band}
								aria-pressed={i === band}
								onclick={() => (band = i)}>{b.label}</button
							>
						{/each}
					</div>
				{/if}
			</div>
			{#if shown}
				<Schools schools={shown.schools} chosen={found?.rule} onchoose={(rule) => set({ rule })} />
			{/if}
		</section>
		{#if found}
			<section class="sheet">
				<div class="head">
					<h2>Cut list</h2>
					<button class="button" onclick={() => print()}>Print it</button>
				</div>
				<CutList {found} />
				{#if several}
					<p class="told">
						{plan.arrangement === 'nested'
							? 'Wires side by side shift each other by a percent or two: leave more over the mark, and trim the highest band first.'
							: 'From the feedpoint outwards, highest band first: trim in that order, because every inner piece belongs to all bands outside it.'}
					</p>
				{/if}
			</section>
		{/if}
		<section class="sheet unprinted">
			<h2>Beside it</h2>
			<RelatedLengths frequencyHz={shown?.frequency_hz ?? middle(build.targets[0] as Target)} />
		</section>
	{/snippet}
	{#snippet verdict()}
		<section class="sheet verdict">
			{#if first && shown}
				<p class="do">Cut {what}{several ? `, ${first.label} first,` : ''} of</p>
				<p><span class="figure">{length(first.cut_m, units.length)}</span></p>
				<p class="told">
					{length(first.measure_m, units.length)} to the mark, {length(first.add_m, units.length)}
					over it to fold back. For {megahertz(shown.frequency_hz)} MHz a
					{found?.part === 'leg' ? 'leg' : found?.part === 'side' ? 'side' : 'wire'} may end up anywhere
					from {length(shown.low_m, units.length)} to {length(shown.high_m, units.length)}: height,
					nearby objects and covering decide, and no rule knows them.
				</p>
				{#if form === 'five-eighths'}
					<p class="told">
						It is not resonant: hang it, sweep it, and choose a match. Its length is not critical.
					</p>
				{/if}
			{/if}
		</section>
		<section class="sheet unprinted">
			<h3 class="eyebrow">Next</h3>
			<p class="row">
				<a
					class="button main"
					href="/builds/{build.id}/{form === 'five-eighths' ? 'sweep' : 'trim'}"
					>{form === 'five-eighths' ? 'Hang it and sweep' : 'Hang it and trim'}</a
				>
			</p>
		</section>
		<section class="sheet unprinted">
			<details>
				<summary>Bands: {build.targets.map((t) => t.label).join(', ')}</summary>
				<TargetChooser sweep={build.sweeps.find((s) => s.id === build.baseline_sweep_id)} />
			</details>
		</section>
		<Note kind="danger">
			Look up before a wire goes up: no power line within reach of the wire, the throw or the
			falling mast. Mark low wires. Local rules and qualified people come before this page.
		</Note>
	{/snippet}
</Desk>

<style>
	.verdict {
		display: grid;
		gap: 6px;
	}
	summary {
		cursor: pointer;
	}
	.row {
		align-items: end;
	}
	.sheet > * + :global(*) {
		margin-top: 8px;
	}
</style>
