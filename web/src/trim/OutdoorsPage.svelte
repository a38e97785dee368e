<!-- @component
	The trim loop for one hand, outdoors: one number, large buttons, a field for a typed dip, and a way back.
-->
<script lang="ts">
	import { onDestroy, onMount, untrack } from 'svelte';

	import { answer, api, atHome, type Build } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { view } from '../lib/shell/view.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { megahertz, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import HungForm from './HungForm.svelte';
	import NextCut from './NextCut.svelte';
	import OtherCut from './OtherCut.svelte';
	import Stepper from './Stepper.svelte';
	import TrimRule from './TrimRule.svelte';
	import Waiting from './Waiting.svelte';
	import { Trimming, WIDER } from './trimming.svelte';
	import { entryText, say } from './words';

	let { buildId }: { buildId: string } = $props();

	const work = new Trimming(untrack(() => buildId));
	let build = $state.raw<Build | null>(null);
	let other = $state(false);
	let typing = $state(false);
	let typed = $state<number | null>(null);
	/** SWR at that dip, where it is read too. */
	let ratio = $state<number | null>(null);

	async function load(): Promise<void> {
		build = await answer(
			api.GET('/api/builds/{build_id}', { params: { path: { build_id: buildId } } })
		);
		await work.load();
	}
	void work.attempt(load);
	// This page is for the sun, whatever the others look like.
	onMount(() => {
		document.documentElement.dataset.theme = 'outdoors';
		return () => view.apply();
	});
	onDestroy(() => work.close());

	const trim = $derived(work.view);
	const next = $derived(trim?.next && trim.next.act !== 'none' ? trim.next : null);
	const grave = $derived(trim?.findings.filter((f) => f.grave) ?? []);
	const mild = $derived(trim?.findings.filter((f) => !f.grave) ?? []);
	const last = $derived(trim?.entries.at(-1));
	const byHand = $derived(work.analyser === 'none');
	/** Told here out of reach: what follows from it is worked out when the computer is reached again. */
	const untold = $derived(work.waiting.filter((told) => !told.refused).at(-1));
	const hung = $derived(
		trim?.hung || work.waiting.some((told) => !told.refused && told.body.data.kind === 'hung')
	);
	/** What is asked for stands first then, what waits below it. */
	const entering = $derived(!hung || other || typing);
	// Read since the last act, or still to be read.
	const toRead = $derived(
		untold
			? untold.body.data.kind !== 'reading'
			: trim !== null && trim.hung && trim.dip_hz === null && !trim.findings.some((f) => f.grave)
	);
	const lowered = (text: string) => text.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase());
	const readHz = $derived(trim?.dip_hz ? (trim.trail.at(-1)?.dip_hz ?? null) : null);
	const dip = $derived(
		typed ?? trim?.trail.filter((p) => p.dip_hz).at(-1)?.dip_hz ?? trim?.target_hz ?? 0
	);

	const odd = $derived(trim?.findings.some((f) => f.asks_again) ?? false);
	const beyond = $derived(trim?.findings.some((f) => f.code === 'beyond_sweep') ?? false);
	const sweep = () => work.attempt(() => work.sweep(beyond ? WIDER : 1));
	async function again(): Promise<void> {
		other = false;
		if (byHand) typing = true;
		else await sweep();
	}
	async function done(): Promise<void> {
		const todo = next;
		if (!todo || todo.act === 'none' || !trim) return;
		const act = todo.act;
		// By hand the dip most likely lies where it was to land: fewer presses.
		typed = todo.lands_hz;
		const amounts = trim.legs === 2 ? [todo.per_leg_m, todo.per_leg_m] : [todo.per_leg_m];
		if (await work.attempt(() => work.act(act, amounts))) await again();
	}
	/** Practice is said of the build: sweeps of the simulated analyser enter no log of a real wire. */
	async function practise(): Promise<void> {
		await work.attempt(async () => {
			if (build && !trim?.practice) {
				build = await answer(
					api.PATCH('/api/builds/{build_id}', {
						params: { path: { build_id: buildId } },
						body: {
							revision: build.revision,
							wire: { ...build.wire, practice: true } as Build['wire']
						}
					})
				);
				await work.refresh();
			}
			await work.practise();
		});
	}
	async function keepDip(): Promise<void> {
		const kept = await work.attempt(() =>
			work.read({ kind: 'dip', meter: 'meter', dip_hz: Math.round(dip / 1e3) * 1e3, swr: ratio })
		);
		if (!kept) return;
		typing = false;
		typed = ratio = null;
	}
</script>

<svelte:head><title>Outdoors · {build?.name ?? 'Build'} · Yielding Coil</title></svelte:head>

