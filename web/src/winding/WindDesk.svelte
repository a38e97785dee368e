<!-- @component
	The winding desk: the picture to wind from, what to cut, what to expect on the bench, loss and heat.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Accessory,
		type Content,
		type Design,
		type Piece,
		problemText,
		type Trade
	} from '../lib/api/client';
	import { latest, type Latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import PieceNote from '../drawer/PieceNote.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { at, stopsOf, sweptNameOf } from '../design/stations';
	import { chartRange, withElement } from '../design/content';
	import { DesignEditor } from '../design/designEditor.svelte';
	import { walkByKey } from '../lib/controls/walkByKey';
	import BenchChart from './BenchChart.svelte';
	import BenchPanel from './BenchPanel.svelte';
	import AccessoryFields from './AccessoryFields.svelte';
	import Cores from './Cores.svelte';
	import CouplerSheet from './CouplerSheet.svelte';
	import CutBars from './CutBars.svelte';
	import SystemStrip from './SystemStrip.svelte';
	import InputCapacitor from './InputCapacitor.svelte';
	import WindingFields from './WindingFields.svelte';
	import CapacitorOptions from './CapacitorOptions.svelte';
	import TrapCheck from './TrapCheck.svelte';
	import WindStart from './WindStart.svelte';
	import WindVerdict from './WindVerdict.svelte';
	import WoundSheet from './WoundSheet.svelte';
	import { report, type Reported } from './report';
	import ValuesChart from './ValuesChart.svelte';
	import type { Verdict } from './verdict';
	import { type Changes, coreOf, designToWind, titleOf, windables, type Winding } from './wound';

	const page = openBuild();
	const build = $derived(page.build);
	const designs = $derived(page.designs);
	const onmarker = (hz: number, settled: boolean) => page.mark(hz, settled);

	let trade = $state.raw<Trade | null>(null);
	let own = $state.raw<Piece[]>([]);
	const cores = $derived(own.filter((p) => p.held.kind === 'core'));
	let refused = $state<string | null>(null);
	let key = $state('');
	/** What is being set: kept once it can be wound, and left standing in its fields when it cannot. */
	let draft = $state.raw<Content | null>(null);
	let edits = 0;
	// From a ring of the drawer one comes to wind something on it.
	let more = $state(router.place.query.get('ring') !== null);
	let other = $state.raw<{ name: string; winding: Winding } | null>(null);
	let verdict = $state.raw<Verdict | null>(null);
	/** The resistor that lies on the bench, as it was typed. */
	let resistor = $state<number | null>(null);

	void Promise.all([answer(api.GET('/api/drawer')), answer(api.GET('/api/pieces'))])
		.then(([t, pieces]) => {
			trade = t;
			own = pieces;
		})
		.catch((why: unknown) => (refused = problemText(why)));

	const sweep = $derived(build.sweeps.find((s) => s.id === build.baseline_sweep_id));
	const range = $derived.by((): { lowHz: number; highHz: number } =>
		chartRange(
			work.content?.targets ?? build.targets,
			sweep?.low_hz ?? 1.8e6,
			sweep?.high_hz ?? 60e6
		)
	);
	const markerHz = $derived(page.markerIn(range.lowHz, range.highHz));
	const work: DesignEditor = new DesignEditor(
		page.id,
		() => ({ power_w: build.power_w, low_hz: range.lowHz, high_hz: range.highHz }),
		(kept) => page.keep(kept)
	);

	function open(design: Design, piece: string | null = null): void {
		const some = windables(design.revision.content);
		key = some.find((e) => e.key === piece)?.key ?? some[0]?.key ?? '';
		reports.clear();
		other = null;
		resistor = null;
		draft = null;
		more = false;
		work.open(design);
		router.note({ design: design.id, piece: key });
	}
	const content = $derived(work.content);
	const element = $derived(content ? windables(content).find((e) => e.key === key) : undefined);
	// The picture follows what is opened, undone and set elsewhere; an edit brings its own.
	const reports: Latest<Reported, Winding> = latest(
		(): Reported | null =>
			content && element ? { content, key, power_w: build.power_w, resistor_ohm: resistor } : null,
		report,
		{ keeps: true }
	);
	const winding = $derived(reports.value);
	const problem = $derived(refused ?? reports.problem);
	/** An edit is drawn and kept at once; one that cannot be wound is told, and nothing changes. */
	async function edit(changed: Content): Promise<void> {
		draft = changed;
		const mine = ++edits;
		const question = {
			content: changed,
			key,
			power_w: build.power_w,
			resistor_ohm: resistor
		};
		try {
			const found = await report(question);
			// A later edit was made on top of this one: it is the one that counts.
			if (mine !== edits) return;
			refused = draft = null;
			reports.take(question, found);
			work.edit(changed, true);
		} catch (why) {
			if (mine === edits) refused = problemText(why);
		}
	}
	const asked = router.place.query;
	// svelte-ignore state_referenced_locally
	const first = designToWind(designs, [asked.get('design'), build.chosen_design_id]);
	if (first) open(first, asked.get('piece'));

	function walk(way: 'undo' | 'redo'): void {
		draft = refused = null;
		void work.walk(way);
	}

	const made = $derived(designs.filter((d) => windables(d.revision.content).length > 0));
	const prediction = $derived(work.predicted.prediction);
	const seen = $derived((prediction?.stations ?? []).map((s) => at(s, markerHz)));
	const sweptName = $derived(sweptNameOf(content, build.sweeps));
	const stops = $derived(
		prediction && content
			? stopsOf({
					content,
					prediction,
					seen,
					sweepName: sweptName,
					sweepHref: `/builds/${build.id}/sweep`,
					markerHz,
					unit: units.length
				})
			: []
	);
	const inputV = $derived(Math.sqrt(2 * Math.max(build.power_w, 1) * 50));
	const set = (changes: Changes) =>
		content && element ? edit(withElement(draft ?? content, element.key, changes)) : undefined;
	const center = $derived.by(() => {
		const first = content?.targets[0];
		return first ? (first.low_hz + first.high_hz) / 2 : 14e6;
	});

	async function choose(id: string, piece: string): Promise<void> {
		const design = designs.find((d) => d.id === id);
		if (!design) return;
		open(design, piece);
		await page.change({ chosen_design_id: id });
	}
	/** A choke or a trap beside the open design, and on to it. */
	async function addBeside(part: Accessory): Promise<void> {
		if (!content) return;
		const before = key;
		key = part.key;
		reports.clear();
		await edit({ ...content, beside: [...(content.beside ?? []), part] });
		if (refused) key = before;
		else router.note({ piece: part.key });
	}
	async function begun(design: Design): Promise<void> {
		page.keep(design);
		open(design);
		await page.change({ chosen_design_id: design.id });
	}
</script>

<svelte:window onkeydown={(event) => walkByKey(event, walk)} />

{#if !first && made.length === 0}
	<WindStart onmade={begun} />
{:else if content && element}
	<div class="whole">
		{#if stops.length}<SystemStrip
				{stops}
				powerW={build.power_w}
				here={(content.beside ?? []).some((b) => b.key === key)
					? null
					: (stops.find((s) => s.key === key)?.key ?? 'match')}
			/>{/if}
		{#if problem}<Note kind="danger">{problem}.</Note>{/if}
		{#if work.problem}<Note kind="danger">{work.problem}.</Note>{/if}
		{#if work.saving.news}<Note kind="news">{work.saving.news}</Note>{/if}
		<PieceNote
			{element}
			what={coreOf(element) ? 'core' : titleOf(element).toLowerCase()}
			own={trade ? own : null}
			centerHz={center}
			onset={set}
		/>
		<div class="desk" class:below={problem !== null}>
			<div class="left">
				<WoundSheet
					buildId={build.id}
					designId={work.design?.id ?? ''}
					{element}
					{winding}
					onset={set}
				/>
				{#if winding}
					<BenchPanel
						{content}
						{winding}
						designId={work.design?.id ?? ''}
						onverdict={(said) => (verdict = said)}
					/>
				{/if}
			</div>
			<div class="middle">
				<section class="sheet unprinted">
					<div class="head">
						<h2>Made of</h2>
						{#if made.length > 1 || windables(content).length > 1}
							<select
								aria-label="What is wound"
								value="{work.design?.id} {element.key}"
								onchange={(e) => {
									const [id, piece = ''] = e.currentTarget.value.split(' ');
									if (id === work.design?.id) {
										key = piece;
										reports.clear();
										router.note({ piece });
									} else if (id) void choose(id, piece);
								}}
							>
								{#each made as d (d.id)}
									{#each windables(d.id === work.design?.id ? content : d.revision.content) as w (w.key)}
										<option value="{d.id} {w.key}">{d.name}: {w.key}</option>
									{/each}
								{/each}
							</select>
						{/if}
						<button class="plain" onclick={() => (more = !more)}>something else</button>
					</div>
					{#if trade}
						{@const drafted = draft ?? content}
						{@const shown = windables(drafted).find((e) => e.key === key) ?? element}
						{#if shown.kind === 'choke' || shown.kind === 'trap'}
							<AccessoryFields content={drafted} element={shown} {trade} {own} onset={set} />
						{:else}
							<WindingFields
								content={drafted}
								element={shown}
								{winding}
								{trade}
								{own}
								onedit={edit}
							/>
						{/if}
					{/if}
					<div class="row">
						<button
							class="button"
							disabled={!work.design?.revision.can_undo}
							onclick={() => walk('undo')}>Undo</button
						>
						<button
							class="button"
							disabled={!work.design?.revision.can_redo}
							onclick={() => walk('redo')}>Redo</button
						>
						<span class="soft told" role="status">{work.saving.saved ?? ''}</span>
					</div>
				</section>
				{#if more}
					<WindStart
						more
						onmade={begun}
						{content}
						onbeside={(part) => {
							more = false;
							void addBeside(part);
						}}
					/>
				{/if}
				{#if winding}
					<section class="sheet cut">
						<h2>Cut before you start</h2>
						<CutBars {winding} />
					</section>
					<section class="sheet">
						<h2>
							{winding.bench.what === 'swr'
								? `On the bench, with ${quantity(winding.bench.resistor_ohm, 'Ω')} in place of the antenna`
								: winding.bench.what === 'resistance'
									? `On the bench, the ${winding.kind} alone: its resistance, Ω`
									: 'On the bench, the coil alone, in µH'}
							<Help topic="bench" name="the bench check" />
						</h2>
						{#if winding.bench.what === 'swr'}
							<p class="row">
								<QuantityField
									label="The resistor that is on it"
									kind="resistance"
									shown={quantity(winding.bench.resistor_ohm, 'Ω')}
									onsettle={(ohm) => void (resistor = ohm)}
								/>
								<span class="told soft">measured, if you can; the band is for ± 5 %</span>
							</p>
						{/if}
						<p class="told soft">
							If your sweep leaves the shaded band, the winding is wrong, not the wire.
						</p>
						<BenchChart
							bench={winding.bench}
							targets={content.targets}
							{markerHz}
							{onmarker}
							other={other ? { name: other.name, bench: other.winding.bench } : null}
							measured={verdict?.measured.find((m) => m.setup === winding?.setups?.[0]?.key) ??
								null}
						/>
						{#if winding.kind !== 'choke' && winding.kind !== 'trap'}
							<ValuesChart
								{winding}
								targets={content.targets}
								{markerHz}
								{onmarker}
								other={other?.winding ?? null}
							/>
						{/if}
					</section>
					{#if winding.trap && !winding.trap.coax_m && element.kind === 'trap'}
						<section class="sheet">
							<CapacitorOptions
								capacitanceF={element.capacitance_f ?? 30e-12}
								voltageV={Math.max(...winding.trap.bands.map((b) => b.voltage_v))}
								toleranceNow={element.capacitance_spread ?? 0.05}
								ontake={(made) =>
									set({ capacitance_f: made.capacitance_f, capacitance_spread: made.tolerance })}
							/>
						</section>
					{/if}
					{#if winding.trap}
						<section class="sheet"><TrapCheck {winding} {markerHz} {onmarker} /></section>
					{/if}
					{#if element.kind === 'transformer' && element.tuning}
						<section class="sheet">
							<CouplerSheet {winding} tuning={element.tuning} onset={set} />
						</section>
					{/if}
					{#if element.kind === 'transformer' && !element.tuning}
						<section class="sheet unprinted">
							<InputCapacitor {content} {element} voltageV={inputV} onedit={edit} />
						</section>
						<section class="sheet unprinted">
							<Cores {content} {element} {cores} onedit={edit} />
						</section>
					{/if}
				{/if}
			</div>
			<div class="right">
				<WindVerdict
					{content}
					{element}
					{winding}
					designs={made.filter((d) => d.id !== work.design?.id)}
					onother={(o) => (other = o)}
					onedit={edit}
				/>
			</div>
		</div>
	</div>
{:else}
	<p class="soft">Looking…</p>
{/if}

<style>
	.whole {
		display: flex;
		flex-direction: column;
	}
	.desk {
		display: grid;
		grid-template-columns: 432px minmax(0, 1fr) 306px;
		gap: 14px;
	}
	.desk.below {
		margin-top: 11px;
	}
	.left,
	.middle,
	.right {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 11px;
		align-content: start;
		min-width: 0;
	}
	.row {
		margin-top: 8px;
	}
	@media (max-width: 1180px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		.right {
			order: 1;
		}
		.left {
			order: 2;
		}
		.middle {
			order: 3;
		}
	}
	/* On a phone what decides comes first, then the picture, what to cut, and the cautions of doing it; what it is
	   made of, its bench and all advice after that, the antenna system last. */
	@media (max-width: 620px) {
		.desk {
			gap: 11px;
		}
		.left,
		.middle,
		.right {
			display: contents;
		}
		.right > :global(*) {
			order: 7;
		}
		.right > :global(.verdict) {
			order: 1;
		}
		.left > :global(*) {
			order: 2;
		}
		.middle > :global(*) {
			order: 5;
		}
		.middle > .cut {
			order: 3;
		}
		.right > :global(.note) {
			order: 4;
		}
		.left > :global([aria-label='Bench check']) {
			order: 6;
		}
		.whole > :global(ol) {
			order: 1;
			margin: 11px 0 0;
		}
	}
	@media print {
		.whole {
			display: block;
		}
		.desk {
			display: block;
		}
		.desk > div {
			gap: 8px;
			margin-bottom: 8px;
		}
	}
</style>
