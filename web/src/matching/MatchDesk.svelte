<!-- @component
	The match desk: the drop, SWR before and after, the two parts on rulers, the road to 50 Ω, and the verdict.
-->
<script lang="ts">
	import {
		answer,
		api,
		Refused,
		type Candidate,
		type Content,
		type Design,
		type Piece,
		type Schemas,
		type Station
	} from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { predict } from '../lib/api/predict';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { floorsOf } from '../lib/charts/frame';
	import GammaChart from '../lib/charts/GammaChart.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { router } from '../lib/router/router.svelte';
	import Desk from '../lib/shell/Desk.svelte';
	import LazyPage from '../lib/shell/LazyPage.svelte';
	import { singleKey } from '../lib/shell/view.svelte';
	import SystemDiagram from '../lib/shell/SystemDiagram.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Help from '../lib/help/Help.svelte';
	import AntennaSource from './AntennaSource.svelte';
	import CoaxPanel from './CoaxPanel.svelte';
	import HistoryPanel from '../design/HistoryPanel.svelte';
	import MatchCharts from './MatchCharts.svelte';
	import PartRuler from './PartRuler.svelte';
	import {
		at,
		partNames,
		point,
		roadOf,
		standingOf,
		stopsOf,
		sweptNameOf
	} from '../design/stations';
	import SideBySide from './SideBySide.svelte';
	import {
		chartRange,
		feedline,
		isWound,
		parts,
		sameTargets,
		servesSome,
		shapeName,
		shapeOf,
		valueOf,
		withLine,
		withValue
	} from '../design/content';
	import { MatchSearch } from './search.svelte';
	import Verdict from './Verdict.svelte';
	import WaysPanel from './WaysPanel.svelte';
	import { targetText } from '../design/words';
	import { moved } from './words';
	import { networksFor } from '../design/compared.svelte';
	import { DesignEditor } from '../design/designEditor.svelte';
	import { walkByKey } from '../lib/controls/walkByKey';

	const page = openBuild();
	const build = $derived(page.build);
	const designs = $derived(page.designs);
	const onmarker = (hz: number, settled: boolean) => page.mark(hz, settled);

	let cables = $state.raw<Schemas['CableOut'][]>([]);
	let wires = $state.raw<Schemas['WireOut'][]>([]);
	let own = $state.raw<Piece[] | null>(null);
	let refused = $state<string | null>(null);
	void Promise.all([
		answer(api.GET('/api/tables/cables')),
		answer(api.GET('/api/tables/wires')),
		answer(api.GET('/api/pieces'))
	])
		.then(([c, w, pieces]) => {
			cables = c;
			wires = w;
			own = pieces;
		})
		.catch(() => undefined);

	/** A cable as a design takes it: of one's own with its values as they are now. */
	const cableOf = (cable: string) => ({
		cable,
		piece: cables.find((c) => c.key === cable)?.piece ?? null
	});
	const sweep = $derived(build.sweeps.find((s) => s.id === build.baseline_sweep_id));
	const range = $derived.by((): { lowHz: number; highHz: number } => {
		const targets = work.content?.targets ?? build.targets;
		return chartRange(targets, sweep?.low_hz ?? 0, sweep?.high_hz ?? 1e9);
	});
	const markerHz = $derived(page.markerIn(range.lowHz, range.highHz));
	// One object for the life of the desk; it reads power and range when it asks.
	const work: DesignEditor = new DesignEditor(
		page.id,
		() => ({ power_w: build.power_w, low_hz: range.lowHz, high_hz: range.highHz }),
		(kept) => page.keep(kept)
	);

	function open(design: Design): void {
		for (const { key } of laid) laying[key] = (laying[key] ?? 0) + 1;
		laid = [];
		work.open(design);
		router.note({ design: design.id, revision: null });
	}

	/** States and designs laid over the charts: their keys, names, and what they do. */
	let laid = $state.raw<{ key: string; name: string; station: Station }[]>([]);
	const laying: Record<string, number> = {};
	async function lay(key: string, name: string, other: Content | null): Promise<void> {
		const mine = (laying[key] = (laying[key] ?? 0) + 1);
		laid = laid.filter((l) => l.key !== key);
		if (!other) return;
		try {
			const found = await predict({
				content: other,
				power_w: build.power_w,
				low_hz: range.lowHz,
				high_hz: range.highHz,
				points: 201,
				carried: false
			});
			const station = found.stations[found.box];
			// Taken off again, or asked for anew, while this was under way: a late one does not come back.
			if (laying[key] !== mine) return;
			if (station) laid = [...laid.filter((l) => l.key !== key), { key, name, station }];
		} catch (why) {
			work.refuse(why);
		}
	}

	/** A link to an earlier state opens it laid over the newest one. */
	async function layAsked(): Promise<void> {
		const number = Number(router.place.query.get('revision'));
		const design = work.design;
		if (!design || !(number > 0) || number === design.revision.number) return;
		const path = { design_id: design.id, number };
		try {
			const found = await answer(
				api.GET('/api/designs/{design_id}/revisions/{number}', { params: { path } })
			);
			await lay(`r${number}`, found.label || `state ${number}`, found.content);
		} catch (why) {
			work.refuse(why);
		}
	}

	/** By how much a part is moved to show which way it leads. */
	const SWAY = 1.25;
	let beside = $state(false);
	const search = new MatchSearch();

	async function designed(name: string, content: Content): Promise<string> {
		const design = await answer(
			api.POST('/api/builds/{build_id}/designs', {
				params: { path: { build_id: build.id } },
				body: { name, content }
			})
		);
		page.keep(design);
		open(design);
		return design.id;
	}

	/** A network for one band alone, beside the designs that serve the others. */
	async function designFor(band: string, network: Candidate): Promise<void> {
		if (!network.content) return;
		try {
			const id = await designed(`${band}, ${shapeName(network)}`, network.content);
			await page.change({ chosen_design_id: id });
		} catch (why) {
			work.refuse(why);
		}
	}

	async function begin(): Promise<void> {
		const planned = build.wire?.antenna;
		const antenna: Content['antenna'] | null = sweep
			? { kind: 'sweep', sweep_id: sweep.id }
			: (planned ?? null);
		if (!antenna) return;
		const bare: Content = {
			version: 1,
			antenna,
			targets: build.targets,
			elements: [],
			seed: 1,
			reading_spread: 0.02
		};
		try {
			const found = await networksFor(bare, build.power_w);
			const best = found[0];
			if (!best?.content) {
				refused = best?.refused ?? 'no network matches this wire there';
				return;
			}
			await designed(shapeName(best), best.content);
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			refused = why.message;
		}
	}

	function start(): void {
		const asked = router.place.query.get('design');
		const design =
			designs.find((d) => d.id === asked) ??
			designs.find((d) => d.id === build.chosen_design_id) ??
			designs[0];
		const revision = router.place.query.get('revision');
		if (!design) return void begin();
		open(design);
		if (revision) {
			router.note({ revision });
			void layAsked();
		}
	}
	start();

	// Power belongs to the build, not to the design: what is drawn follows it.
	// svelte-ignore state_referenced_locally
	let drawnPower = build.power_w;
	$effect(() => {
		if (build.power_w === drawnPower) return;
		drawnPower = build.power_w;
		work.refresh();
		work.compare();
	});

	const prediction = $derived(work.predicted.prediction);
	const stations = $derived(prediction?.stations ?? []);
	const antenna = $derived(stations[0]);
	const box = $derived(prediction ? stations[prediction.box] : undefined);
	const radio = $derived(stations[stations.length - 1]);
	const formerBox = $derived(work.former ? work.former.stations[work.former.box] : undefined);
	const centerHz = $derived.by(() => {
		const first = work.content?.targets[0] ?? build.targets[0];
		return first ? (first.low_hz + first.high_hz) / 2 : 0;
	});

	const seen = $derived(stations.map((s) => at(s, markerHz)));
	const atBox = $derived(prediction ? seen[prediction.box] : undefined);
	const road = $derived(
		prediction && work.content ? roadOf(seen, prediction.box, partNames(work.content)) : []
	);
	const line = $derived(work.content ? feedline(work.content) : undefined);
	/** The sweep that this design hangs on, which need not be the one that the build now has. */
	const sweptName = $derived(sweptNameOf(work.content, build.sweeps));
	const stops = $derived(
		prediction && work.content
			? stopsOf({
					content: work.content,
					prediction,
					seen,
					sweepName: sweptName,
					sweepHref: `/builds/${build.id}/sweep`,
					markerHz,
					unit: units.length
				})
			: []
	);
	const floors = $derived(
		prediction && work.content ? floorsOf(prediction.targets, work.content.targets) : []
	);
	const shift = $derived(moved(standingOf(work.former), standingOf(prediction)));

	/** Keys that are held to see which way the first part moves the band, the second, the third. */
	const HELD = ['a', 's', 'd'];
	/** The part that is pointed at. */
	let pointed = $state<string | null>(null);
	const swaying = latest(
		() => {
			// As it is kept: while a part is dragged nothing more is asked.
			const content = work.design?.revision.content;
			const part = content && parts(content).find((p) => p.key === pointed);
			if (!content || !part) return null;
			const low_hz = Math.min(...content.targets.map((t) => t.low_hz));
			const high_hz = Math.max(...content.targets.map((t) => t.high_hz));
			return { content, part, power_w: build.power_w, low_hz, high_hz, points: 21, carried: false };
		},
		async ({ part, content, ...asked }) => {
			const at = (share: number) =>
				predict({ ...asked, content: withValue(content, part, valueOf(part) * share) }).then(
					(p) => p.stations[p.box]!
				);
			const [less, present, more] = await Promise.all([at(1 / SWAY), at(1), at(SWAY)]);
			const name = partNames(content).get(part.key) ?? part.key;
			return { key: part.key, name, less, present, more };
		}
	);
	const swayed = $derived(swaying.value && pointed === swaying.value.key ? swaying.value : null);

	let choices = 0;
	async function choose(id: string): Promise<void> {
		const mine = ++choices;
		try {
			// Read anew: it may have changed elsewhere since this page was opened.
			const path = { design_id: id };
			const design = await answer(api.GET('/api/designs/{design_id}', { params: { path } }));
			page.keep(design);
			// Another one was chosen meanwhile: that one is open.
			if (mine !== choices) return;
			open(design);
			await page.change({ chosen_design_id: id });
		} catch (why) {
			work.refuse(why);
		}
	}
