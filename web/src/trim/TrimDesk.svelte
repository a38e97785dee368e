<!-- @component
	The trim desk: the next act in one figure, dips on a rule that stays, readings of every kind, and the log.
-->
<script lang="ts">
	import { onDestroy, untrack } from 'svelte';

	import { answer, api, type Build, type CableRow } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Help from '../lib/help/Help.svelte';
	import LazyPage from '../lib/shell/LazyPage.svelte';
	import Desk from '../lib/shell/Desk.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { length, megahertz, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import DropZone from '../sweep/DropZone.svelte';
	import SetupFields from '../sweep/SetupFields.svelte';
	import { setupText } from '../sweep/words';
	import WirePicture from '../wire/WirePicture.svelte';
	import MeterEvidence from './MeterEvidence.svelte';
	import HungForm from './HungForm.svelte';
	import NextCut from './NextCut.svelte';
	import OtherCut from './OtherCut.svelte';
	import ReadingForm from './ReadingForm.svelte';
	import TrimRule from './TrimRule.svelte';
	import Waiting from './Waiting.svelte';
	import { Trimming, WIDER } from './trimming.svelte';
	import { entryText, resonanceText, say, waysOn } from './words';

	const page = openBuild();
	const build = $derived(page.build);

	const work = new Trimming(untrack(() => build.id));
	void work.load();
	onDestroy(() => work.close());

	let cables = $state.raw<CableRow[]>([]);
	void answer(api.GET('/api/tables/cables'))
		.then((rows) => (cables = rows))
		.catch(() => undefined);

	let other = $state(false);
	let anew = $state(false);
	let readings = $state<HTMLElement>();

	const trim = $derived(work.view);
	const readHz = $derived(trim?.dip_hz ? (trim.trail.at(-1)?.dip_hz ?? null) : null);
	const next = $derived(trim?.next && trim.next.act !== 'none' ? trim.next : null);
	const grave = $derived(trim?.findings.filter((f) => f.grave) ?? []);
	const mild = $derived(trim?.findings.filter((f) => !f.grave) ?? []);
	// The last sweep, once it is good enough: next year it is the only thing that tells what changed.
	const lastSweepId = $derived(
		trim?.stop ? (trim.entries.filter((e) => e.sweep_id).at(-1)?.sweep_id ?? null) : null
	);
	const beyond = $derived(trim?.findings.some((f) => f.code === 'beyond_sweep') ?? false);
	const plan = $derived(build.wire ?? {});
	const log = $derived([...(trim?.entries ?? [])].reverse());
	// Read again first: what the newest dip says is odd, or far from what the length says.
	const odd = $derived(trim?.findings.some((f) => f.asks_again) ?? false);
	const bands = $derived(trim?.links.map((link) => link.label) ?? []);
	const taken = $derived(trim?.taken ?? []);
	/** The newest sweep of the band that is looked at; none where the wire was changed since. */
	const swept = $derived.by(() => {
		let last: string | null = null;
		for (const { data, sweep_id: id } of trim?.entries ?? []) {
			if (data.kind === 'cut' || data.kind === 'hung') last = null;
			else if (id && data.kind === 'reading' && data.link === trim?.link) last = id;
		}
		return last;
	});
	const ends = $derived(
		trim?.hung
			? trim.links.map((l) => ({ near_hz: l.target_hz, reach_m: l.leg_m - l.folded_m }))
			: []
	);
	let marking = $state(false);
	const hasFold = $derived((trim?.links[trim.link]?.folded_m ?? 0) > 0);

	async function sweep(times = 1): Promise<void> {
		await work.attempt(() => work.sweep(times));
		await page.reload();
	}
	async function again(): Promise<void> {
		await page.reload();
		if (work.analyser !== 'none') await sweep();
		else readings?.querySelector<HTMLInputElement>('input')?.focus();
	}

	async function soItIs(): Promise<void> {
		if (work.analyser !== 'none') await sweep();
		else await work.attempt(() => work.again());
	}

	/** The simulated analyser on a wire that has real readings: only on an explicit word. */
	async function practise(): Promise<void> {
		if (trim?.real_readings && !trim.practice && !marking) {
			marking = true;
			return;
		}
		marking = false;
		if (!trim?.practice) await set({ practice: true });
		await work.attempt(() => work.practise());
	}

	/** How it hangs, in a line. */
	const hangs = $derived(
		work.setup
			? setupText({ ...work.setup, id: '', instrument: work.instrument } as never, (m) =>
					length(m, units.length)
				)
			: 'At the feedpoint; nothing said of height and nearby objects'
	);
	/** Sweeps that were dropped: a file does not say when, nor how the wire hung. */
	let dropped = $state.raw<{ id: string; name: string }[]>([]);

	async function takeIn(sweeps: { id: string; name: string }[]): Promise<void> {
		dropped = [...dropped, ...sweeps];
		await page.reload();
	}

	/** The first of them as a reading of the wire as it is now, or kept with the sweeps alone. */
	async function tell(now: boolean): Promise<void> {
		const [first, ...rest] = dropped;
		if (!first) return;
		const data = {
			kind: 'reading',
			link: trim?.link ?? 0,
			reading: { kind: 'sweep' }
		} as const;
		const setup = work.setup ?? { plane: 'feedpoint', line: null, conditions: {} };
		if (now && !(await work.attempt(() => work.log(data, { sweep_id: first.id, setup })))) return;
		dropped = rest;
		await page.reload();
	}

	async function done(): Promise<void> {
		const todo = next;
		if (!todo || todo.act === 'none' || !trim) return;
		const act = todo.act;
		const amounts = trim.legs === 2 ? [todo.per_leg_m, todo.per_leg_m] : [todo.per_leg_m];
		if (await work.attempt(() => work.act(act, amounts))) await again();
	}

	async function set(changes: Partial<NonNullable<Build['wire']>>): Promise<void> {
		await work.attempt(async () => {
			await page.change({ wire: { ...plan, ...changes } as Build['wire'] });
			await work.refresh();
		});
	}

	const when = (at: string) =>
		new Date(at).toLocaleString(undefined, {
			month: 'short',
			day: 'numeric',
			hour: '2-digit',
			minute: '2-digit'
		});
