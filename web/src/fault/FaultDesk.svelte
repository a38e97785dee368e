<!-- @component
	The fault desk: the way down with what is cleared, what is left with its odds, the next test, the way so far.
-->
<script lang="ts">
	import { untrack } from 'svelte';

	import { openBuild } from '../lib/build/buildState.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { units } from '../lib/units/units.svelte';
	import BeginForm from './BeginForm.svelte';
	import DropPicture from './DropPicture.svelte';
	import EchoChart from './EchoChart.svelte';
	import { FaultBook, type School } from './faultBook.svelte';
	import {
		actTitle,
		bandsText,
		faultName,
		happenedWords,
		leftText,
		type Offer,
		oddsText,
		place,
		showsText,
		stateText,
		testText,
		whereWords
	} from './faultWords';
	import MendCard from './MendCard.svelte';
	import TestCard from './TestCard.svelte';

	const page = openBuild();
	const build = $derived(page.build);
	const book = new FaultBook(untrack(() => page.build.id));
	book.again();

	const fault = $derived(book.fault);
	let anew = $state(false);
	let chosen = $state<string | null>(null);

	/** The first sweep at the radio is asked for before any test is. */
	const first = $derived<Offer | null>(
		fault && fault.missing.length === 0 && !fault.tests.some((t) => t.act === 'as_it_is')
			? {
					key: 'as_it_is',
					code: 'as_it_is',
					of: '',
					other: '',
					where: 'shack',
					reads: 'sweep',
					answers: [],
					effort: 1,
					bits: 0,
					splits: 1,
					load_ohm: null,
					shows: [],
					cautions: ['radio_off']
				}
			: null
	);
	const offers = $derived(fault?.offered ?? []);
	const next = $derived(first ?? offers.find((o) => o.key === chosen) ?? offers[0] ?? null);
	const found = $derived(fault?.state === 'found' || fault?.state === 'alike');
	const begun = $derived(fault !== null && fault.begun_entry_id !== null);
	const asks = $derived(fault !== null && (!begun || fault.missing.length > 0 || anew));
	const onLine = $derived(fault?.left.find((l) => l.at_m !== null && l.odds > 0.3) ?? null);
	const shownLeft = $derived((fault?.left ?? []).filter((l, i) => i < 6 && l.odds > 0.005));
	const counted = $derived(
		(fault?.tests ?? []).filter((t) => t.act !== 'as_it_is' && !t.skipped).length
	);
	const schools: [School, string][] = [
		['least_effort', 'least effort'],
		['line_first', 'line first'],
		['antenna_first', 'antenna first']
	];

	$effect(() => {
		// Another answer, another best test.
		void fault?.tests.length;
		untrack(() => (chosen = null));
	});
	const numberOf = (id: string | null) =>
		id === null
			? 'what was told at first'
			: `test ${(fault?.tests.findIndex((t) => t.entry_id === id) ?? 0) + 1}`;
</script>

