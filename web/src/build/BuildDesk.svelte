<!-- @component
	The build desk: one sheet to make a design from, on the screen a list to tick beside its pictures, on paper one side.
-->
<script lang="ts">
	import { answer, api } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';
	import Help from '../lib/help/Help.svelte';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { percent, quantity, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { contributor } from '../matching/words';
	import BenchChart from '../winding/BenchChart.svelte';
	import CoilPicture from '../winding/CoilPicture.svelte';
	import Joins from '../winding/Joins.svelte';
	import RingPicture from '../winding/RingPicture.svelte';
	import { passes } from '../winding/wound';
	import BoxPicture from './BoxPicture.svelte';
	import { batchText, loadText, type Sheet, stepText } from './sheetWords';
	import StepRow from './StepRow.svelte';
	import ThingList from './ThingList.svelte';
	import { LOOK_MS, TickBook } from './tickBook.svelte';

	const page = openBuild();
	const build = $derived(page.build);
	const asked = router.place.query;

	let designId = $state(asked.get('design'));
	/** A state of the design that was asked for; the newest, or the one somebody began, when null. */
	let wanted = $state(Number(asked.get('revision')) || null);
	let builds = $state(1);

	const design = $derived(
		page.designs.find((d) => d.id === designId) ??
			page.designs.find((d) => d.id === build.chosen_design_id) ??
			page.designs[0] ??
			null
	);

	interface Question {
		id: string;
		number: number;
		builds: number;
		/** What else the sheet hangs on. */
		of: [number, string];
	}
	const sheets = latest(
		(): Question | null =>
			design && {
				id: design.id,
				number: wanted ?? design.revision.number,
				builds,
				of: [build.revision, units.length]
			},
		({ id, number, builds: n }) =>
			answer(
				api.GET('/api/designs/{design_id}/revisions/{number}/sheet', {
					params: { path: { design_id: id, number }, query: { builds: n } }
				})
			),
		{ keeps: true, took: (found) => show(found) }
	);
	const sheet = $derived(sheets.value);

	let book = $state.raw<TickBook | null>(null);

	function show(found: Sheet): void {
		// Whoever began to build goes on with what was begun, until he says otherwise.
		if (wanted === null && found.begun !== null && found.begun < found.number) {
			wanted = found.begun;
			return;
		}
		if (book?.designId === found.design_id && book.number === found.number) book.take(found.ticks);
		else book = new TickBook(found.design_id, found.number, found.ticks);
	}

	$effect(() => {
		const looked = book;
		const every = setInterval(() => {
			if (document.visibilityState === 'visible') void looked?.look();
		}, LOOK_MS);
		return () => clearInterval(every);
	});

	function open(id: string): void {
		designId = id;
		wanted = null;
		router.note({ design: id, revision: null });
	}

	function openState(number: number): void {
		wanted = number;
		router.note({ revision: String(number) });
	}

	/** On with the newest state: what is the same in both stays ticked. */
	async function takeNewest(found: Sheet): Promise<void> {
		await answer(
			api.POST('/api/designs/{design_id}/revisions/{number}/ticks/carried', {
				params: { path: { design_id: found.design_id, number: found.newest } },
				body: { number: found.number }
			})
		);
		// Another design may have been opened meanwhile.
		if (design?.id === found.design_id) openState(found.newest);
	}

	const steps = $derived(sheet?.steps ?? []);
	const done = $derived(book ? steps.filter((s) => book?.of(s.key).done).length : 0);
	const next = $derived(steps.find((s) => !book?.of(s.key).done) ?? null);
	const stateText = $derived(
		sheet
			? `${sheet.label ? `“${sheet.label}”, ` : ''}state ${sheet.number} of ${new Date(sheet.made_at).toLocaleDateString(undefined, { day: 'numeric', month: 'long', year: 'numeric' })}`
			: ''
	);
	const bands = $derived(sheet?.content.targets.map((t) => t.label).join(' · ') ?? '');
	const markerHz = $derived(
		sheet?.bench
			? page.markerIn(sheet.bench.frequency_hz[0] ?? 0, sheet.bench.frequency_hz.at(-1) ?? 1)
			: page.markerHz
	);
</script>

{#if sheets.problem}<Note kind="danger">{sheets.problem}</Note>{/if}
{#if !design}
	<section class="sheet empty">
		<h2>Nothing is decided yet</h2>
		<p>
			The build sheet lists what to take, cut, wind, solder and check. It is made from a design:
			<a href="/builds/{build.id}/match">match the wire</a>, or
			<a href="/builds/{build.id}/wind">begin a winding</a>. What to cut of wire stands on
			<a href="/builds/{build.id}/wire">Wire</a>.
		</p>
	</section>
{:else if sheet && book}
	{#if sheet.begun === sheet.number && sheet.newest > sheet.number}
		<Note kind="news" title="The design changed since you began.">
			This is state {sheet.number}, which carries your ticks; the newest is {sheet.newest}.
			<button class="button" onclick={() => takeNewest(sheet)}
				>Go on with the newest, keep ticks of equal steps</button
			>
		</Note>
	{/if}
	{#if book.problem}<Note kind="danger">{book.problem}</Note>{/if}
	<header class="paper">
		<h1>{build.name}</h1>
		<p>{sheet.name}, {bands} · {stateText}{builds > 1 ? ` · for ${builds} builds` : ''}</p>
	</header>
	<div class="desk" class:waits={sheets.loading} class:long={steps.length > 12}>
		<section class="sheet steps">
			<h2>In this order</h2>
			<ol>
				{#each steps as step, i (step.key)}
					<StepRow {step} nth={i + 1} {book} next={step === next} />
				{/each}
			</ol>
		</section>
		<div class="column">
			<section class="sheet wind" class:none={sheet.windings.length === 0}>
				<h2>Wind</h2>
				<div class="pictures">
					{#each sheet.windings as winding (winding.key)}
						<figure>
							<figcaption>
								<b>{winding.key}</b>
								{winding.made_of.size
									? `${winding.made_of.stack && winding.made_of.stack > 1 ? `${winding.made_of.stack} × ` : ''}${winding.made_of.size}-${winding.made_of.mix}, `
									: ''}{winding.made_of.wire}
							</figcaption>
							{#if winding.picture.kind === 'ring'}
								<RingPicture {winding} size={300} />
								<p class="told soft">{passes(winding.turns)}.</p>
							{:else}
								<CoilPicture {winding} width={320} />
							{/if}
							{#if winding.kind === 'transformer' && winding.turns.in_hand > 1}
								<Joins {winding} />
							{/if}
						</figure>
					{/each}
				</div>
				{#if sheet.windings.some((w) => w.picture.kind === 'ring')}
					<p class="told soft">
						Rings are seen from the coax side; every pass goes in from the front.
					</p>
				{/if}
			</section>
			{#if sheet.box}
				<section class="sheet box">
					<h2>Wire the box</h2>
					<BoxPicture box={sheet.box} content={sheet.content} voltageV={sheet.voltage_v} />
				</section>
			{/if}
		</div>
		<div class="column">
			<section class="sheet verdict" aria-label="How far it is" aria-live="polite">
				<p class="eyebrow">Steps done</p>
				<p class="top">
					<span class="figure">{done} <small>of {steps.length}</small></span><Help
						topic="build"
						name="the build sheet"
					/>
				</p>
				<progress max={steps.length} value={done} aria-label="Steps done"></progress>
				<p>
					{#if next}Next: <strong>{stepText(next, units.length).title}</strong>
					{:else}All is ticked. Keep the sweep of the finished thing in the
						<a href="/builds/{build.id}/log">log</a>: next year it says what changed.{/if}
				</p>
				{#if sheet.batch && builds > 1}<p class="told">{batchText(sheet.batch)}</p>{/if}
				<div class="row">
					{#if page.designs.length > 1}
						<select
							aria-label="Design"
							value={design.id}
							onchange={(e) => open(e.currentTarget.value)}
						>
							{#each page.designs as d (d.id)}<option value={d.id}>{d.name}</option>{/each}
						</select>
					{/if}
					<NumberStepper
						label="How many"
						value={builds}
						most={100}
						onchange={(n) => (builds = n)}
					/>
					<button class="button" onclick={() => print()}>Print the sheet</button>
				</div>
				<p class="told soft">{sheet.name}, {stateText}</p>
			</section>
			<section class="sheet things">
				<h2>Take{builds > 1 ? `, for ${builds}` : ''}</h2>
				<ThingList things={sheet.things} />
			</section>
			{#if sheet.bench}
				<section class="sheet bench">
					<h2>The bench should show <Help topic="bench" name="the bench check" /></h2>
					{#if sheet.load}<p class="told">{loadText(sheet.load)}</p>{/if}
					<BenchChart
						height={130}
						bench={sheet.bench}
						targets={sheet.content.targets}
						{markerHz}
						onmarker={(hz, settled) => page.mark(hz, settled)}
					/>
					<p class="told soft">
						Nineteen right builds in twenty lie in the shaded band, with a resistor of ± 5 %.
					</p>
				</section>
			{/if}
		</div>
		<section class="hurt">
			<p>
				<strong
					>{quantity(sheet.voltage_v, 'V', 2)} peak at the antenna's post with {watts(
						sheet.power_w
					)}.</strong
				>
				{#each sheet.volts as peak (peak.key)}<strong
						>{quantity(peak.voltage_v, 'V', 2)} across the {peak.key}.</strong
					>
				{/each}
				The far ends of a wire carry the most. Out of reach. Never touch or adjust while transmitting.
				Core and resistor get hot. Local rules and qualified people come before this sheet.
			</p>
		</section>
		<p class="matters told soft">
			{#if sheet.matters.length}What matters most: {sheet.matters
					.map((c) => contributor(c.name).replace(/,$/, ''))
					.join(', then ')}.{/if}
			{#if sheet.share !== null}{percent(sheet.share)} of builds so made hold their bands.{/if}
			<span class="from-us">· Yielding Coil</span>
		</p>
	</div>
{:else if !sheets.problem}
	<p class="soft">Looking…</p>
{/if}

<style>
	.paper {
		display: none;
	}
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr) minmax(0, 0.95fr);
		gap: 12px;
		align-items: start;
	}
	.column {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 12px;
	}
	.waits {
		opacity: 0.6;
	}
	.none {
		display: none;
	}
	.hurt,
	.matters {
		grid-column: 1 / -1;
	}
	.hurt {
		border: 2px solid var(--enamel);
		border-radius: 6px;
		padding: 8px 14px;
		background: var(--caution);
	}
	.hurt p,
	.matters {
		margin: 0;
	}
	.from-us {
		display: none;
	}
	.top {
		display: flex;
		align-items: baseline;
	}
	progress {
		width: 100%;
		height: 8px;
		accent-color: var(--verdigris);
	}
	.row {
		margin: 10px 0 6px;
	}
	ol {
		list-style: none;
		padding: 0;
		margin: 6px 0 0;
		display: grid;
		gap: 2px;
	}
	figure {
		margin: 0 0 10px;
	}
	figcaption {
		font-size: var(--size-13);
		margin-bottom: 4px;
	}
	@media (max-width: 1050px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		.column {
			display: contents;
		}
		.verdict {
			order: -1;
		}
	}
	/* One side of paper: what to take, wind and wire at the left, the order of the work at the right. */
	@media print {
		.paper {
			display: flex;
			justify-content: space-between;
			align-items: baseline;
			gap: 12px;
			border-bottom: 2px solid #000;
			margin-bottom: 5px;
		}
		.paper h1 {
			font-size: 16px;
			margin: 0;
		}
		.paper p {
			margin: 0;
			font-size: 10.5px;
			text-align: right;
		}
		.verdict {
			display: none;
		}
		.column {
			display: contents;
		}
		.things {
			grid-area: things;
		}
		.wind {
			grid-area: wind;
		}
		.box {
			grid-area: box;
		}
		.steps {
			grid-area: steps;
		}
		.bench {
			grid-area: bench;
		}
		.hurt {
			grid-area: hurt;
		}
		.matters {
			grid-area: matters;
		}
		.from-us {
			display: inline;
		}
		.desk {
			grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr);
			grid-template-areas: 'things steps' 'wind steps' 'box steps' 'box bench' 'hurt hurt' 'matters matters';
			grid-template-rows: auto auto 1fr auto auto auto;
			gap: 5px 18px;
		}
		.desk :global(:is(p, li, figcaption, .more, .what, .from, b)) {
			font-size: var(--print);
			line-height: 1.22;
		}
		.desk {
			--print: 12px;
		}
		.desk.long {
			--print: 10px;
		}
		.desk .sheet {
			border: none;
			padding: 0;
			box-shadow: none;
		}
		h2 {
			font-size: 12px;
			margin: 0;
		}
		ol {
			margin: 0;
			gap: 0;
		}
		figure {
			margin: 0;
		}
		.pictures {
			display: grid;
			grid-template-columns: repeat(auto-fit, minmax(125px, 1fr));
			gap: 6px;
		}
		.pictures :global(.picture svg text) {
			font-size: 19px;
		}
		.pictures :global(svg) {
			max-height: 190px;
			margin: 0 auto;
		}
		.box :global(svg) {
			max-height: 230px;
		}
		.hurt {
			padding: 4px 10px;
		}
	}
</style>