</script>

{#if work.problem}<Note kind="danger">{work.problem}</Note>{/if}
<Waiting {work} />
{#if trim}
	<Desk>
		{#snippet drop()}
			<WirePicture
				form={trim.form}
				links={trim.links}
				nested={plan.arrangement === 'nested'}
				hung={trim.hung}
				chosen={trim.link}
			/>
		{/snippet}
		{#snippet pictures()}
			<section class="sheet" data-help="trim">
				<div class="head">
					<h2>Where the dip went <Help topic="trim" name="trimming" /></h2>
					{#if trim.links.length > 1}
						<div class="row" role="group" aria-label="Band">
							{#each trim.links as link, i (i)}
								<button
									class="button"
									class:main={i === trim.link}
									aria-pressed={i === trim.link}
									onclick={() => work.look(i)}>{link.label}{link.settled ? ' ✓' : ''}</button
								>
							{/each}
						</div>
					{/if}
				</div>
				<TrimRule {trim} />
				<p class="soft told">
					The rule stays as it is, {megahertz(trim.rule_low_hz)} to {megahertz(trim.rule_high_hz)} MHz:
					a dip that moves here has moved. Shaded: {trim.label}.
				</p>
			</section>
			{#if trim.hung}
				<section class="sheet" bind:this={readings}>
					<div class="head">
						<h2>Read it</h2>
						{#if work.analyser === 'none'}
							<a class="button" href="/analyser?build={build.id}">Connect an analyser</a>
							<button class="button" disabled={work.working} onclick={practise}
								>Practise with the simulated one</button
							>
						{:else}
							<button class="button main" disabled={work.working} onclick={() => sweep()}
								>{work.bench.running ? 'Sweeping…' : 'Sweep it'}</button
							>
							{#if beyond}<button
									class="button"
									disabled={work.working}
									onclick={() => sweep(WIDER)}>Sweep wider</button
								>{/if}
							<span class="soft told"
								>{work.analyser === 'simulated'
									? trim.planned
										? 'Practice: the simulated analyser, at its site the antenna that is planned here, as the place makes it and cut as you say.'
										: 'Practice: the simulated analyser, on its bench a new loft dipole that is cut as you say here.'
									: 'Over the frequency rule, eight passes averaged.'}</span
							>
						{/if}
					</div>
					{#if marking}
						<Note kind="news">
							This wire has real readings. Sweeps of the simulated analyser would stand among them,
							marked as such, and count in the sums.
							<button class="button" onclick={practise}>Mark this build as practice</button>
							<button class="button" onclick={() => (marking = false)}>Leave it real</button>
						</Note>
					{/if}
					<ReadingForm {work} />
					{#if trim.dial}<MeterEvidence dial={trim.dial} />{/if}
					<div class="dropped">
						<DropZone title="Drop a sweep of it here" buildId={build.id} onsweeps={takeIn} />
						{#if dropped[0]}
							<Note kind="news" title="When was “{dropped[0].name}” swept?">
								<p>
									Said of it then: {hangs}. Change that below if it hung otherwise.
								</p>
								<span class="row">
									<button class="button main" disabled={work.working} onclick={() => tell(true)}
										>As the wire is now</button
									>
									<button class="button" disabled={work.working} onclick={() => tell(false)}
										>Earlier: keep it with the sweeps only</button
									>
								</span>
							</Note>
						{/if}
					</div>
					<details>
						<summary>{hangs}{work.instrument ? `; ${work.instrument}` : ''}</summary>
						<p class="soft told">
							Asked once, carried on. Readings under other words are kept apart: the same height,
							the same ends, the same things nearby.
						</p>
						<label class="told"
							>Instrument
							<input class="written" maxlength="120" bind:value={work.instrument} /></label
						>
						<SetupFields
							setup={work.setup ?? { plane: 'feedpoint', line: null, conditions: {} }}
							{cables}
							onchange={(setup) => (work.setup = setup)}
						/>
					</details>
				</section>
			{/if}
			{#if log.length}
				<section class="sheet">
					<div class="head">
						<h2>Log</h2>
						<button
							class="button"
							disabled={work.working}
							onclick={() => work.attempt(() => work.takeBack()).then(() => page.reload())}
							>Take the last one back</button
						>
						{#if trim.hung}<button class="button" onclick={() => (anew = !anew)}>Hung anew</button
							>{/if}
					</div>
					{#if anew}<HungForm {build} {work} onclose={() => (anew = false)} />{/if}
					<ol class="log" reversed>
						{#each log as entry (entry.id)}
							<li>
								<time class="soft" datetime={entry.happened_at}>{when(entry.happened_at)}</time>
								{#if entry.sweep_id}<a href="/builds/{build.id}/sweep?shown={entry.sweep_id}"
										>{entryText(entry, units.length, bands)}</a
									>{:else}{entryText(entry, units.length, bands)}{/if}
								<button
									class="plain"
									disabled={work.working}
									aria-label="Take back: {entryText(entry, units.length, bands)}"
									onclick={() => work.attempt(() => work.takeBack(entry)).then(() => page.reload())}
									>take back</button
								>
							</li>
						{/each}
					</ol>
					{#if taken.length}
						<details open>
							<summary
								>Taken back, {taken.length}; it also waits in the <a href="/bin">bin</a></summary
							>
							<ul>
								{#each taken as entry (entry.id)}
									<li>
										{entryText(entry, units.length, bands)}
										<button
											class="plain"
											disabled={work.working}
											aria-label="Put it back: {entryText(entry, units.length, bands)}"
											onclick={() =>
												work.attempt(() => work.putBack(entry)).then(() => page.reload())}
											>Put it back</button
										>
									</li>
								{/each}
							</ul>
						</details>
					{/if}
				</section>
			{/if}
		{/snippet}
		{#snippet verdict()}
			<section class="sheet verdict">
				{#if !trim.hung}
					{#if trim.bands_changed}<Note kind="danger"
							>The bands of this build changed since the wire went up: say anew how long it hangs,
							to the end of each band. The log stays.</Note
						>{/if}
					<h2>How long is it as it hangs?</h2>
					<HungForm {build} {work} />
				{:else}
					<p class="soft told">
						{trim.label}{#if readHz}
							&nbsp;· dip at <strong class="mono">{megahertz(readHz)}</strong>{/if} · want
						<strong class="mono">{megahertz(trim.target_hz)}</strong> MHz
					</p>
					{#each grave as finding, i (i)}<Note kind="danger"
							>{say(finding, units.length, trim.form)}</Note
						>{/each}
					{#if odd && readHz}
						<p class="row">
							<button class="button main" disabled={work.working} onclick={soItIs}
								>{work.analyser === 'none' ? 'Measured again: it is so' : 'Sweep it again'}</button
							>
							<button class="button" disabled={work.working} onclick={again}
								>I read another dip</button
							>
						</p>
					{/if}
					{#if trim.findings.some((f) => f.code === 'check_first')}
						<p class="row">
							<button
								class="button"
								onclick={() => work.attempt(() => work.log({ kind: 'bench_check', passed: true }))}
								>It has passed</button
							>
							<button
								class="button"
								onclick={() => work.attempt(() => work.log({ kind: 'bench_check', passed: false }))}
								>It did not</button
							>
						</p>
					{/if}
					<NextCut {work} />
					{#if trim.dip_hz === null && !grave.length && !mild.length}
						<p class="do">Read the dip</p>
						<p class="told">
							Sweep it, or type what your instrument shows, as it hangs now and as it will be used.
						</p>
					{/if}
					{#each mild as finding, i (i)}<p class="told">
							{say(finding, units.length, trim.form)}
						</p>{/each}
					{#if other}
						<OtherCut {work} onclose={() => (other = false)} ondone={again} />
					{:else}
						<p class="row acts">
							{#if next && !trim.stop}
								<button class="button" class:main={!odd} disabled={work.working} onclick={done}
									>{work.analyser === 'none' ? 'Done. Read again' : 'Done. Sweep again'}</button
								>
							{/if}
							<button class="button" onclick={() => (other = true)}>I did something else</button>
							{#if lastSweepId && lastSweepId !== build.baseline_sweep_id}
								<button
									class="button main"
									disabled={work.working}
									onclick={() =>
										work.attempt(() => page.change({ baseline_sweep_id: lastSweepId }))}
									>Make its last sweep the baseline</button
								>
							{/if}
							{#if !trim.stop && readHz}
								<button
									class="button"
									disabled={work.working}
									onclick={() => work.attempt(() => work.log({ kind: 'use_so', link: trim.link }))}
									>Use it as it is</button
								>
							{/if}
							{#if trim.stop && hasFold}
								<button
									class="button"
									onclick={() => work.attempt(() => work.act('cut_folds', [])).then(again)}
									>I cut the folds off</button
								>
							{/if}
						</p>
					{/if}
				{/if}
			</section>
			{#if trim.too_high && !trim.stop}
				<section class="sheet">
					<h2>Too short: ways on</h2>
					<ul>
						{#each waysOn(trim, units.length) as way, nth (nth)}<li>{way}</li>{/each}
					</ul>
				</section>
			{/if}
			{#if trim.planned && trim.hung}
				<LazyPage
					page={() => import('../sweep/LossCard.svelte')}
					given={{
						sweepId: swept,
						markerHz: trim.target_hz,
						onmarker: () => undefined,
						content:
							page.designs.find((d) => d.id === build.chosen_design_id)?.revision.content ?? null,
						ends
					}}
				/>
			{/if}
			{#if trim.resonance}
				<section class="sheet">
					<h2>Resonance and lowest SWR</h2>
					<p class="told">{resonanceText(trim)}</p>
				</section>
			{/if}
			<section class="sheet">
				<div class="row" role="group" aria-label="How to shorten">
					<button
						class="button"
						class:main={work.by === 'fold'}
						aria-pressed={work.by === 'fold'}
						onclick={() => work.choose('fold')}>by folding</button
					>
					<button
						class="button"
						class:main={work.by === 'cut'}
						aria-pressed={work.by === 'cut'}
						onclick={() => work.choose('cut')}>by cutting</button
					>
				</div>
				<label class="told"
					>Good enough
					<select
						value={plan.stop ?? 'swr'}
						onchange={(event) => set({ stop: event.currentTarget.value as 'swr' | 'dip' })}
					>
						<option value="swr">when all of the band is within {swr(trim.swr_limit)}</option>
						<option value="dip">when the dip is where it is wanted</option>
					</select></label
				>
				<label class="told"
					>The dip is wanted
					<select
						value={plan.aim ?? 'middle'}
						onchange={(event) => set({ aim: event.currentTarget.value as 'middle' | 'low' })}
					>
						<option value="middle">in the middle of {trim.label}</option>
						<option value="low">at its low end first</option>
					</select></label
				>
				<label class="told check"
					><input
						type="checkbox"
						checked={plan.transformer ?? false}
						onchange={(event) => set({ transformer: event.currentTarget.checked })}
					/> a transformer is in the line</label
				>
				<p><a class="button" href="/builds/{build.id}/outdoors">Outdoors view</a></p>
			</section>
			<Note kind="danger">
				Look up first: no power line within the mast’s falling length. Never trim while
				transmitting. What your local rules ask, and a qualified person, come before this page.
			</Note>
		{/snippet}
	</Desk>
{:else if !work.problem}
	<p class="soft">Looking at the log…</p>
{/if}

<style>
	.dropped {
		margin: 10px 0;
	}
	.verdict {
		display: grid;
		gap: 8px;
	}
	ul {
		padding-left: 18px;
		display: grid;
		gap: 5px;
		margin-top: 6px;
		font-size: var(--size-13);
	}
	.plain {
		margin-left: 8px;
		font-size: var(--size-12);
	}
	.log {
		padding-left: 30px;
		font-size: var(--size-13);
		display: grid;
		gap: 4px;
	}
	time {
		margin-right: 8px;
	}
	.sheet > * + * {
		margin-top: 8px;
	}
	summary {
		cursor: pointer;
		font-size: var(--size-13);
	}
</style>
