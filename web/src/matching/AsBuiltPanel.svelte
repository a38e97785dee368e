<!-- @component
	As built: a sweep of the finished match against its prediction; what it says of the parts, and what to change.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import { AnalyserSession } from '../analyser/analyserSession.svelte';
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
	import FanChart from '../lib/charts/FanChart.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { megahertz } from '../lib/units/format';
	import LossCard from '../sweep/LossCard.svelte';
	import SweepSlot from '../sweep/SweepSlot.svelte';
	import {
		changeText,
		claimText,
		explained,
		headline,
		nameOf,
		nextReading,
		builtLabel,
		pieceOf,
		slipText,
		valueText
	} from './asBuilt';

	interface Props {
		content: Content;
		designId: string;
		range: { lowHz: number; highHz: number };
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		/** Takes the design as it was built: the next prediction begins from it. */
		ontake: (content: Content, label: string) => void;
	}

	let { content, designId, range, markerHz, onmarker, ontake }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	const bench = new AnalyserSession();
	void bench.attempt(() => bench.load());
	onDestroy(() => bench.close());

	type Plane = 'box' | 'radio';
	const planes: [Plane, string][] = [
		['box', 'below the match, before the coax'],
		['radio', 'at the radio’s end of the coax']
	];
	let plane = $state<Plane>('box');
	let sweep = $state.raw<Sweep | null>(null);
	/** What it was held against: the design at the time of the sweep. */
	let of = $state.raw<Content | null>(null);
	let claim = $state('');
	let logged = $state<string | null>(null);
	let refused = $state<string | null>(null);

	const fitting = new Latest((body: Schemas['AsBuiltIn']) =>
		answer(api.POST('/api/fits', { body }))
	);
	const fit = $derived(fitting.value);
	const problem = $derived(refused ?? fitting.problem);
	function judge(): void {
		if (!sweep || !of) return;
		logged = refused = null;
		kept = [];
		fitting.ask({ content: of, sweep_id: sweep.id, plane }).catch((why: unknown) => {
			if (!(why instanceof Refused)) throw why;
		});
	}
	function take(swept: Sweep, built: Content = content): void {
		sweep = swept;
		of = built;
		claim = '';
		judge();
	}

	// svelte-ignore state_referenced_locally
	let shown = designId;
	$effect(() => {
		if (shown === designId) return;
		shown = designId;
		sweep = of = practice = null;
		fitting.clear();
	});

	const canSweep = $derived((bench.analyser?.connected ?? false) && !bench.running);
	const simulated = $derived(bench.analyser?.kind === 'simulated');
	const calibration = $derived(bench.calibration?.complete ? bench.calibration : null);
	/** How it was built on the simulated bench; null for a real one. */
	let practice = $state<'none' | 'any' | null>(null);
	function sweepIt(): void {
		// What is edited while it sweeps is not what was swept; nor is another design that is opened meanwhile.
		const [built, mine] = [content, designId];
		if (calibration && (calibration.high_hz <= range.lowHz || calibration.low_hz >= range.highHz)) {
			refused = `The calibration in use covers ${megahertz(calibration.low_hz)} to ${megahertz(calibration.high_hz)} MHz, and this match is for ${megahertz(range.lowHz)} to ${megahertz(range.highHz)} MHz: calibrate over that first`;
			return;
		}
		void bench.attempt(async () => {
			if (simulated && practice) {
				const fault = practice;
				await bench.put(() =>
					answer(api.PUT('/api/analyser/bench/built', { body: { content: built, plane, fault } }))
				);
			}
			const last = await bench.sweep({
				kind: 'sweep',
				low_hz: Math.max(range.lowHz, calibration?.low_hz ?? 0),
				high_hz: Math.min(range.highHz, calibration?.high_hz ?? Infinity),
				points: 201,
				passes: 8,
				calibration_id: calibration?.id ?? null,
				widen: false,
				keep: {
					name: 'as built',
					build_id: null,
					setup: { plane: 'bench', line: null, conditions: {} }
				}
			});
			if (last.found?.sweep && mine === designId) take(last.found.sweep, built);
		});
	}
	function practise(fault: 'none' | 'any'): void {
		practice = fault;
		sweepIt();
	}

	const keyOf = (slip: Schemas['BuildSlipOut']) => `${slip.key} ${slip.what} ${slip.by}`;
	const claimed = $derived(fit?.slips.find((s) => keyOf(s) === claim) ?? null);
	const values = $derived(fit?.values ?? []);
	const change = $derived(fit && of ? changeText(fit, of) : null);
	const next = $derived(fit && of ? nextReading(fit, of) : null);
	const good = $derived(fit?.holds === true && fit.state !== 'no_match');

	/** Parts that went into the drawer as this sweep found them. */
	let kept = $state.raw<string[]>([]);
	async function keepPiece(value: Schemas['BuiltValueOut']): Promise<void> {
		const piece = fit && of && pieceOf(value, fit, of);
		if (!piece) return;
		try {
			await answer(
				api.POST('/api/pieces', {
					body: { ...piece, sweep_id: sweep?.id ?? null }
				})
			);
			kept = [...kept, value.element];
		} catch (why) {
			refused = problemText(why);
		}
	}

	async function log(): Promise<void> {
		if (!fit || !of || !sweep) return;
		const told = of;
		const text = [headline(fit, told), ...explained(fit, told), change ?? '']
			.filter(Boolean)
			.join('. ');
		try {
			await answer(
				api.POST('/api/builds/{build_id}/entries', {
					params: { path: { build_id: build.id } },
					body: {
						data: {
							kind: 'bench_check',
							passed: good,
							key: 'match',
							design_id: designId,
							setup: 'as built',
							stated: fit.odds.flatMap((o) => (o.slip ? [keyOf(o.slip)] : []))
						},
						text,
						instrument: '',
						sweep_id: sweep.id,
						utc_offset_min: -new Date().getTimezoneOffset()
					}
				})
			);
			logged = good ? 'Kept in the log: passed.' : 'Kept in the log: not passed.';
			refused = null;
		} catch (why) {
			refused = problemText(why);
		}
	}
