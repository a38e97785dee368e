<!-- @component
	The plain sums of a line, without a build: SWR from one end to the other, two readings of one antenna, R and X to SWR.
-->
<script lang="ts">
	import { answer, api, problemText, type Schemas } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import LengthField from '../lib/controls/LengthField.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, megahertz, percent, swr, watts } from '../lib/units/format';
	import EndsPicture from './EndsPicture.svelte';

	type By = 'dB' | 'cable';
	interface LineAsked {
		by: By;
		matched_db: number;
		cable: string;
		length_m: number;
	}

	let cables = $state.raw<Schemas['CableOut'][]>([]);
	let problem = $state<string | null>(null);
	answer(api.GET('/api/tables/cables'))
		.then((rows) => (cables = rows.filter((c) => !c.piece)))
		.catch((why: unknown) => (problem = problemText(why)));

	let atHz = $state(14.2e6);
	let read = $state(2);
	let at = $state<'radio' | 'load'>('radio');
	let line = $state.raw<LineAsked>({ by: 'dB', matched_db: 1, cable: 'pe-5', length_m: 20 });
	const lineOf = (l: LineAsked) =>
		l.by === 'dB'
			? { matched_db: l.matched_db }
			: { cable: l.cable, length_m: l.length_m, at_hz: atHz };
	const sums = latest(
		() => ({ swr: read, at, line: lineOf(line) }),
		(body) => answer(api.POST('/api/line-sums', { body })),
		{ keeps: true }
	);
	const found = $derived(sums.problem ? null : sums.value);

	let first = $state.raw({
		swr: 1.5,
		line: { by: 'cable', matched_db: 2, cable: 'pe-5', length_m: 30 } as LineAsked
	});
	let second = $state.raw({
		swr: 1.7,
		line: { by: 'cable', matched_db: 1, cable: 'foam-10', length_m: 30 } as LineAsked
	});
	const two = latest(
		() => ({
			first: { swr: first.swr, line: lineOf(first.line) },
			second: { swr: second.swr, line: lineOf(second.line) }
		}),
		(body) => answer(api.POST('/api/line-sums/two-readings', { body })),
		{ keeps: true }
	);
	const both = $derived(two.problem ? null : two.value);

	let load = $state.raw({ resistance_ohm: 25, reactance_ohm: 0 });
	const loads = latest(
		() => load,
		(body) => answer(api.POST('/api/line-sums/load', { body })),
		{ keeps: true }
	);
	const onLoad = $derived(loads.problem ? null : loads.value);

	const rest = $derived(
		!both
			? ''
			: both.rest_possible
				? 'Length and impedance of the two lines can make up the rest.'
				: 'Length and impedance of these lines cannot make up the rest: look at the plugs, at current outside the coax, and at the meters.'
	);
	function told(t: NonNullable<typeof both>): string {
		const expected = `By loss alone the second should read ${swr(t.by_loss_swr)}.`;
		switch (t.verdict) {
			case 'no difference':
				return 'Both read the same.';
			case 'loss':
				return `Loss explains it. ${expected}`;
			case 'partly':
				return (t.loss_share ?? 0) > 1
					? `By loss they would differ more than that. ${expected} ${rest}`
					: `Loss explains ${percent(t.loss_share ?? 0)} of it. ${expected} ${rest}`;
			default:
				return `Loss does not explain it: it works the other way. ${expected} ${rest}`;
		}
	}
</script>

<svelte:head><title>Plain sums of a line · Yielding Coil</title></svelte:head>