<main>
	<div class="tape" aria-hidden="true"></div>
	{#if work.problem}<Note kind="danger">{work.problem}</Note>{/if}
	{#if build && trim}
		<header>
			<h1>
				{build.name}{build.name.includes(trim.label) ? '' : `, ${trim.label}`}
				{#if trim.rounds}· round {trim.rounds}{/if}
			</h1>
			<p>
				{#if readHz && !untold}Dip at <strong class="mono">{megahertz(readHz)}</strong> ·{/if} want
				<strong class="mono">{megahertz(trim.target_hz)}</strong> MHz
			</p>
		</header>
		{#if !hung}
			<h2>How long is it as it hangs?</h2>
			<HungForm {build} {work} />
		{:else if other}
			<OtherCut {work} onclose={() => (other = false)} ondone={again} />
		{:else}
			{#each untold ? [] : grave as finding, i (i)}<Note kind="danger"
					>{say(finding, units.length, trim.form)}</Note
				>{/each}
			{#if trim.findings.some((f) => f.code === 'check_first')}
				<button
					class="button big"
					onclick={() => work.attempt(() => work.log({ kind: 'bench_check', passed: true }))}
					>It has passed on its resistor</button
				>
			{/if}
			{#if odd && readHz && byHand && !typing}
				<button
					class="button main big"
					disabled={work.working}
					onclick={() => work.attempt(() => work.again())}>Measured again: it is so</button
				>
			{/if}
			{#if toRead || typing}
				<p class="do">{typing ? 'Where is the dip now?' : 'Read the dip'}</p>
			{:else if untold}
				<p class="do">Kept. What to do next is worked out when the computer is reached again.</p>
			{:else}
				<NextCut {work} outdoors />
			{/if}
			{#if !entering}<Waiting {work} />{/if}
			{#if !untold}<TrimRule {trim} plain />{/if}
			{#each untold ? [] : mild as finding, i (i)}<p class="told">
					{say(finding, units.length, trim.form)}
				</p>{/each}
			<div class="acts">
				{#if typing}
					<Stepper
						label="Dip at"
						kind="frequency"
						value={dip}
						step={10e3}
						text={(hz) => `${megahertz(hz)} MHz`}
						onchange={(hz) => (typed = hz)}
					/>
					<div class="row steps" role="group" aria-label="Larger steps">
						{#each [[-100e3, '− 100 kHz'], [100e3, '+ 100 kHz']] as const as [by, name] (name)}
							<button class="button" onclick={() => (typed = dip + by)}>{name}</button>
						{/each}
					</div>
					<QuantityField
						label="SWR there, if you read it"
						kind="ratio"
						width={5}
						shown={ratio === null ? '' : swr(ratio)}
						onsettle={(value) => void (ratio = value)}
					/>
					<button class="button main big" disabled={work.working} onclick={keepDip}
						>The dip is at {megahertz(dip)}</button
					>
					<button class="button big" onclick={() => (typing = false)}>Back</button>
				{:else if toRead}
					{#if !byHand}
						<button class="button main big" disabled={work.working} onclick={sweep}
							>{work.working ? 'Sweeping…' : beyond ? 'Sweep wider' : 'Sweep now'}</button
						>
					{/if}
					<button class="button big" class:main={byHand} onclick={() => (typing = true)}
						>I read the dip myself</button
					>
				{:else}
					{#if next && !trim.stop && !untold}
						<button class="button main big" disabled={work.working} onclick={done}
							>{work.working ? 'Wait…' : byHand ? 'Done. Read again' : 'Done. Sweep again'}</button
						>
						<button class="button big" onclick={() => (other = true)}
							>I {next.act === 'cut' ? 'cut' : 'folded'} a different length</button
						>
					{:else}
						<button
							class="button main big"
							disabled={work.working}
							onclick={() => (byHand ? (typing = true) : sweep())}
							>{byHand ? 'Read it once more' : 'Sweep once more'}</button
						>
						<button class="button big" onclick={() => (other = true)}>I did something more</button>
					{/if}
				{/if}
				{#if byHand && !typing && (trim.practice || !trim.real_readings)}
					<button class="button big" disabled={work.working} onclick={practise}
						>{work.working ? 'Wait…' : 'Practise with the simulated analyser'}</button
					>
				{/if}
			</div>
		{/if}
		{#if entering}<Waiting {work} />{/if}
		<p class="caution">
			Look up first: no power line within the mast’s falling length. Same height, same ends as last
			time? Nothing transmits while you touch it.
		</p>
		<footer class="row">
			<a class="button" href="/builds/{buildId}/trim">Back to the desk</a>
			{#if last && !untold}
				<button
					class="button"
					disabled={work.working}
					onclick={() => work.attempt(() => work.takeBack())}
					>Undo: {lowered(entryText(last, units.length))}</button
				>
			{/if}
			{#if work.taken && !untold}
				<button
					class="button"
					disabled={work.working}
					onclick={() => work.attempt(() => work.putBack())}
					>Put it back: {lowered(entryText(work.taken, units.length))}</button
				>
			{/if}
		</footer>
		{#if atHome}
			<p class="caution">
				In the garden without a computer? <a href="/devices?to=/builds/{buildId}/outdoors"
					>Open this view on your phone</a
				>.
			</p>
		{:else if !isSecureContext}
			<p class="caution">
				Leave this page open where the network does not reach: it cannot be opened anew there, since
				the connection is not encrypted. What you tell it stays on this phone until it is sent.
			</p>
		{/if}
	{:else if !work.problem}
		<p>Looking at the log…</p>
	{:else}
		<p><a class="button" href="/">To the shelf</a></p>
	{/if}
</main>

<style>
	main {
		max-width: 430px;
		margin: 0 auto;
		padding: 0 20px 24px;
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 12px;
	}
	.tape {
		height: 20px;
		margin: 0 -20px;
		background: var(--tape);
		border-bottom: 2px solid var(--ink);
	}
	h1 {
		font-size: var(--size-17);
	}
	h2,
	.do {
		font-size: var(--size-24);
		font-weight: 700;
	}
	.acts {
		display: grid;
		gap: 10px;
	}
	.acts .button.big {
		min-height: 72px;
		width: 100%;
		justify-content: center;
		text-align: center;
		font-size: var(--size-17);
		font-weight: 700;
		border-width: 2px;
		border-radius: var(--radius);
	}
	.steps {
		justify-content: space-between;
	}
	.caution {
		font-size: var(--size-12);
		color: var(--soft);
	}
	footer {
		justify-content: space-between;
	}
</style>
