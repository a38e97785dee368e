<!-- @component
	The winding desk: the picture to wind from, what to cut, what to expect on the bench, loss and heat.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Build,
		type Content,
		type Design,
		type Element,
		type Piece,
		Refused,
		said,
		type Trade
	} from '../lib/api/client';
	import { Lane } from '../lib/api/Lane';
	import Help from '../lib/help/Help.svelte';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { quantity, swr, tolerance, turns as turnsText, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { at, stopsOf } from '../match/seen';
	import { chartRange, withElement, woundTitle } from '../match/shape';
	import { walkByKey, Work } from '../match/work.svelte';
	import BenchChart from './BenchChart.svelte';
	import CoilPicture from './CoilPicture.svelte';
	import Compare from './Compare.svelte';
	import Cores from './Cores.svelte';
	import CutBars from './CutBars.svelte';
	import DropStrip from './DropStrip.svelte';
	import HeatGauge from './HeatGauge.svelte';
	import InputCapacitor from './InputCapacitor.svelte';
	import Joins from './Joins.svelte';
	import MadeOf from './MadeOf.svelte';
	import RingPicture from './RingPicture.svelte';
	import WindStart from './WindStart.svelte';
	import {
		coreName,
		designToWind,
		finding,
		hue,
		lossRange,
		passes,
		ratios,
		terminal,
		endName,
		windables,
		type Winding
	} from './wound';

	interface Props {
		build: Build;
		designs: Design[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		onchange: (changes: { chosen_design_id: string }) => Promise<void>;
		/** Tells the page what the designs are now. */
		ondesigns: (designs: Design[]) => void;
	}

	let { build, designs, markerHz, onmarker, onchange, ondesigns }: Props = $props();

	let trade = $state.raw<Trade | null>(null);
	let own = $state.raw<Piece[]>([]);
	const cores = $derived(own.filter((p) => p.held.kind === 'core'));
	let winding = $state.raw<Winding | null>(null);
	let problem = $state<string | null>(null);
	let key = $state('');
	let more = $state(false);
	let other = $state.raw<{ name: string; winding: Winding } | null>(null);

	void Promise.all([answer(api.GET('/api/drawer')), answer(api.GET('/api/pieces'))])
		.then(([t, pieces]) => {
			trade = t;
			own = pieces;
		})
		.catch((why: unknown) => (problem = said(why)));

	const sweep = $derived(build.sweeps.find((s) => s.id === build.baseline_sweep_id));
	const work: Work = new Work(
		// svelte-ignore state_referenced_locally
		build.id,
		() => {
			const { lowHz, highHz } = chartRange(
				work.content?.targets ?? build.targets,
				sweep?.low_hz ?? 1.8e6,
				sweep?.high_hz ?? 60e6
			);
			return { power_w: build.power_w, low_hz: lowHz, high_hz: highHz };
		},
		(kept) => {
			const known = designs.some((d) => d.id === kept.id);
			ondesigns(known ? designs.map((d) => (d.id === kept.id ? kept : d)) : [...designs, kept]);
		}
	);
	const lane = new Lane<{ content: Content; key: string; power_w: number }, Winding>(
		(asked) =>
			answer(api.POST('/api/windings', { body: { ...asked, low_hz: 1.8e6, high_hz: 30e6 } })),
		(found) => {
			winding = found;
			problem = null;
		},
		(why) => {
			if (!(why instanceof Refused)) throw why;
			problem = why.message;
		}
	);

	function open(design: Design, piece: string | null = null): void {
		const some = windables(design.revision.content);
		key = some.find((e) => e.key === piece)?.key ?? some[0]?.key ?? '';
		winding = null;
		other = null;
		more = false;
		work.open(design);
		router.note({ design: design.id, piece: key });
	}
	const asked = router.place.query;
	// svelte-ignore state_referenced_locally
	const first = designToWind(designs, [asked.get('design'), build.chosen_design_id]);
	if (first) open(first, asked.get('piece'));

	const content = $derived(work.content);
	const element = $derived(content ? windables(content).find((e) => e.key === key) : undefined);
	// The picture follows what is edited, and the power.
	$effect(() => {
		if (content && element) lane.ask({ content, key, power_w: build.power_w });
	});
	/** An edit is drawn and kept at once; one that cannot be wound is told and not kept. */
	async function edit(changed: Content): Promise<void> {
		try {
			await answer(
				api.POST('/api/windings', {
					body: { content: changed, key, power_w: build.power_w, low_hz: 1.8e6, high_hz: 30e6 }
				})
			);
			problem = null;
			work.edit(changed, true);
		} catch (why) {
			problem = said(why);
		}
	}

	const made = $derived(designs.filter((d) => windables(d.revision.content).length > 0));
	const prediction = $derived(work.prediction);
	const seen = $derived((prediction?.stations ?? []).map((s) => at(s, markerHz)));
	const stops = $derived(
		prediction && content
			? stopsOf({
					content,
					prediction,
					seen,
					sweepName: sweep?.name ?? '',
					sweepHref: `/builds/${build.id}/sweep`,
					markerHz,
					unit: units.length
				})
			: []
	);
	const loss = $derived(winding ? lossRange(winding.heat) : null);
	const title = $derived(
		element?.kind === 'transformer'
			? woundTitle(element)
			: element?.kind === 'ring_coil'
				? 'Coil on a ring'
				: 'Air coil'
	);
	const remarks = $derived(
		(winding?.findings ?? [])
			.filter((f) => f.code !== 'winding_voltage')
			.map((f) => finding(f))
			.filter((t) => t !== null)
	);
	const voltage = $derived(winding?.findings.find((f) => f.code === 'winding_voltage'));
	const inputV = $derived(Math.sqrt(2 * Math.max(build.power_w, 1) * 50));
	const set = (changes: Partial<Element>) =>
		content && element ? edit(withElement(content, element.key, changes)) : undefined;
	const box = $derived(winding?.fit.boxes.filter((b) => b.fits) ?? []);
	/** Legend: a wire, where it goes by both ends. */
	const legend = $derived.by(() => {
		const names = [...new Set(winding?.cuts.map((c) => c.wire) ?? [])];
		return names.map((wire) => ({
			wire,
			turns:
				(winding?.picture.kind === 'ring' &&
					winding.picture.turns.filter((t) => t.wires.includes(wire)).length) ||
				(winding?.turns.passes ?? 0),
			goes: (winding?.joins ?? [])
				.flatMap((j) => j.ends.filter((e) => e.wire === wire).map((e) => ({ e, at: j.at })))
				.map(({ e, at: place }) => ({ what: e.end, place: terminal(place), name: endName(e) }))
		}));
	});

	// A piece that was taken from the drawer: whether it changed since, or lies in the bin.
	const piece = $derived(element?.piece ?? null);
	const present = $derived(piece ? cores.find((c) => c.id === piece.id) : undefined);
	const binned = $derived(piece !== null && trade !== null && !present);

	async function choose(id: string): Promise<void> {
		const design = designs.find((d) => d.id === id);
		if (!design) return;
		open(design);
		await onchange({ chosen_design_id: id });
	}
	async function begun(design: Design): Promise<void> {
		ondesigns([...designs, design]);
		open(design);
		await onchange({ chosen_design_id: design.id });
	}
</script>

<svelte:window onkeydown={(event) => walkByKey(event, work)} />

{#if !first && made.length === 0}
	<WindStart {build} onmade={begun} />
{:else if content && element}
	{#if stops.length}<DropStrip {stops} powerW={build.power_w} />{/if}
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if work.problem}<Note kind="danger">{work.problem}.</Note>{/if}
	{#if work.news}<Note kind="news">{work.news}</Note>{/if}
	{#if binned}
		<Note kind="news"
			>The core of this design lies in the bin now. The design keeps it as it was taken.</Note
		>
	{:else if piece && present && present.revision !== piece.revision && present.held.kind === 'core'}
		{@const values = present.held.values}
		<Note kind="news"
			>“{present.held.name}” changed in the drawer since this design took it.
			<button
				class="button"
				onclick={() =>
					set({
						core: { ...values, stack: element.kind === 'coil' ? 1 : element.core.stack },
						piece: { id: present.id, revision: present.revision, values }
					} as Partial<Element>)}>Take it as it is now</button
			></Note
		>
	{/if}
	<div class="desk" class:below={problem !== null}>
		<div class="left">
			<section class="sheet">
				<div class="head">
					<h2>{title}</h2>
					<span class="told soft">
						{#if winding?.turns.primary && element.kind === 'transformer'}
							{#if ratios(winding.turns)}{ratios(winding.turns)}{/if}
						{:else if winding}{turnsText(winding.turns.passes)} turns{/if}
					</span>
				</div>
				{#if winding?.picture.kind === 'ring'}
					<p class="told">
						{element.kind === 'coil' ? '' : coreName(element.core)}, {winding.made_of.wire}
					</p>
					<RingPicture {winding} />
					<p class="told soft">
						{#if winding.picture.rings > 1}Two rings alike, this one red and blue, the other copper
							and black.{/if}
						To scale, seen from the coax side; every pass goes in from the front. {passes(
							winding.turns
						)}.
					</p>
					<ul class="legend">
						{#each legend as row (row.wire)}
							<li>
								<span class="dash" style:background="var(--{hue(row.wire)})"></span>
								<span
									>{row.wire === 'long' && legend.length > 1
										? `long wire, ${row.turns} turns; the first ${legend[1]?.turns} with the primary`
										: row.wire === 'primary'
											? `primary wire, ${row.turns} turns`
											: `${row.wire === 'ink' ? 'black' : row.wire} wire, ${row.turns} turns`}</span
								>
								<span class="goes"
									>{#each row.goes as g, i (i)}<span>{g.what} {g.place}</span>{/each}</span
								>
							</li>
						{/each}
					</ul>
				{:else if winding}
					<p class="told">{winding.made_of.wire}</p>
					<CoilPicture {winding} />
				{/if}
				<div class="row unprinted">
					{#if element.kind !== 'coil'}
						<button
							class="button"
							class:main={element.crossed}
							aria-pressed={element.crossed}
							onclick={() => set({ crossed: true })}>Cross over</button
						>
						<button
							class="button"
							class:main={!element.crossed}
							aria-pressed={!element.crossed}
							onclick={() => set({ crossed: false })}>Straight round</button
						>
					{/if}
					{#if element.kind === 'transformer' && element.wiring === 'tapped'}
						<button
							class="button"
							aria-pressed={!element.primary_wire}
							class:main={!element.primary_wire}
							onclick={() => set({ primary_wire: !element.primary_wire })}
							>{element.primary_wire ? 'Tap instead of a primary wire' : 'Tapped'}</button
						>
					{/if}
					{#if element.kind === 'transformer' && (element.primary_wire || element.wiring !== 'tapped')}
						<button
							class="button"
							class:main={element.twisted}
							aria-pressed={element.twisted}
							onclick={() => set({ twisted: !element.twisted })}>Twisted</button
						>
					{/if}
					<a
						class="button"
						href="/builds/{build.id}/count?design={work.design?.id}&piece={element.key}"
						>Count with me</a
					>
					<button class="button" onclick={() => print()}>Print it</button>
				</div>
			</section>
			{#if winding && element.kind === 'transformer'}
				<section class="sheet">
					<h2>What joins where <Help topic="joins" name="the connection chart" /></h2>
					<Joins {winding} />
				</section>
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
									winding = null;
									router.note({ piece });
								} else if (id) void choose(id);
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
					<MadeOf {build} {content} {element} {winding} {trade} {own} onedit={edit} />
				{/if}
				<div class="row">
					<button
						class="button"
						disabled={!work.design?.revision.can_undo}
						onclick={() => work.walk('undo')}>Undo</button
					>
					<button
						class="button"
						disabled={!work.design?.revision.can_redo}
						onclick={() => work.walk('redo')}>Redo</button
					>
					<span class="soft told" role="status">{work.saved ?? ''}</span>
				</div>
			</section>
			{#if more}<WindStart {build} more onmade={begun} />{/if}
			{#if winding}
				<section class="sheet">
					<h2>Cut before you start</h2>
					<CutBars {winding} />
				</section>
				<section class="sheet">
					<h2>
						{winding.bench.what === 'swr'
							? `On the bench, with ${quantity(winding.bench.resistor_ohm, 'Ω')} in place of the antenna`
							: 'On the bench, the coil alone, in µH'}
						<Help topic="bench" name="the bench check" />
					</h2>
					<p class="told soft">
						If your sweep leaves the shaded band, the winding is wrong, not the wire.
					</p>
					<BenchChart
						bench={winding.bench}
						targets={content.targets}
						{markerHz}
						{onmarker}
						other={other ? { name: other.name, bench: other.winding.bench } : null}
					/>
				</section>
				{#if element.kind === 'transformer'}
					<section class="sheet unprinted">
						<InputCapacitor {content} {element} voltageV={inputV} onedit={edit} />
					</section>
					<section class="sheet unprinted">
						<Cores {build} {content} {element} {cores} onedit={edit} />
					</section>
				{/if}
			{/if}
		</div>
		<div class="right">
			<section class="sheet verdict" aria-label="Verdict" aria-live="polite">
				{#if winding && loss?.worst}
					{#if winding.kind === 'coil' || winding.kind === 'ring_coil'}
						{@const turns = winding.turns.passes}
						<p><span class="figure">{turnsText(turns)}</span> turns</p>
						<p class="told">
							{#if winding.stretch}
								Squeezing and spreading reaches {quantity(winding.stretch.low_h, 'H')} to {quantity(
									winding.stretch.high_h,
									'H'
								)} without another turn.
							{/if}
							{watts(loss.worst.core_w + loss.worst.copper_w)} of {watts(build.power_w)} stay in it on
							{loss.worst.label}.
						</p>
					{:else}
						<p>
							<span class="figure">{loss.worst.loss_db.toFixed(1)} dB</span>
							<span class="of"
								>stays behind on {loss.worst.label}{loss.best
									? `, ${loss.best.loss_db.toFixed(1)} on ${loss.best.label}`
									: ''}</span
							>
						</p>
						<p class="told">
							{#each winding.heat as h, i (h.label)}{i ? ', ' : 'SWR '}{swr(h.swr)} on {h.label}{/each}.
							Mix {winding.made_of.mix} is known to {tolerance(winding.made_of.tolerance)}{winding
								.made_of.tolerance > 0.02
								? ' only. Wind ten turns on yours, sweep it, keep it in the drawer: the loss then comes from your core.'
								: ', as you measured it.'}
						</p>
					{/if}
				{:else}
					<p>Laying the turns…</p>
				{/if}
			</section>
			{#if winding}
				<section class="sheet">
					<HeatGauge {winding} powerW={build.power_w} mode={build.mode} />
				</section>
				{#if element.kind === 'transformer'}
					<section class="sheet unprinted">
						<Compare
							{build}
							{content}
							{element}
							{winding}
							designs={made.filter((d) => d.id !== work.design?.id)}
							onother={(o) => (other = o)}
							onedit={edit}
						/>
					</section>
				{/if}
				{#if remarks.length}
					<section class="sheet">
						<h3 class="eyebrow">Know this</h3>
						{#each remarks as text, i (i)}<p class="told">{text}</p>{/each}
					</section>
				{/if}
				<section class="sheet told">
					<h3 class="eyebrow">Goes into</h3>
					{#if box.length}
						{box.map((b) => b.name).join(', ')}
					{:else}none of the boxes of the <a href="/drawer?kind=box">drawer</a>: it is too large{/if}
				</section>
				{#if voltage}
					<Note kind="danger" title="RF burn.">{finding(voltage)}</Note>
				{/if}
				<Note kind="danger">
					Cores and resistors get hot; let them cool before touching. Solder and enamel fumes: air.
					Never adjust while transmitting; local rules and qualified people come before this page.
				</Note>
			{/if}
		</div>
	</div>
{:else}
	<p class="soft">Looking…</p>
{/if}

<style>
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
	.legend {
		list-style: none;
		padding: 0;
		margin: 8px 0;
		display: grid;
		gap: 4px;
		font-size: var(--size-13);
	}
	.legend li {
		display: grid;
		grid-template-columns: 26px 1fr auto;
		gap: 6px;
		align-items: start;
	}
	.dash {
		height: 6px;
		border-radius: 3px;
		margin-top: 6px;
	}
	.goes span {
		display: block;
		font: var(--size-12) var(--mono);
		text-align: right;
	}
	.row {
		margin-top: 8px;
	}
	.verdict {
		display: grid;
		gap: 6px;
	}
	.told + .told {
		margin-top: 6px;
	}
	@media (max-width: 1180px) {
		.desk {
			grid-template-columns: 1fr;
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
	@media print {
		.desk {
			display: block;
		}
		.desk > div {
			gap: 8px;
			margin-bottom: 8px;
		}
	}
</style>
