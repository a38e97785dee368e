<!-- @component
	The verdict of the bench: how to sweep it, the sweep, what it says, and an entry in the log.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import {
		answer,
		api,
		type Content,
		problemText,
		Refused,
		type Schemas,
		type Sweep
	} from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import SweepSlot from '../sweep/SweepSlot.svelte';
	import { AnalyserSession } from '../analyser/analyserSession.svelte';
	import type { Winding } from './wound';
	import {
		benchRange,
		explained,
		headline,
		remedy,
		setupWords,
		type Setup,
		type Verdict
	} from './verdict';

	interface Props {
		content: Content;
		winding: Winding;
		designId: string;
		/** The newest verdict, for the chart; null when there is none any more. */
		onverdict: (verdict: Verdict | null) => void;
	}

	let { content, winding, designId, onverdict }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	const kind = $derived(winding.choke?.pair_ohm ? 'pair' : winding.kind);

	const bench = new AnalyserSession();
	let sweeps = $state.raw<Record<string, Sweep>>({});
	let logged = $state<string | null>(null);
	let refused = $state<string | null>(null);
	/** What was wound on the simulated bench: right, or with a fault that is not told. */
	let practice = $state<'none' | 'any' | null>(null);

	void bench.attempt(() => bench.load());
	onDestroy(() => bench.close());

	const judging = new Latest(
		(body: Schemas['VerdictIn']) => answer(api.POST('/api/bench-verdicts', { body })),
		{ took: (verdict) => onverdict(verdict) }
	);
	const verdict = $derived(judging.value);
	const problem = $derived(refused ?? judging.problem);
	function judge(): void {
		refused = null;
		logged = null;
		judging
			.ask({
				content,
				key: winding.key,
				swept: Object.entries(sweeps).map(([setup, s]) => ({
					setup,
					sweep_id: s.id,
					// As it is said on the desk: what lies there, not what would fit.
					resistor_ohm: winding.setups?.find((each) => each.key === setup)?.resistor_ohm ?? null
				}))
			})
			.catch((why: unknown) => {
				if (!(why instanceof Refused)) throw why;
				onverdict(null);
			});
	}
	function forget(): void {
		sweeps = {};
		judging.clear();
		onverdict(null);
	}

	// Another winding, or this one changed: what was swept was not of it.
	let of = $state.raw<Content | null>(null);
	let key = $state('');
	$effect(() => {
		if (of === content && key === winding.key) return;
		of = content;
		key = winding.key;
		logged = null;
		practice = null;
		forget();
	});

	const first = $derived(winding.setups?.[0]);
	const wanted = $derived(verdict?.next_setup ?? null);
	/** The usual set-up, those swept, and the one more that would tell. */
	const shown = $derived(
		(winding.setups ?? []).filter((s) => s.key === first?.key || sweeps[s.key] || s.key === wanted)
	);
	const canSweep = $derived((bench.analyser?.connected ?? false) && !bench.running);
	const simulated = $derived(bench.analyser?.kind === 'simulated');
	const calibration = $derived(bench.calibration?.complete ? bench.calibration : null);

	function take(setup: Setup, sweep: Sweep): void {
		sweeps = { ...sweeps, [setup.key]: sweep };
		judge();
	}
	async function windThere(setup: Setup, fault: 'none' | 'any'): Promise<void> {
		await bench.put(() =>
			answer(
				api.PUT('/api/analyser/bench/wound', {
					body: { content, key: winding.key, setup: setup.key, fault }
				})
			)
		);
	}
	function sweep(setup: Setup): void {
		void bench.attempt(async () => {
			// On the simulated bench the thing goes into the set-up by itself.
			if (simulated && practice) await windThere(setup, practice);
			const [low, high] = benchRange(winding.kind, winding.trap?.resonance_hz ?? null);
			const last = await bench.sweep({
				kind: 'sweep',
				low_hz: Math.max(low, calibration?.low_hz ?? low),
				high_hz: Math.min(high, calibration?.high_hz ?? high),
				points: 201,
				passes: 8,
				calibration_id: calibration?.id ?? null,
				widen: false,
				keep: {
					name: `${winding.key} ${setupWords(setup, kind).title}`,
					build_id: null,
					setup: { plane: 'bench', line: null, conditions: {} }
				}
			});
			if (last.found?.sweep) take(setup, last.found?.sweep);
		});
	}
	function practise(fault: 'none' | 'any'): void {
		practice = fault;
		forget();
		if (first) sweep(first);
	}
	async function log(): Promise<void> {
		if (!verdict) return;
		const passed = verdict.passed === true;
		try {
			await answer(
				api.POST('/api/builds/{build_id}/entries', {
					params: { path: { build_id: build.id } },
					body: {
						data: {
							kind: 'bench_check',
							passed,
							key: winding.key,
							design_id: designId,
							setup: Object.keys(sweeps).join(', '),
							stated: verdict.stated.map((s) => s.code)
						},
						text: '',
						instrument: '',
						sweep_id: Object.values(sweeps)[0]?.id ?? null,
						utc_offset_min: -new Date().getTimezoneOffset()
					}
				})
			);
			logged = passed ? 'Kept in the log: passed.' : 'Kept in the log: not passed.';
			refused = null;
		} catch (why) {
			refused = problemText(why);
		}
	}
