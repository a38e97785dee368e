<!-- @component
	What one asks before any test: which bands, moved or gone, what happened, what is at hand, what there is to go by.
-->
<script lang="ts">
	import { answer, api, type Build, type CableRow } from '../lib/api/client';
	import LengthField from '../lib/controls/LengthField.svelte';
	import Help from '../lib/help/Help.svelte';
	import { kinds } from '../wire/kinds.svelte';
	import type { FaultBook } from './faultBook.svelte';
	import {
		type BandAnswer,
		bandWords,
		type Begun,
		type Fault,
		type Happened,
		happenedWords
	} from './faultWords';

	interface Props {
		build: Build;
		fault: Fault;
		book: FaultBook;
	}

	let { build, fault, book }: Props = $props();

	kinds.load();
	let cables = $state.raw<CableRow[]>([]);
	void answer(api.GET('/api/tables/cables'))
		.then((rows) => (cables = rows))
		.catch(() => undefined);

	let bands = $state<Record<string, BandAnswer>>({});
	let happened = $state<Happened[]>([]);
	let dial = $state(false);
	let cable = $state('pe-5');
	let lineM = $state(20);
	let antenna = $state<NonNullable<NonNullable<Begun['told']>['antenna']>>('dipole');
	let baseline = $state<string | null>(null);

	const byWord = $derived(fault.missing.includes('antenna') || fault.known_by === 'word');
	const lineAsked = $derived(byWord || fault.missing.includes('line'));
	const swept = $derived(build.sweeps.filter((s) => s.carries === 'impedance'));
	const baselineId = $derived(baseline ?? build.baseline_sweep_id ?? swept.at(-1)?.id ?? null);
	const begun = $derived<Begun>({
		kind: 'fault_begun',
		happened,
		bands,
		baseline_sweep_id: baselineId,
		line: lineAsked && !byWord ? { cable, length_m: lineM } : null,
		feed_at: null,
		told: byWord ? { antenna, cable, line_m: lineM, feed_at: null } : null,
		school: book.school,
		instrument: dial ? 'dial' : 'analyser',
		practice: false
	});
</script>

<section class="sheet verdict begin">
	<p class="eyebrow">It worked, and now it does not</p>
	<h2 class="do">What do you notice?</h2>
	{#if fault.missing.includes('bands')}
		<p class="told">
			On which bands was it used? Choose them on
			<a href="/builds/{build.id}/sweep">Sweep</a> first.
		</p>
	{/if}
	{#each build.targets as target (target.label)}
		<fieldset class="band">
			<legend>{target.label}</legend>
			{#each Object.entries(bandWords) as [key, words] (key)}
				<label class="pick" class:on={bands[target.label] === key}
					><input
						type="radio"
						name="band-{target.label}"
						checked={bands[target.label] === key}
						onchange={() => (bands[target.label] = key as BandAnswer)}
					/>{words}</label
				>
			{/each}
		</fieldset>
	{/each}
	<fieldset>
		<legend>What happened since it was good?</legend>
		<div class="ticks">
			{#each Object.entries(happenedWords) as [key, words] (key)}
				<label class="check"
					><input type="checkbox" value={key} bind:group={happened} />{words}</label
				>
			{/each}
		</div>
	</fieldset>
	{#if byWord}
		<label
			>What hangs there
			<select bind:value={antenna}>
				{#each kinds.all as kind (kind.key)}<option value={kind.key}>{kind.name}</option>{/each}
			</select></label
		>
	{/if}
	{#if lineAsked}
		<div class="row">
			<label
				>Coax to the radio
				<select bind:value={cable}>
					{#each cables as row (row.key)}<option value={row.key}>{row.name}</option>{/each}
				</select></label
			>
			<LengthField label="Its length" metres={lineM} onsettle={(m) => void (lineM = m)} />
		</div>
	{/if}
	{#if swept.length > 0}
		<label
			>The sweep of when it was good
			<select value={baselineId ?? ''} onchange={(e) => (baseline = e.currentTarget.value || null)}>
				{#each swept as s (s.id)}<option value={s.id}
						>{s.name}{s.id === build.baseline_sweep_id ? ' (the baseline)' : ''}</option
					>{/each}
			</select></label
		>
	{:else}
		<p class="told soft">
			No sweep of when it was good: then the odds stay flatter, and more tests are asked for.
		</p>
	{/if}
	<label class="check"
		><input type="checkbox" bind:checked={dial} />No analyser at hand: SWR by the radio’s meter</label
	>
	<div class="row">
		<button
			class="button main go"
			disabled={book.working || fault.missing.includes('bands')}
			onclick={() => book.tell(begun)}>Look for it</button
		>
		<button
			class="button"
			disabled={book.working || fault.missing.includes('bands')}
			onclick={() => book.breakThere(begun)}
			>{book.working ? 'Wait…' : 'Practise: let the simulated site break'}</button
		>
		<Help topic="fault" name="finding a fault" />
	</div>
	{#if book.problem}<p class="problem" role="alert">{book.problem}</p>{/if}
</section>

<style>
	.begin {
		display: grid;
		gap: 12px;
		max-width: 640px;
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
	}
	legend {
		font-weight: 600;
		padding: 0;
		margin-bottom: 4px;
	}
	.band {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
	.pick {
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		padding: 5px 11px;
		font-size: var(--size-13);
		cursor: pointer;
	}
	.pick input {
		position: absolute;
		opacity: 0;
	}
	.pick:focus-within {
		outline: 2px solid var(--blueprint);
		outline-offset: 1px;
	}
	.pick.on {
		background: var(--ink);
		border-color: var(--ink);
		color: var(--on-ink);
	}
	.ticks {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
		gap: 4px 12px;
	}
	@media (max-width: 520px) {
		.row .button.go {
			flex-basis: 100%;
			min-height: 72px;
			font-size: var(--size-17);
			font-weight: 700;
		}
		.pick,
		.row .button {
			min-height: 48px;
			flex: 1 1 45%;
			display: flex;
			align-items: center;
			justify-content: center;
		}
	}
</style>
