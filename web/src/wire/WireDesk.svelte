<!-- @component
	The wire desk: the antenna in its place, what it shows and where its watts go, how long by model and by rule, and
	the piece to cut.
-->
<script lang="ts">
	import { answer, api, type Schemas, type Target } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, length, megahertz, quantity, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import TargetChooser from '../sweep/TargetChooser.svelte';
	import AntennaFields from './AntennaFields.svelte';
	import AntennaPicture from './AntennaPicture.svelte';
	import CoilPlaces from './CoilPlaces.svelte';
	import CutList from './CutList.svelte';
	import ElevationChart from './ElevationChart.svelte';
	import FeedPanel from './FeedPanel.svelte';
	import ModelLengths from './ModelLengths.svelte';
	import NextSteps from './NextSteps.svelte';
	import OtherBands from './OtherBands.svelte';
	import WattsFlow from '../lib/charts/WattsFlow.svelte';
	import LazyPage from '../lib/shell/LazyPage.svelte';
	import RecipePanel from './RecipePanel.svelte';
	import RelatedLengths from './RelatedLengths.svelte';
	import ReturnPath from './ReturnPath.svelte';
	import ReturnSchools from './ReturnSchools.svelte';
	import SagNote from './SagNote.svelte';
	import Schools from './Schools.svelte';
	import TrapsPanel from './TrapsPanel.svelte';
	import WireVerdict from './WireVerdict.svelte';
	import { kinds, usualKind } from './kinds.svelte';
	import { AntennaPlan } from './plan.svelte';
	import { lowText } from './words';
	import { walkByKey } from '../lib/controls/walkByKey';

	const page = openBuild();
	const build = $derived(page.build);
	let band = $state(0);
	const middle = (t: Target) => (t.low_hz + t.high_hz) / 2;

	/** Several wires of it, linked or nested, serve several bands. */
	const planned = $derived(
		kinds.get(build.wire?.antenna?.antenna ?? usualKind[build.wire?.form ?? 'dipole'])
	);
	const isSet = $derived(
		build.targets.length > 1 && planned?.bands === 1 && (planned?.in_sets ?? false)
	);
	const bands = $derived(
		isSet ? [...build.targets].sort((a, b) => middle(b) - middle(a)) : build.targets
	);
	const target = $derived(bands[Math.min(band, bands.length - 1)] as Target);
	const work = new AntennaPlan(
		page,
		() => target,
		() => isSet && band > 0
	);
	const { plan, antenna, kind, shown, full } = $derived(work);
	/** In full; while the newest is worked out, what was told of the same kind before, dimmed. */
	const study = $derived(full ?? work.before);
	const stale = $derived(full === null);

	// What rules say of a set of wires; of one wire they stand beside the model.
	const rules = latest(
		() =>
			isSet
				? {
						plan: { ...plan, antenna: null, recipe: null },
						unit: units.length,
						bands: build.targets.map((t) => ({ label: t.label, frequency_hz: middle(t) }))
					}
				: null,
		(body) => answer(api.POST('/api/lengths', { body })),
		{ keeps: true }
	);
	const set = $derived(rules.value);
	const ofSet = $derived(set?.bands[Math.min(band, set.bands.length - 1)] ?? null);
	const problem = $derived(
		work.refused ?? work.sketch.problem ?? work.study.problem ?? rules.problem
	);

	let other = $state<'vertical' | 'dipole' | null>(null);
	const than = $derived(other ?? (antenna?.antenna === 'vertical' ? 'dipole' : 'vertical'));

	const loads = $derived(
		{ 'loaded-dipole': 'coils', 'trap-dipole': 'traps', 'trap-vertical': 'trap' }[
			antenna?.antenna as string
		] ?? 'coil'
	);
	const soilName = $derived(
		kinds.soils.find(
			(s) =>
				s.soil.conductivity_s_per_m === antenna?.soil?.conductivity_s_per_m &&
				s.soil.relative_permittivity === antenna?.soil?.relative_permittivity
		)?.name ?? 'soil as typed'
	);
	const tuning = $derived(study?.lengths.tuned_by ?? '');
	const hand = $derived(work.labels[tuning]);
</script>

