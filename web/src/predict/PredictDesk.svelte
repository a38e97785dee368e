<!-- @component
	The predict desk: every band's watts from the radio to the sky, other lines and a tuner beside them, in plain words.
-->
<script lang="ts">
	import { untrack } from 'svelte';

	import {
		answer,
		api,
		type Content,
		type Design,
		problemText,
		type Schemas
	} from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { walkByKey } from '../lib/controls/walkByKey';
	import { feedline, tunerOf, withElement, withLine, withTuner } from '../design/content';
	import { Saving } from '../design/saving.svelte';
	import Help from '../lib/help/Help.svelte';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { length, percent, swr, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import BandRow from './BandRow.svelte';
	import LinesPicture from './LinesPicture.svelte';
	import PredictVerdict from './PredictVerdict.svelte';
	import TunerPanel from './TunerPanel.svelte';
	import { type Bands, betterCoax, conjugateText, mismatchShare, reflectedText } from './words';

	const page = openBuild();
	const build = $derived(page.build);
	const designs = $derived(page.designs);
	const saving = new Saving(page.id, (kept) => page.keep(kept));
	let content = $state.raw<Content | null>(null);
	let problem = $state<string | null>(null);
	let band = $state(0);
	let pointed = $state<string | null>(null);
	let cables = $state.raw<Schemas['CableOut'][]>([]);
	answer(api.GET('/api/tables/cables'))
		.then((rows) => (cables = rows))
		.catch((why: unknown) => (problem = problemText(why)));

	function open(design: Design): void {
		content = saving.open(design);
		band = Math.min(band, content.targets.length - 1);
		router.note({ design: design.id });
	}
	const asked = router.place.query.get('design');
	// svelte-ignore state_referenced_locally
	const first =
		designs.find((d) => d.id === asked) ??
		designs.find((d) => d.id === build.chosen_design_id) ??
		designs[0];
	if (first) open(first);

	/** While a length is dragged one question is under way at a time; what is let go is kept. */
	let dragging = $state(false);
	const predicted = new Latest(
		(body: Schemas['BandsPredictionIn']) => answer(api.POST('/api/predictions/bands', { body })),
		{ keeps: true }
	);
	$effect(() => {
		const asked = content && { content, power_w: build.power_w, mode: build.mode };
		untrack(() => (asked ? predicted.show(asked, dragging) : predicted.clear()));
	});
	function drag(lengthM: number, settled: boolean): void {
		if (!content) return;
		dragging = !settled;
		const next = withLine(content, { length_m: lengthM });
		if (settled) edit(next);
		else content = next;
	}
	const bands = $derived<Bands | null>(predicted.value);
	const shown = $derived(bands?.bands[band] ?? bands?.bands[0] ?? null);
	const line = $derived(content ? feedline(content) : undefined);
	/** The lengths that are compared reach to twice the design's own. */
	const own = $derived(
		bands
			? bands.lengths_m.findIndex((m) => 2 * m === bands.lengths_m[bands.lengths_m.length - 1])
			: -1
	);
	const station = $derived(
		shown?.stations.find((s) => s.key === pointed) ?? shown?.stations[0] ?? null
	);
	const apart = $derived(station ? mismatchShare(station) : null);

	function edit(next: Content): void {
		problem = null;
		content = next;
		void saving.keep(next);
	}
	async function walk(way: 'undo' | 'redo'): Promise<void> {
		const found = await saving.walk(way);
		if (found) content = found;
	}
	const cableOf = (cable: string) => ({
		cable,
		piece: cables.find((c) => c.key === cable)?.piece ?? null
	});
	function take(better: Bands['better'][number]): void {
		if (!content) return;
		if (better.by === 'cable') edit(withLine(content, cableOf(better.key)));
		else if (better.by === 'tuner_radio') edit(withTuner(content, {}));
		else if (better.by === 'tuner_nowhere') edit(withTuner(content, null));
		else if (better.by === 'stack') {
			const wound = content.elements.find((e) => e.key === better.key);
			if (wound?.kind !== 'transformer') return;
			const stack = (wound.core.stack ?? 1) + 1;
			edit(withElement(content, wound.key, { core: { ...wound.core, stack } }));
		}
	}
	async function choose(id: string): Promise<void> {
		const design = designs.find((d) => d.id === id);
		if (!design) return;
		open(design);
		await page.change({ chosen_design_id: id });
	}
	/** Nothing is designed yet: the wire as it is, and a length of coax. */
	async function begin(): Promise<void> {
		const antenna: Content['antenna'] | null = build.baseline_sweep_id
			? { kind: 'sweep', sweep_id: build.baseline_sweep_id }
			: (build.wire?.antenna ?? null);
		if (!antenna) return;
		const bare = withLine(
			{ version: 1, antenna, targets: build.targets, elements: [], seed: 1, reading_spread: 0.02 },
			{ length_m: 15 }
		);
		try {
			const design = await answer(
				api.POST('/api/builds/{build_id}/designs', {
					params: { path: { build_id: build.id } },
					body: { name: 'No match, coax only', content: bare }
				})
			);
			page.keep(design);
			open(design);
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

<svelte:window onkeydown={(event) => walkByKey(event, (way) => void walk(way))} />

{#if problem}<Note kind="danger">{problem}.</Note>{/if}
{#if !content}
	<section class="sheet start">
		<h2>Where will the watts go?</h2>
		<p>
			{#if build.baseline_sweep_id || build.wire?.antenna}
				Nothing is designed for this wire yet. <a href="/builds/{build.id}/match">Match it first</a
				>, or see what it does on a length of coax alone.
			{:else}
				First <a href="/builds/{build.id}/sweep">a sweep</a> or
				<a href="/builds/{build.id}/wire">a planned wire</a>: then this desk shows what arrives,
				band by band.
			{/if}
		</p>
		{#if build.baseline_sweep_id || build.wire?.antenna}
			<p>
				<button class="button main" onclick={() => void begin()}>Predict it on 15 m of coax</button>
			</p>
		{/if}
	</section>
{:else}
	{@const present = content}
	{#if saving.news}<Note kind="news">{saving.news}</Note>{/if}
	{#if saving.problem ?? predicted.problem}<Note kind="danger"
			>{saving.problem ?? predicted.problem}.</Note
		>{/if}
	{#if bands && shown}
		<div class="desk">
			<div class="main">
				<section class="sheet rows" aria-label="From the radio to the sky">
					<div class="head">
						<h2>From the radio to the sky, of {watts(build.power_w)}</h2>
						<Help topic="predict" name="the ribbon" />
						<span class="soft"
							>{#if present.antenna.kind === 'sweep'}the wire as measured, all else modelled{:else if present.antenna.kind === 'wire'}all
								of it modelled{:else}a resistor in place of the wire{/if}</span
						>
						<span class="soft last">SWR at the radio · on the line · at the wire</span>
					</div>
					<ul>
						{#each bands.bands as each, i (each.label + each.at_hz)}
							<BandRow
								band={each}
								content={present}
								powerW={build.power_w}
								chosen={i === band}
								{pointed}
								onchoose={() => (band = i)}
								onpoint={(key) => (pointed = key)}
							/>
						{/each}
					</ul>
				</section>
				<div class="pair">
					<section class="sheet" aria-label="Another coax">
						<div class="head">
							<h2>Another coax <small>on {shown.label}</small></h2>
							<Help topic="coax" name="another coax" />
							<span class="last"
								><QuantityField
									label="Length of coax"
									quiet
									kind="length"
									width={8}
									shown={length(line?.length_m ?? 0, units.length)}
									onsettle={(length_m) => edit(withLine(present, { length_m }))}
								/></span
							>
						</div>
						{#if bands.cables.length}
							<LinesPicture
								{bands}
								{band}
								powerW={build.power_w}
								unit={units.length}
								lengthM={line?.length_m ?? 0}
								{dragging}
								ondrag={drag}
							/>
							{@const said = betterCoax(bands, band, own)}
							{#if said}<p>{said}</p>{/if}
							<details>
								<summary>Every coax at {length(line?.length_m ?? 0, units.length)}</summary>
								<table>
									<thead
										><tr
											><th>coax</th><th>it keeps</th><th
												>{shown.radiated ? 'goes up' : 'into the wire'}</th
											><th>meter reads</th><th></th></tr
										></thead
									>
									<tbody>
										{#each bands.cables as row (row.cable)}
											<tr class:here={row.here}>
												<td>{row.name}</td>
												<td class="mono">{watts(row.line_w[band])}</td>
												<td class="mono">{watts(row.up_w[own]?.[band])}</td>
												<td class="mono">{swr(row.meter_swr[own]?.[band])}</td>
												<td
													>{#if !row.here}<button
															class="plain"
															aria-label="Take {row.name}"
															onclick={() => edit(withLine(present, cableOf(row.cable)))}
															>take</button
														>{/if}</td
												>
											</tr>
										{/each}
									</tbody>
								</table>
								<p class="told">Read at the radio's end of the line, without a tuner.</p>
							</details>
						{:else}
							<p class="told">
								The radio sits at the match. Type a length of coax to see what it takes.
							</p>
						{/if}
					</section>
					<TunerPanel content={present} {bands} {band} powerW={build.power_w} onedit={edit} />
				</div>
				<section class="sheet words" aria-label="In plain words">
					<h2>
						In plain words <small>on {shown.label}</small>
						<Help topic="conjugate" name="both ways" />
					</h2>
					{#if station}
						<p aria-live="polite">
							{conjugateText(station, present)}
							{#if apart !== null && apart < 0.005}
								One is the mirror image of the other (conjugate): from here no tuning brings more.
							{:else if apart !== null}
								Were one the mirror image of the other (conjugate), a radio of 50 Ω would send {percent(
									apart / Math.max(1e-9, 1 - apart)
								)} more through here;
								{tunerOf(present)
									? 'loss in what lies between keeps them apart.'
									: 'a match or a tuner would bring them there.'}
							{/if}
							<span class="soft">Point at a place of the ribbon to look from there.</span>
						</p>
					{/if}
					<p>{reflectedText(shown)}</p>
				</section>
				<div class="row foot">
					{#if designs.length > 1}
						<label
							>Design <select
								value={saving.design?.id}
								onchange={(e) => void choose(e.currentTarget.value)}
							>
								{#each designs as d (d.id)}<option value={d.id}>{d.name}</option>{/each}
							</select></label
						>
					{/if}
					<button
						class="button"
						disabled={!saving.design?.revision.can_undo}
						onclick={() => void walk('undo')}>Undo</button
					>
					<button
						class="button"
						disabled={!saving.design?.revision.can_redo}
						onclick={() => void walk('redo')}>Redo</button
					>
					<span class="soft" role="status">{saving.saved ?? ''}</span>
					<a href="/sums">Plain sums of a line</a>
					<a href="/tuner">Practise at a tuner</a>
				</div>
			</div>
			<aside class="right" aria-label="Verdict and next steps">
				<PredictVerdict {bands} {band} content={present} powerW={build.power_w} ontake={take} />
			</aside>
		</div>
	{:else if !predicted.problem}
		<p class="soft">Following the watts…</p>
	{/if}
{/if}

<style>
	.start {
		max-width: 620px;
		display: grid;
		gap: 8px;
	}
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 306px;
		gap: 14px;
		align-items: start;
	}
	.main,
	.right {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 11px;
		min-width: 0;
	}
	.rows {
		padding: 0;
		overflow: hidden;
	}
	.rows ul {
		list-style: none;
		padding: 0;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 9px;
	}
	.rows .head {
		padding: 9px 14px;
	}
	.last {
		margin-left: auto;
	}
	.soft {
		color: var(--soft);
		font-size: var(--size-13);
	}
	small {
		font-weight: 400;
		color: var(--soft);
	}
	.pair {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		gap: 11px;
		align-items: start;
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-13);
	}
	th {
		font-weight: 400;
		color: var(--soft);
		text-align: left;
	}
	th,
	td {
		padding: 2px 6px;
	}
	td.mono {
		text-align: right;
	}
	.here {
		background: var(--selected);
		font-weight: 600;
	}
	summary {
		cursor: pointer;
		padding: 4px 0;
	}
	.words {
		display: grid;
		gap: 5px;
	}
	.foot {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		align-items: center;
	}
	@media (max-width: 1050px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		.right {
			order: -1;
		}
	}
	@media (max-width: 860px) {
		.pair {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