{#if book.asking}<Note kind="danger">{book.asking}</Note>{/if}
{#if !fault && book.asking}
	<p class="anew"><button class="button main" onclick={() => book.again()}>Ask again</button></p>
{:else if !fault}
	<p class="soft">
		Every wire and every part is computed sound and broken: that takes some seconds…
	</p>
{:else if asks}
	<div class="opening">
		<BeginForm {build} {fault} {book} />
		<section class="sheet">
			<h2>How it goes</h2>
			<ol class="sofar">
				<li>One sweep at the radio, as it is: much is told by that alone.</li>
				<li>
					Then one test at a time, the most telling for the least effort: shack first, ladder last.
				</li>
				<li>
					Every answer moves the odds. At nine in ten it is called found; what cannot be told apart
					is named together.
				</li>
				<li>Mark, mend, sweep against the baseline. The log keeps all of it.</li>
			</ol>
			<h2 class="by">What there is to go by</h2>
			<p class="told">
				{fault.known_by === 'word' || fault.known_by === 'nothing'
					? 'No plan of the wires here: what you tell of it.'
					: 'The antenna as it is planned here.'}
				{fault.line_m ? `${place(fault.line_m, units.length)} of coax.` : ''}
				{fault.baseline
					? `A sweep of ${new Date(fault.baseline.swept_at).toLocaleDateString()}.`
					: 'No sweep of when it was good.'}
			</p>
			<p class="told soft">
				Nothing transmits while you touch anything. Power lines, ladders and masts: local rules and
				qualified people come before this page.
			</p>
		</section>
	</div>
	{#if anew}<button class="plain" onclick={() => (anew = false)}>Back to the search</button>{/if}
{:else}
	<div class="fault" class:waits={book.loading}>
		<section class="way" aria-label="The way down">
			<DropPicture elements={fault.elements} />
		</section>
		<div class="middle">
			{#if fault.echo}
				<section class="sheet">
					<h2>
						What {place(fault.echo.line_m, units.length)} of coax send back
						<Help topic="echo" name="echoes along a line" />
					</h2>
					<EchoChart
						echo={fault.echo}
						at={onLine ? { m: onLine.at_m ?? 0, within: onLine.within_m ?? 0 } : null}
						what={onLine ? faultName(onLine.code) : ''}
					/>
				</section>
			{/if}
			<div class="pair">
				<section class="sheet">
					<h2>
						What is left, after {counted}
						{counted === 1 ? 'test' : 'tests'}
						and {fault.trips}
						{fault.trips === 1 ? 'walk' : 'walks'}
						<Help topic="fault" name="the odds" />
					</h2>
					<ul class="left">
						{#each shownLeft as l, i (`${l.key} ${l.code}`)}
							<li>
								<span>{leftText(l, units.length)}</span>
								<span class="bar"
									><i class:top={i === 0} style:width="{Math.max(1, 100 * l.odds)}%"></i></span
								>
								<b class="mono">{oddsText(l.odds)}</b>
							</li>
						{/each}
					</ul>
					{#if stateText(fault)}<p class="told"><strong>{stateText(fault)}</strong></p>{/if}
				</section>
				<section class="sheet">
					<h2>So far</h2>
					{#if Object.keys(fault.begun.bands ?? {}).length > 0}
						<p class="told">{bandsText(fault.begun.bands ?? {})}.</p>
					{/if}
					{#if (fault.begun.happened ?? []).length > 0}
						<p class="told">
							Before it: {(fault.begun.happened ?? []).map((h) => happenedWords[h]).join(', ')}.
						</p>
					{/if}
					<ol class="sofar">
						{#each fault.tests as test (test.entry_id)}
							<li>
								{testText(test)}
								{#if test.where}<span class="soft">{whereWords[test.where]}</span>{/if}
								{#if test.problem}<span class="problem">not used: {test.problem.detail}</span>{/if}
							</li>
						{/each}
					</ol>
					<div class="row unprinted">
						{#if fault.tests.length > 0}
							<button
								class="button"
								disabled={book.working}
								onclick={() => {
									const last = fault.tests.at(-1);
									if (last) void book.takeBack(last);
								}}>Undo the last</button
							>
						{/if}
						{#if book.taken}
							<button class="button" disabled={book.working} onclick={() => book.putBack()}
								>Put it back</button
							>
						{/if}
					</div>
				</section>
			</div>
			{#if !fault.ended && !found && offers.length > 0 && !first}
				<section class="sheet offers">
					<h2>Tests, the most telling for the least effort first</h2>
					<div class="scroll">
						<table>
							<thead>
								<tr>
									<th scope="col">test</th>
									<th scope="col">where</th>
									{#each next?.shows.slice(0, 2) ?? [] as s (`${s.key} ${s.code}`)}
										<th scope="col"
											>if it is {leftText(
												{ key: s.key, code: s.code, at_m: null, amount: null },
												units.length
											)}</th
										>
									{/each}
									<th scope="col" class="num">tells</th>
								</tr>
							</thead>
							<tbody>
								{#each offers.slice(0, 6) as offer (offer.key)}
									<tr class:on={offer === next}>
										<td
											><button class="plain" onclick={() => (chosen = offer.key)}
												>{actTitle(offer.code, offer.of)}</button
											></td
										>
										<td>{whereWords[offer.where]}</td>
										{#each next?.shows.slice(0, 2) ?? [] as s (`${s.key} ${s.code}`)}
											{@const own = offer.shows.find((o) => o.key === s.key && o.code === s.code)}
											<td>{own ? showsText(offer, own, fault.bands) : '–'}</td>
										{/each}
										<td class="num mono">{offer.bits.toFixed(1)} bit</td>
									</tr>
								{/each}
							</tbody>
						</table>
					</div>
				</section>
			{/if}
		</div>
		<div class="side">
			{#if fault.against}
				<Note kind="danger" title="Two answers contradict each other:">
					{numberOf(fault.against.first)} and {numberOf(fault.against.second)}. Do the newer one
					again, or take one back.
				</Note>
			{/if}
			{#if fault.other_plane}
				<Note kind="danger" title="Swept somewhere else?">
					{numberOf(fault.other_plane.entry_id)} agrees far better with “{actTitle(
						fault.other_plane.code
					)}”. Take it back and keep it under that test.
				</Note>
			{/if}
			{#if fault.ended || found}
				<MendCard {fault} {book} />
			{/if}
			{#if !fault.ended && next && !found}
				{#key next.key}
					<TestCard {build} {fault} offer={next} {book} onswept={() => page.reload()} />
				{/key}
			{/if}
		</div>
		<div class="about">
			<section class="sheet unprinted">
				<h2>Order of search</h2>
				<div class="row" role="group" aria-label="Order of search">
					{#each schools as [key, name] (key)}
						<button
							class="button"
							class:main={book.school === key}
							aria-pressed={book.school === key}
							onclick={() => book.choose(key)}>{name}</button
						>
					{/each}
				</div>
				{#if fault.halves}
					<p class="told soft">
						By halves, without the model, it would have taken {fault.halves.tests} tests and {fault
							.halves.walks}
						{fault.halves.walks === 1 ? 'walk' : 'walks'}.
					</p>
				{/if}
			</section>
			<section class="sheet">
				<h2>What it goes by</h2>
				<p class="told">
					{fault.known_by === 'word'
						? 'What you told of it: the odds stay flatter.'
						: 'The antenna as it is planned here, its design and its line.'}
					{fault.baseline?.used
						? `Baseline: “${fault.baseline.name}”, ${new Date(fault.baseline.swept_at).toLocaleDateString()}.`
						: 'No sweep of when it was good.'}
				</p>
				<div class="row unprinted">
					{#if fault.ended}
						<button class="button" onclick={() => (anew = true)}>Something is wrong again</button>
					{:else}
						<button
							class="button"
							disabled={book.working}
							onclick={() =>
								book.tell({ kind: 'fault_mended', element: '', given_up: true, marked: false })}
							>Give up for now</button
						>
					{/if}
					<button class="button" onclick={() => window.print()}>Print the way so far</button>
				</div>
			</section>
		</div>
	</div>
{/if}

<style>
	.anew {
		margin-top: 12px;
	}
	.fault {
		display: grid;
		grid-template-columns: minmax(190px, 240px) minmax(0, 1fr) minmax(270px, 330px);
		grid-template-rows: auto 1fr;
		gap: 14px;
		align-items: start;
	}
	.way,
	.middle {
		grid-row: 1 / span 2;
	}
	.about {
		grid-column: 3;
	}
	.opening {
		display: grid;
		grid-template-columns: minmax(0, 640px) minmax(260px, 420px);
		gap: 14px;
		align-items: start;
	}
	.by {
		margin-top: 14px;
	}
	.waits {
		opacity: 0.75;
	}
	.middle,
	.side,
	.about {
		display: grid;
		gap: 12px;
		grid-template-columns: minmax(0, 1fr);
	}
	.pair {
		display: grid;
		grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
		gap: 12px;
	}
	.left,
	.sofar {
		margin: 6px 0 0;
		padding: 0;
		list-style: none;
		display: grid;
		gap: 7px;
		font-size: var(--size-13);
	}
	.sofar {
		list-style: decimal;
		padding-left: 20px;
	}
	.left li {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 70px 84px;
		gap: 8px;
		align-items: center;
	}
	.left b {
		min-width: 52px;
		white-space: nowrap;
		text-align: right;
		font-weight: 400;
	}
	.bar {
		display: block;
		height: 12px;
		background: var(--paper);
		border-radius: 3px;
	}
	.bar i {
		display: block;
		height: 100%;
		background: var(--heat);
		border-radius: 3px;
	}
	.bar i.top {
		background: var(--enamel);
	}
	section .row {
		margin-top: 8px;
	}
	.scroll {
		overflow-x: auto;
	}
	table {
		border-collapse: collapse;
		width: 100%;
		font-size: var(--size-13);
	}
	th {
		text-align: left;
		font-weight: 400;
		color: var(--soft);
		vertical-align: bottom;
		padding: 3px 10px 3px 0;
	}
	td {
		padding: 4px 10px 4px 0;
		vertical-align: top;
	}
	td .plain {
		text-align: left;
		padding: 0;
	}
	.num {
		text-align: right;
		white-space: nowrap;
		padding-right: 0;
	}
	tr.on td {
		background: var(--selected);
		font-weight: 600;
	}
	@media (max-width: 1000px) {
		.fault {
			grid-template-columns: minmax(0, 1fr) minmax(270px, 330px);
		}
		.way,
		.about {
			grid-row: auto;
			grid-column: 1 / -1;
		}
		.middle {
			grid-row: auto;
		}
	}
	@media (max-width: 720px) {
		.fault,
		.pair,
		.opening {
			grid-template-columns: minmax(0, 1fr);
		}
		.fault {
			grid-template-rows: none;
		}
		.side {
			order: -3;
		}
		.middle {
			order: -2;
		}
		.offers {
			display: none;
		}
	}
	@media print {
		.fault {
			grid-template-columns: 58mm minmax(0, 1fr);
			grid-template-rows: none;
		}
		.pair {
			grid-template-columns: minmax(0, 1fr);
		}
		.way,
		.middle {
			grid-row: 1;
			order: 0;
		}
		.way {
			grid-column: 1;
		}
		.middle {
			grid-column: 2;
		}
		.side,
		.about {
			grid-column: 1 / -1;
			order: 1;
		}
		.offers {
			display: none;
		}
	}
</style>