<svelte:window onkeydown={(event) => walkByKey(event, (way) => void work.walk(way))} />
{#if problem}<Note kind="danger">{problem}</Note>{/if}
<div class="desk">
	<div class="left">
		<section class="sheet place">
			<div class="head">
				<label class="told check"
					><span class="unseen">Antenna</span>
					<select
						aria-label="Antenna"
						value={antenna?.antenna ?? ''}
						onchange={(event) => void work.become(event.currentTarget.value)}
					>
						{#each kinds.all as { key, name } (key)}<option value={key}>{name}</option>{/each}
					</select></label
				>
				{#if bands.length > 1}
					<div class="row" role="group" aria-label="Band">
						{#each bands as b, i (b.label + String(i))}
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
			<div class="row under">
				{#if kind}<p class="soft told">
						Drag a place, or type. For {kind.purpose}; fed by {kind.fed_by}.
					</p>{/if}
				<span class="row walk unprinted">
					<button class="button" disabled={!work.canUndo} onclick={() => void work.walk('undo')}
						>Undo</button
					>
					<button class="button" disabled={!work.canRedo} onclick={() => void work.walk('redo')}
						>Redo</button
					>
				</span>
			</div>
			{#if shown && antenna && kind}
				<AntennaPicture
					sketch={shown}
					labels={work.labels}
					soil={soilName}
					moving={work.moving}
					onmove={(handle, x, z, settled) => void work.move(handle, x, z, settled)}
				/>
				<AntennaFields
					antenna={work.dragged ? shown.antenna : antenna}
					{kind}
					soils={kinds.soils}
					onchange={(edit) => work.change(edit)}
					onpick={(edit) => void work.attempt(() => work.change(edit))}
				/>
			{:else}
				<p class="wait soft">Bringing it to its band…</p>
			{/if}
		</section>
		<div class="two">
			<FeedPanel {work} {study} {stale} {target} />
			<section class="sheet low" class:stale aria-busy={stale}>
				<div class="head">
					<h2>How low it goes</h2>
					<span class="soft told">{megahertz(middle(target))} MHz</span>
					<label class="told check"
						>beside
						<select
							value={than}
							onchange={(event) => (other = event.currentTarget.value as 'vertical')}
						>
							<option value="vertical">a quarter-wave</option>
							<option value="dipole">a level dipole</option>
						</select></label
					>
				</div>
				{#if study}
					<ElevationChart cuts={study.cuts} other={than} />
					<p class="told">{lowText(study, than)}</p>
				{:else}<p class="wait soft">…</p>{/if}
			</section>
		</div>
		<section class="sheet cuts" class:stale aria-busy={stale}>
			<div class="head">
				<h2>Cut list</h2>
				{#if isSet}
					<label class="told check"
						>Bands are
						<select
							value={plan.arrangement ?? 'linked'}
							onchange={(event) =>
								void work.attempt(() =>
									work.keep({ arrangement: event.currentTarget.value as 'linked' })
								)}
						>
							<option value="linked">linked, one wire end to end</option>
							<option value="nested">nested, a wire of its own each</option>
						</select></label
					>
				{/if}
				<QuantityField
					label="Over the mark"
					kind="share"
					shown="{figures(100 * (plan.added ?? 0.045), 2)} %"
					width={5}
					onsettle={(added) => work.keep({ added })}
				/>
				<button class="button" onclick={() => print()}>Print it</button>
			</div>
			{#if isSet && set}
				<CutList cuts={set.cuts} wireM={set.wire_m} />
				<p class="told">
					{plan.arrangement === 'nested'
						? 'Wires side by side shift each other by a percent or two: leave more over the mark, and trim the highest band first.'
						: 'From the feedpoint outwards, highest band first: trim in that order, because every inner piece belongs to all bands outside it.'}
				</p>
			{:else if study}
				<CutList cuts={study.pieces} wireM={study.wire_m} />
			{:else}<p class="wait soft">…</p>{/if}
		</section>
	</div>
	<div class="mid">
		<section class="sheet long" class:stale aria-busy={stale}>
			<h2>
				How long, by school <Help topic="lengths" name="lengths" />
			</h2>
			{#if isSet && ofSet}
				<Schools
					schools={ofSet.schools}
					chosen={set?.rule}
					onchoose={(rule) => void work.attempt(() => work.keep({ rule }))}
				/>
				{#if study?.lengths.value}
					<p class="told">
						The model says <strong class="mono">{length(study.lengths.part_m, units.length)}</strong
						>
						for
						{target.label} alone{study.lengths.low && study.lengths.high && hand?.unit === 'm'
							? `, ${length((study.lengths.low * study.lengths.part_m) / study.lengths.value, units.length)} to ${length((study.lengths.high * study.lengths.part_m) / study.lengths.value, units.length)}`
							: ''}.
					</p>
				{/if}
			{:else if study}
				<ModelLengths lengths={study.lengths} number={hand} />
			{:else}<p class="wait soft">…</p>{/if}
			{#if kind?.form === 'end-fed'}<ReturnPath {work} frequencyHz={middle(target)} />
				<ReturnSchools {work} {target} />{/if}
			{#if study?.sag}<SagNote
					sag={study.sag}
					movesHz={study.sag_moves_hz}
					onpull={(pull_n) => work.keep({ pull_n })}
				/>{/if}
		</section>
		{#if antenna && (antenna.antenna === 'loaded-vertical' || antenna.antenna === 'loaded-dipole')}
			<section class="sheet"><CoilPlaces {work} {target} /></section>
		{/if}
		{#if antenna && (antenna.antenna === 'trap-dipole' || antenna.antenna === 'trap-vertical')}
			<section class="sheet"><TrapsPanel {work} {target} /></section>
		{/if}
		<section class="sheet flow" class:stale aria-busy={stale}>
			<h2>Where {watts(build.power_w)} go <span class="soft told">modelled</span></h2>
			{#if study}
				<WattsFlow
					radiated={study.radiated}
					places={[
						{ key: 'ground', name: 'ground', w: study.ground },
						{ key: 'loads', name: loads, w: study.loads },
						{ key: 'wire', name: 'wire', w: study.wire }
					]}
					powerW={build.power_w}
					into="at its feedpoint"
				/>
				<p class="soft told">
					Into the sky over this soil, with what the soil takes near by and far away.
				</p>
			{:else}<p class="wait soft">…</p>{/if}
		</section>
		{#if antenna}
			<section class="sheet">
				<LazyPage
					page={() => import('./FitPanel.svelte')}
					given={{
						work,
						ontake: (taken: Schemas['WireAntenna']) =>
							void work.attempt(() => work.change(() => taken))
					}}
				/>
			</section>
		{/if}
		<section class="sheet recipe unprinted">
			<RecipePanel {work} study={full} />
		</section>
	</div>
	<aside class="right" aria-label="Verdict and next steps">
		<WireVerdict {work} {study} {stale} {set} {ofSet} {target} />
		<NextSteps
			{kind}
			{antenna}
			study={full}
			{isSet}
			onq={(q) =>
				void work.attempt(() => work.change((now) => ({ ...now, numbers: { ...now.numbers, q } })))}
		/>
		{#if study && study.others.length && !isSet}
			<OtherBands {study} {target} targets={build.targets} />
		{/if}
		<Note kind="danger">
			Look up before a wire goes up: no power line within reach of the wire, the throw or the
			falling mast. {#if shown && (shown.picture.within_reach_v ?? 0) > shown.touch_v}<strong
					>While transmitting, {quantity(shown.picture.within_reach_v, 'V')} stand where hands reach:
					keep people and animals away.</strong
				>{/if} Mark low wires. Local rules and qualified people come before this page.
		</Note>
		{#if kind}
			<section class="sheet told">
				<strong>Not modelled:</strong>
				{kind.not_modelled}; trees, roofs and wet leaves. Each can move the dip by 1 to 3 %: that is
				not in the range.
				{#if study?.estimated}Something hangs under a tenth of a wave over the soil: R and X are an
					estimate.{/if}
				{#if study}Half as many segments change them by {figures(study.difference_ohm ?? 0, 2)} Ω.{/if}
			</section>
		{/if}
		<section class="sheet beside unprinted">
			<h2>Beside it</h2>
			<RelatedLengths frequencyHz={middle(target)} />
			<details>
				<summary>Bands: {build.targets.map((t) => t.label).join(', ')}</summary>
				<TargetChooser sweep={build.sweeps.find((s) => s.id === build.baseline_sweep_id)} />
			</details>
		</section>
	</aside>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 282px 306px;
		gap: 12px;
		align-items: start;
	}
	.left,
	.mid,
	.right,
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 12px;
		min-width: 0;
		align-items: start;
	}
	.two {
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
	}
	.sheet {
		min-width: 0;
	}
	.under {
		flex-wrap: nowrap;
		align-items: start;
	}
	.walk {
		margin-left: auto;
		flex-wrap: nowrap;
	}
	.wait {
		min-height: 60px;
	}
	.stale {
		opacity: 0.5;
	}
	.place select {
		max-width: 290px;
	}
	.place > :global(* + *) {
		margin-top: 6px;
	}
	summary {
		cursor: pointer;
	}
	@media (max-width: 1120px) {
		.desk {
			grid-template-columns: minmax(0, 1fr) 306px;
		}
		.mid {
			grid-row: 2;
			grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		}
		.right {
			grid-row: 1 / 3;
			grid-column: 2;
		}
	}
	/* In one column: the piece to cut, the antenna, and what proves it. */
	@media (max-width: 820px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		.left,
		.mid,
		.right,
		.two {
			display: contents;
		}
		.place {
			order: 2;
		}
		.right > :global(.verdict) {
			order: 1;
		}
		.right > :global(*) {
			order: 3;
		}
		.two > :global(.shows) {
			order: 4;
		}
		.cuts {
			order: 5;
		}
		.long,
		.flow,
		.low {
			order: 6;
		}
		.recipe,
		.right > .beside {
			order: 7;
		}
	}
	@media print {
		.desk {
			display: block;
		}
		.two,
		.mid {
			display: none;
		}
	}
</style>
