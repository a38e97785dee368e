<!-- @component
	The next test: what to do, what it will show, and its answer in large buttons.
-->
<script lang="ts">
	import type { Build, Sweep } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { megahertz, quantity, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import DropZone from '../sweep/DropZone.svelte';
	import type { FaultBook } from './faultBook.svelte';
	import {
		actHow,
		actTitle,
		cautionText,
		type BandAnswer,
		bandWords,
		type Fault,
		leftText,
		lookText,
		readText,
		type Reading,
		type Offer,
		showsText,
		thereWords
	} from './faultWords';

	interface Props {
		build: Build;
		fault: Fault;
		offer: Offer;
		book: FaultBook;
		onswept: () => Promise<void>;
	}

	let { build, fault, offer, book, onswept }: Props = $props();

	let ohm = $state<number | null>(null);
	let ratios = $state<Record<string, number>>({});
	let bands = $state<Record<string, BandAnswer>>({});
	let other = $state(false);
	/** Pressed with nothing read yet. */
	let wanted = $state(false);

	/** Keeps an answer, in the words in which it was asked. */
	function keep(reading: Reading, sweepId?: string): Promise<boolean> {
		return book.read(offer.key, reading, readText(offer, reading), sweepId);
	}

	const dial = $derived(fault.begun.instrument === 'dial');
	/** Sweeps since it went wrong that no test has taken yet, the newest first. */
	const fresh = $derived(
		build.sweeps
			.filter((s: Sweep) => s.id !== fault.baseline?.sweep_id)
			.filter((s: Sweep) => !fault.tests.some((t) => t.sweep_id === s.id))
			.filter((s: Sweep) => !fault.begun_at || s.swept_at >= fault.begun_at)
			.sort((a: Sweep, b: Sweep) => b.swept_at.localeCompare(a.swept_at))
	);
	const read = $derived(
		build.targets
			.filter((t) => ratios[t.label])
			.map((t) => ({ frequency_hz: (t.low_hz + t.high_hz) / 2, swr: ratios[t.label] ?? 1 }))
	);

	async function dropped(sweeps: Sweep[]): Promise<void> {
		const last = sweeps.at(-1);
		if (last) await keep({ kind: 'sweep' }, last.id);
		await onswept();
	}
</script>

<section class="sheet verdict test" aria-live="polite">
	<p class="eyebrow">
		{offer.code === 'as_it_is' ? 'First' : 'Next'}, {thereWords[offer.where]}
		{#if offer.of}· {leftText(
				{ key: offer.of, code: 'nothing', at_m: null, amount: null },
				units.length
			).split(':')[0]}{/if}
	</p>
	<h2 class="do">{actTitle(offer.code, offer.of)}</h2>
	<p class="how">{actHow(offer)}</p>
	{#if offer.shows.length > 0 && offer.code !== 'as_it_is'}
		<table>
			<tbody>
				{#each offer.shows as shows (`${shows.key} ${shows.code}`)}
					<tr>
						<th scope="row"
							>{leftText(
								{ key: shows.key, code: shows.code, at_m: null, amount: null },
								units.length
							)}</th
						>
						<td>{showsText(offer, shows, fault.bands)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
	{#if fault.begun.practice}
		<button class="button main big" disabled={book.working} onclick={() => book.practise(offer.key)}
			>{book.working ? 'Wait…' : 'Do it on the simulated site'}</button
		>
	{:else if offer.reads === 'look'}
		<div class="answers">
			{#each offer.answers as answer (answer)}
				<button
					class="button big"
					disabled={book.working}
					onclick={() => keep({ kind: 'look', answer })}
					>{lookText(offer.code, answer, offer.of, offer.other)}</button
				>
			{/each}
		</div>
	{:else if offer.reads === 'ohm'}
		<div class="answers">
			<button
				class="button big"
				disabled={book.working}
				onclick={() => keep({ kind: 'ohm', ohm: 0.5 })}>Reads short</button
			>
			<button
				class="button big"
				disabled={book.working}
				onclick={() => keep({ kind: 'ohm', ohm: null })}>No path</button
			>
		</div>
		<div class="row">
			<QuantityField
				label="Or it reads"
				kind="resistance"
				width={8}
				shown={ohm === null ? '' : quantity(ohm, 'Ω', 2)}
				onsettle={(value) => void (ohm = value)}
			/>
			<button
				class="button main"
				disabled={book.working}
				onclick={() => (ohm === null ? (wanted = true) : void keep({ kind: 'ohm', ohm }))}
				>Keep it</button
			>
		</div>
	{:else}
		{#if !dial && fresh.length > 0}
			<div class="answers">
				{#each fresh.slice(0, 3) as s, i (s.id)}
					<button
						class="button big"
						class:main={i === 0}
						disabled={book.working}
						onclick={() => keep({ kind: 'sweep' }, s.id)}>Did it: “{s.name}”</button
					>
				{/each}
			</div>
		{/if}
		{#if !dial && !other}
			<DropZone title="Drop its sweep here" buildId={build.id} onsweeps={dropped} />
			<div class="row">
				<a class="button" href="/analyser?build={build.id}">Sweep with the analyser</a>
				<button class="button" onclick={() => (other = true)}>I have no sweep</button>
			</div>
		{/if}
		{#if dial || other}
			{#each build.targets as target (target.label)}
				<fieldset class="bands">
					<legend>{target.label}</legend>
					<QuantityField
						label="SWR at {megahertz((target.low_hz + target.high_hz) / 2)} MHz"
						kind="ratio"
						width={5}
						shown={ratios[target.label] ? swr(ratios[target.label]) : ''}
						onsettle={(value) => void (ratios[target.label] = value)}
					/>
					<label
						>or <select
							value={bands[target.label] ?? ''}
							onchange={(e) => (bands[target.label] = e.currentTarget.value as BandAnswer)}
						>
							<option value="" disabled>in words</option>
							{#each Object.entries(bandWords) as [key, words] (key)}
								<option value={key}>{words}</option>
							{/each}
						</select></label
					>
				</fieldset>
			{/each}
			<div class="answers">
				<button
					class="button main big"
					disabled={book.working}
					onclick={() =>
						read.length === 0 && Object.keys(bands).length === 0
							? (wanted = true)
							: void keep(
									read.length > 0
										? { kind: 'dial', points: read }
										: { kind: 'bands', bands: $state.snapshot(bands) }
								)}>Did it</button
				>
			</div>
		{/if}
	{/if}
	<button class="plain" disabled={book.working} onclick={() => book.skip(offer.key)}
		>{offer.code === 'as_it_is' ? 'Go on without it' : 'It cannot be done'}</button
	>
	{#if wanted && ohm === null && read.length === 0 && Object.keys(bands).length === 0}
		<p class="problem" role="alert">Nothing was read yet: type what it reads.</p>
	{/if}
	{#if book.problem}<p class="problem" role="alert">{book.problem}</p>{/if}
</section>
<p class="caution-box" role="note">{cautionText(offer.cautions)}</p>

<style>
	.test {
		display: grid;
		gap: 8px;
		grid-template-columns: minmax(0, 1fr);
	}
	.how {
		font-size: var(--size-14);
	}
	table {
		border-collapse: collapse;
		font-size: var(--size-13);
	}
	th {
		text-align: left;
		font-weight: 400;
		color: var(--soft);
		padding: 2px 10px 2px 0;
	}
	td {
		font-weight: 600;
	}
	.answers {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
		gap: 8px;
	}
	.big {
		min-height: 44px;
		text-align: center;
	}
	.bands {
		border: 0;
		padding: 0;
		margin: 0;
		display: flex;
		flex-wrap: wrap;
		align-items: end;
		gap: 6px 12px;
	}
	.caution-box {
		padding: 9px 14px;
		border-left: 4px solid var(--enamel);
		background: var(--caution);
		border-radius: 4px var(--radius) var(--radius) 4px;
		font-size: var(--size-12);
	}
	.plain {
		justify-self: start;
	}
	@media (max-width: 520px) {
		.big {
			min-height: 72px;
			font-size: var(--size-17);
			font-weight: 700;
		}
	}
</style>