</script>

<svelte:window
	onkeydown={(event) => {
		walkByKey(event, (way) => void work.walk(way));
		const part = work.content && parts(work.content)[HELD.indexOf(event.key)];
		if (part && singleKey(event)) pointed = part.key;
	}}
	onkeyup={(event) => {
		if (HELD.includes(event.key)) pointed = null;
	}}
	onblur={() => (pointed = null)}
/>

{#if refused}
	<Note kind="danger" title="No match to begin with.">
		{refused}. <a href="/builds/{build.id}/sweep">Back to the sweep</a>
	</Note>
{:else if work.content && prediction && antenna && box && radio && atBox}
	{@const content = work.content}
	<Desk>
		{#snippet drop()}<SystemDiagram
				{stops}
				powerW={build.power_w}
				limit={Math.min(...content.targets.map((t) => t.swr_limit))}
			/>{/snippet}

		{#snippet pictures()}
			{#if !sameTargets(content.targets, build.targets)}
				<Note kind="news">
					{#if servesSome(content.targets, build.targets)}
						This design serves {content.targets.map(targetText).join(', ')} alone.
					{:else}
						The build's bands changed since this design was made: it still serves
						{content.targets.map(targetText).join(', ')}.
					{/if}
					<button class="button" onclick={() => work.serve(build.targets)}
						>Serve {build.targets.map(targetText).join(', ')}</button
					>
				</Note>
			{/if}
			<AntennaSource
				{content}
				ontake={(antenna) => work.edit({ ...content, antenna }, true)}
				laid={laid.map((l) => l.key)}
				onlay={(key, name, antenna) => void lay(key, name, antenna && { ...content, antenna })}
			/>
			{#if work.saving.news}<Note kind="news">{work.saving.news}</Note>{/if}
			{#if work.problem}<Note kind="danger">{work.problem}.</Note>{/if}
			<MatchCharts
				{range}
				targets={content.targets}
				{markerHz}
				{onmarker}
				top={content.antenna.kind}
				{antenna}
				{box}
				radio={line ? radio : undefined}
				ceiling={line ? prediction?.ceiling : null}
				former={shift ? formerBox : undefined}
				yielded={work.predicted.yielded}
				{shift}
				{laid}
				{floors}
			/>
			<div class="pair">
				<section class="sheet parts">
					{#each parts(content) as part (part.key + part.place + part.kind)}
						<PartRuler
							{content}
							{part}
							made={prediction.made.find((m) => m.key === part.key)}
							{cables}
							{wires}
							{own}
							{centerHz}
							onpoint={(on) => (pointed = on ? part.key : pointed === part.key ? null : pointed)}
							onedit={(edited, settled) => work.edit(edited, settled)}
						/>
					{/each}
					<div class="row">
						<span class="eyebrow">Coax to the radio</span>
						<QuantityField
							label="Length of coax"
							quiet
							kind="length"
							width={8}
							shown={length(line?.length_m ?? 0, units.length)}
							onsettle={(length_m) => {
								work.edit(withLine(content, { length_m }), true);
							}}
						/>
						<select
							aria-label="Coax"
							value={line?.cable ?? 'foam-6'}
							onchange={(event) => {
								work.edit(withLine(content, cableOf(event.currentTarget.value)), true);
							}}
						>
							{#each cables as cable (cable.key)}<option value={cable.key}>{cable.name}</option
								>{/each}
						</select>
					</div>
					<div class="row">
						{#if shapeOf(content)}
							<button
								class="button main"
								disabled={!work.compared.candidates}
								onclick={() => work.best()}>Best over band</button
							>
							<button class="button" onclick={() => work.exactAt(markerHz)}>At marker</button>
						{/if}
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
						{#if !content.elements.some(isWound)}
							<button
								class="button"
								aria-expanded={beside}
								disabled={!work.compared.candidates}
								onclick={() => (beside = !beside)}>Side by side</button
							>
						{/if}
						<span class="saved" role="status">{work.saving.saved ?? ''}</span>
					</div>
				</section>
				<section class="sheet chart">
					<h2>Road to 50 Ω <Help topic="gamma" name="the chart of Γ" /></h2>
					<GammaChart
						size={260}
						{antenna}
						match={box}
						at={point(seen[0])}
						{road}
						limits={[...new Set(content.targets.map((t) => t.swr_limit))]}
						sway={swayed}
					/>
					<p class="told unprinted">
						Point at a part, or hold {parts(content)
							.map((_, i) => HELD[i])
							.filter(Boolean)
							.join(', ')}: which way more and less of it moves the band.
					</p>
				</section>
			</div>
			{#if beside && work.compared.candidates}
				<SideBySide
					candidates={work.compared.candidates}
					{content}
					{range}
					powerW={build.power_w}
					ontake={(candidate) => work.take(candidate)}
				/>
			{/if}
			<WaysPanel {build} {content} {search} ontake={(taken) => work.edit(taken, true)} />
			{#if work.design}
				<LazyPage
					page={() => import('./AsBuiltPanel.svelte')}
					given={{
						content,
						designId: work.design.id,
						range,
						markerHz,
						onmarker,
						ontake: (built: Content, label: string) => work.edit(built, true, label)
					}}
				/>
				<HistoryPanel
					design={work.design}
					{designs}
					laid={laid.map((l) => l.key)}
					onlay={lay}
					onopen={choose}
					ontake={(earlier) => work.edit(earlier, true)}
					onchange={async (list) => {
						page.designs = list;
						const known = list.find((d) => d.id === work.design?.id);
						if (known) work.saving.renamed(known);
						await page.reload();
					}}
				/>
			{/if}
			{#if line && line.length_m > 0 && work.design}
				<CoaxPanel
					content={work.design.revision.content}
					lengthM={line.length_m}
					powerW={build.power_w}
					ontake={(cable) => work.edit(withLine(content, cableOf(cable)), true)}
				/>
			{/if}
		{/snippet}

		{#snippet verdict()}
			<Verdict
				{content}
				{prediction}
				yielded={work.predicted.yielded}
				candidates={work.compared.candidates}
				powerW={build.power_w}
				ontake={(candidate) => work.take(candidate)}
				ondesign={(band, network) => void designFor(band, network)}
			/>
		{/snippet}
	</Desk>
{:else}
	{#if work.problem}<Note kind="danger">{work.problem}.</Note>{/if}
	<p class="wait">Comparing every L network over {build.targets.map((t) => t.label).join(', ')}…</p>
{/if}

<style>
	.pair {
		display: flex;
		gap: 12px;
	}
	.parts {
		flex: 1;
		min-width: 0;
		display: grid;
		gap: 8px;
		align-content: start;
	}
	.chart {
		flex: 0 0 262px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
	}
	.saved,
	.wait {
		color: var(--soft);
		font-size: var(--size-13);
	}
	@media (max-width: 620px) {
		.pair {
			flex-direction: column;
		}
		.chart {
			flex-basis: auto;
		}
	}
</style>