</script>

<section class="sheet unprinted" aria-label="Bench check">
	<h2>The verdict of the bench <Help topic="verdict" name="the verdict of the bench" /></h2>
	{#if bench.problem}<Note kind="danger">{bench.problem}.</Note>{/if}
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if verdict}
		<div class="said {verdict.passed === true ? 'good' : verdict.passed === false ? 'bad' : ''}">
			<p class="figure" role="status">{headline(verdict)}</p>
			{#each explained(verdict) as sentence, i (i)}<p class="told">{sentence}</p>{/each}
			{#if verdict.says !== 'strange' && verdict.stated.length < 3}
				{#each [...new Set(verdict.stated.map((s) => remedy(s.code)))] as act (act)}
					<p class="told soft">{act}</p>
				{/each}
			{/if}
			{#if wanted && !sweeps[wanted]}
				{@const next = winding.setups?.find((s) => s.key === wanted)}
				{#if next}
					<p class="told">
						One more sweep would tell: <strong>{setupWords(next, kind).title}</strong>.
					</p>
				{/if}
			{/if}
		</div>
		<p class="row">
			<button class="button" disabled={logged !== null} onclick={log}>Keep it in the log</button>
			{#if logged}<span class="told" role="status">{logged}</span>{/if}
		</p>
	{:else}
		<p class="told soft">
			Half the windings that fail were wound wrong. Sweep it before it is hung: what is wrong with
			it is said here.
		</p>
	{/if}
	<ol>
		{#each shown as setup (setup.key)}
			{@const words = setupWords(setup, kind)}
			<SweepSlot
				title={words.title}
				hint={words.hint}
				sweep={sweeps[setup.key] ?? null}
				{canSweep}
				onsweep={() => sweep(setup)}
				attempt={(act) => bench.attempt(act)}
				ontake={(s) => take(setup, s)}
			/>
		{/each}
	</ol>
	{#if simulated && bench.analyser?.connected && winding.made_of}
		<p class="told soft">
			On the simulated bench, for practice:
			<button class="plain" disabled={bench.running} onclick={() => practise('any')}
				>wind it with a fault</button
			>
			·
			<button class="plain" disabled={bench.running} onclick={() => practise('none')}
				>{practice === 'any' ? 'mend it' : 'wind it right'}</button
			>
		</p>
	{:else if !bench.analyser?.connected}
		<p class="told soft">
			No analyser is connected: <a href="/analyser">connect one</a>, or the simulated one, and
			calibrate it from 1 to 60 MHz; a file of a sweep does as well.
		</p>
	{/if}
	{#if canSweep && !calibration}
		<p class="told warn">
			Not calibrated: the verdict trusts the sweep little. <a href="/analyser">Calibrate</a> from 1 to
			60 MHz first.
		</p>
	{/if}
</section>

<style>
	ol {
		list-style: none;
		padding: 0;
		margin: 8px 0;
		display: grid;
		gap: 8px;
	}
	.said {
		border-left: 4px solid var(--tape);
		padding-left: 10px;
		display: grid;
		gap: 4px;
		margin: 6px 0;
	}
	.said.good {
		border-left-color: var(--verdigris);
	}
	.said.bad {
		border-left-color: var(--enamel);
	}
	.figure {
		font-size: var(--size-24);
		line-height: 1.2;
	}
	.warn {
		color: var(--heat-ink);
	}
	.row {
		margin-top: 6px;
	}
</style>