</script>

<section class="sheet" aria-label="As built">
	<h2>As built <Help topic="as-built" name="the design as it was built" /></h2>
	{#if bench.problem}<Note kind="danger">{bench.problem}.</Note>{/if}
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if fit && of}
		{@const told = of}
		<div class="said" class:good class:bad={fit.holds === false}>
			<p class="figure" role="status">{headline(fit, told)}</p>
			{#if fit.holds !== null}<p class="told">
					{fit.holds ? 'It holds its bands as it is.' : 'It does not hold its bands as it is.'}
				</p>{/if}
			{#each explained(fit, told) as sentence, i (i)}<p class="told">{sentence}</p>{/each}
			{#if change}<p class="told"><strong>{change}</strong></p>{/if}
			{#if next}<p class="told soft">{next}</p>{/if}
		</div>
		<FanChart
			label="SWR as built"
			curves={fit.state === 'no_match' ? { ...fit, fitted: undefined } : fit}
			targets={told.targets}
			{markerHz}
			{onmarker}
		/>
		<p class="told soft">
			Blue: as swept. Dashed: as planned, shaded where nine builds of ten lie{fit.state ===
			'no_match'
				? ''
				: '. Dotted: with the values found'}.
		</p>
		{#if build.wire?.antenna && sweep}
			<LossCard sweepId={sweep.id} {markerHz} {onmarker} content={told} {plane} />
		{/if}
		{#if values.length}
			<div class="scroll">
				<table>
					<thead
						><tr
							><th scope="col">part</th><th scope="col">planned</th><th scope="col">built</th><th
								scope="col">nine times in ten</th
							><td class="unprinted"></td></tr
						></thead
					>
					<tbody>
						{#each values as value (value.element + value.field)}
							{@const text = valueText(value)}
							<tr>
								<th scope="row"
									>{nameOf(value.element, told)} <span class="soft">{text.name}</span></th
								>
								<td class="mono">{text.planned}</td>
								<td class="mono">{text.found}</td>
								<td class="mono">{text.range}</td>
								<td class="unprinted">
									{#if kept.includes(value.element)}<span class="soft" role="status"
											>in the drawer</span
										>{:else if pieceOf(value, fit, told)}<button
											class="plain"
											aria-label="Keep {nameOf(value.element, told)} in the drawer"
											onclick={() => keepPiece(value)}>into the drawer</button
										>{/if}
								</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
		{/if}
		{#if fit.state !== 'no_match' && fit.slips.length}
			<p class="row told unprinted">
				<label
					>I would have said
					<select bind:value={claim}>
						<option value="">nothing</option>
						{#each fit.slips as slip (keyOf(slip))}<option value={keyOf(slip)}
								>{slipText(slip, told)}</option
							>{/each}
					</select></label
				>
				{#if claimed}<strong role="status">{claimText(fit, claimed, told)}</strong>{/if}
			</p>
		{/if}
		<p class="row unprinted">
			{#if fit.state !== 'no_match'}
				<button
					class="button"
					onclick={() => ontake(fit.content, builtLabel(fit, told, sweep?.name))}
					>Reckon with it as built</button
				>
			{/if}
			<button class="button" disabled={logged !== null} onclick={log}>Keep it in the log</button>
			{#if logged}<span class="told" role="status">{logged}</span>{/if}
		</p>
	{:else}
		<p class="told soft">
			The match is made: sweep it where it hangs, and the curve says which part came out otherwise,
			or that it cannot tell.
		</p>
	{/if}
	<div class="unprinted">
		<p class="row told">
			<label
				>Swept
				<select
					value={plane}
					onchange={(event) => {
						plane = event.currentTarget.value === 'radio' ? 'radio' : 'box';
						judge();
					}}
				>
					{#each planes as [key, name] (key)}<option value={key}>{name}</option>{/each}
				</select></label
			>
		</p>
		<ol>
			<SweepSlot
				title="the match, finished"
				hint="On the antenna, nothing else changed; as wide as the chart above."
				{sweep}
				{canSweep}
				onsweep={sweepIt}
				attempt={(act) => bench.attempt(act)}
				ontake={(swept) => take(swept)}
			/>
		</ol>
		{#if simulated && bench.analyser?.connected}
			<p class="told soft">
				On the simulated bench, for practice:
				<button class="plain" disabled={bench.running} onclick={() => practise('any')}
					>build it, perhaps with a slip</button
				>
				·
				<button class="plain" disabled={bench.running} onclick={() => practise('none')}
					>{practice === 'any' ? 'mend it' : 'build it right'}</button
				>
			</p>
		{:else if !bench.analyser?.connected}
			<p class="told soft">
				No analyser is connected: <a href="/analyser">connect one</a>, or the simulated one; a file
				of a sweep does as well.
			</p>
		{/if}
		{#if canSweep && !calibration}
			<p class="told warn">
				Not calibrated: such a sweep is of the test lead as well. <a href="/analyser">Calibrate</a> over
				the band first.
			</p>
		{/if}
	</div>
</section>

<style>
	ol {
		list-style: none;
		padding: 0;
		margin: 8px 0;
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
	.scroll {
		overflow-x: auto;
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-12);
	}
	th {
		text-align: left;
		font-weight: 400;
	}
	thead th {
		color: var(--soft);
	}
	td,
	th {
		padding: 3px 8px 3px 0;
		vertical-align: top;
	}
</style>