{#snippet lineFields(of: LineAsked, name: string, onset: (l: LineAsked) => void)}
	<label class="named"
		>Loss by
		<select
			aria-label="{name}, loss by"
			value={of.by}
			onchange={(e) => onset({ ...of, by: e.currentTarget.value as By })}
		>
			<option value="dB">dB</option>
			<option value="cable">cable and length</option>
		</select></label
	>
	{#if of.by === 'dB'}
		<QuantityField
			label="{name}, matched loss"
			kind="loss"
			width={8}
			shown="{figures(of.matched_db)} dB"
			onsettle={(matched_db) => onset({ ...of, matched_db })}
		/>
	{:else}
		<label class="named"
			>Cable
			<select
				aria-label="{name}, cable"
				value={of.cable}
				onchange={(e) => onset({ ...of, cable: e.currentTarget.value })}
			>
				{#each cables as c (c.key)}<option value={c.key}>{c.name}</option>{/each}
			</select></label
		>
		<LengthField
			label="{name}, length"
			metres={of.length_m}
			width={8}
			onsettle={(length_m) => onset({ ...of, length_m })}
		/>
	{/if}
{/snippet}

<Header title="Plain sums of a line" />
<main>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	<div class="grid">
		<section class="sheet" aria-label="From one end to the other">
			<h2>From one end to the other <Help topic="ends" name="the two ends of a line" /></h2>
			<div class="fields">
				<QuantityField
					label="SWR read"
					kind="ratio"
					width={6}
					shown={swr(read)}
					onsettle={(value) => (read = value)}
				/>
				<label class="named"
					>at
					<select bind:value={at} aria-label="Where it is read">
						<option value="radio">the radio</option>
						<option value="load">the antenna</option>
					</select></label
				>
				{@render lineFields(line, 'Line', (l) => (line = l))}
				<QuantityField
					label="Frequency"
					kind="frequency"
					width={10}
					shown="{megahertz(atHz)} MHz"
					onsettle={(value) => (atHz = value)}
				/>
			</div>
			{#if sums.problem}<Note kind="danger">{sums.problem}.</Note>{/if}
			{#if found && found.matched_db !== null}
				<EndsPicture
					matchedDb={found.matched_db}
					radio={found.swr_radio}
					load={found.swr_load}
					highest={found.highest_radio_swr}
				/>
			{/if}
		</section>
		<section class="sheet verdict" aria-label="Verdict">
			{#if found}
				<p class="eyebrow">{at === 'radio' ? 'At the antenna' : 'At the radio'}</p>
				<p class="figure">
					{swr(at === 'radio' ? found.swr_load : found.swr_radio)} <small>: 1</small>
				</p>
				{#if found.other_low !== null}
					<p class="told">
						{swr(found.other_low)} to {swr(found.other_high)} nine times in ten, by what is known of this
						cable's loss.
					</p>
				{/if}
				<p>
					Matched the line loses {figures(found.matched_db ?? 0)} dB; with this load {figures(
						found.total_db ?? 0
					)} dB, <strong>{figures(found.extra_db ?? 0, 2)} dB more</strong> by its SWR.
				</p>
				<p>
					Of 100 W {watts(found.arrives_w)} arrive: {watts(found.line_w)} stay in the line, {watts(
						found.extra_w
					)} of them by the SWR. A meter at the radio shows {watts(found.forward_w)} forward, {watts(
						found.reflected_w
					)} back; return loss {found.return_loss_db === null
						? 'endless'
						: `${figures(found.return_loss_db)} dB`}.
				</p>
				<p class="told">
					{#if found.highest_radio_swr === null}A line without loss hides nothing.{:else}Whatever
						hangs up there, this line never reads more than {swr(found.highest_radio_swr)} : 1 at the
						radio.{/if}
				</p>
			{:else}
				<p class="told">Nothing can be said of that: see what is refused beside the fields.</p>
			{/if}
		</section>
		<section class="sheet" aria-label="Two readings of one antenna">
			<h2>Two readings of one antenna <Help topic="readings" name="two readings" /></h2>
			<div class="fields">
				<QuantityField
					label="First SWR"
					kind="ratio"
					width={6}
					shown={swr(first.swr)}
					onsettle={(value) => (first = { ...first, swr: value })}
				/>
				{@render lineFields(first.line, 'First', (l) => (first = { ...first, line: l }))}
			</div>
			<div class="fields">
				<QuantityField
					label="Second SWR"
					kind="ratio"
					width={6}
					shown={swr(second.swr)}
					onsettle={(value) => (second = { ...second, swr: value })}
				/>
				{@render lineFields(second.line, 'Second', (l) => (second = { ...second, line: l }))}
			</div>
			{#if two.problem}<Note kind="danger">{two.problem}.</Note>{/if}
			{#if both}
				<p class="answer" role="status">{told(both)}</p>
				<p class="told">
					The first says {both.first
						? `${swr(both.first.swr_load)} : 1`
						: 'more than any load can cause behind its loss'}
					at the antenna, the second {both.second
						? `${swr(both.second.swr_load)} : 1`
						: 'more than any load can cause behind its loss'}. By the impedances and lengths that
					such cables may have, the second may read {swr(both.low_swr)} to {swr(both.high_swr)}.
					Both at {megahertz(atHz)} MHz.
				</p>
			{/if}
		</section>
		<section class="sheet" aria-label="R and X">
			<h2>Resonance is not the goal <Help topic="swr" name="SWR" /></h2>
			<div class="fields">
				<QuantityField
					label="R"
					kind="reactance"
					width={8}
					shown="{figures(load.resistance_ohm)} Ω"
					onsettle={(resistance_ohm) => (load = { ...load, resistance_ohm })}
				/>
				<QuantityField
					label="X"
					kind="reactance"
					width={8}
					shown="{figures(load.reactance_ohm)} Ω"
					onsettle={(reactance_ohm) => (load = { ...load, reactance_ohm })}
				/>
			</div>
			{#if loads.problem}<Note kind="danger">{loads.problem}.</Note>{/if}
			{#if onLoad}
				<p>
					<span class="mid">{swr(onLoad.swr)} : 1</span>, return loss {onLoad.return_loss_db ===
					null
						? 'endless'
						: `${figures(onLoad.return_loss_db)} dB`}, {watts(onLoad.reflected_w)} of 100 come back.
				</p>
				<p class="told">
					{load.reactance_ohm === 0
						? 'X is 0, so it is resonant; the SWR is still the ratio of R to 50 Ω.'
						: 'X is not 0: it is off resonance. The lowest SWR lies near X = 0, but not at it.'}
				</p>
			{/if}
		</section>
	</div>
</main>

<style>
	main {
		padding: 14px 18px 24px;
	}
	.grid {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 306px;
		gap: 12px;
		align-items: start;
	}
	section {
		display: grid;
		gap: 8px;
		min-width: 0;
	}
	.fields {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 12px;
		align-items: end;
	}
	.named {
		display: inline-flex;
		gap: 6px;
		align-items: center;
		color: var(--soft);
	}
	.verdict {
		border-top: 5px solid var(--tape);
		display: grid;
		gap: 7px;
	}
	.figure small {
		font-size: var(--size-24);
	}
	.mid {
		font-size: var(--size-24);
		font-weight: 700;
	}
	.answer {
		font-weight: 600;
	}
	@media (max-width: 900px) {
		.grid {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
