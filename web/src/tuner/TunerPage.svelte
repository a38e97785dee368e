<!-- @component
	At a tuner with an analyser at its input: knobs, the chart of Γ or the magnitude alone, and the next turn when asked.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { megahertz, quantity, swr } from '../lib/units/format';
	import Bar from './Bar.svelte';
	import Knob from './Knob.svelte';
	import { TunerSession } from './tunerSession.svelte';
	import {
		dialsToldText,
		expectedText,
		fields,
		names,
		standingText,
		turnText,
		valueText
	} from './words';
	import WayChart from './WayChart.svelte';

	const at = new TunerSession();
	void at.load();
	onDestroy(() => at.close());

	let view = $state<'chart' | 'magnitude'>('chart');
	let asked = $state(false);

	const advice = $derived(at.advice);
	const turns = $derived(Math.max(0, at.way.length - 1));
	const middleOf = (seen: { gamma_real: number[]; gamma_imag: number[] }) => {
		const k = Math.floor(seen.gamma_real.length / 2);
		return { re: seen.gamma_real[k] ?? 0, im: seen.gamma_imag[k] ?? 0 };
	};
	const band = $derived(
		at.now ? at.now.gamma_real.map((re, i) => ({ re, im: at.now?.gamma_imag[i] ?? 0 })) : []
	);
	const way = $derived(at.way.map(middleOf));
	const shortest = $derived(
		at.shortest?.length && way[0]
			? [way[0], ...at.shortest.map((s) => ({ re: s.gamma_real ?? 0, im: s.gamma_imag ?? 0 }))]
			: []
	);
	const size = $derived(at.now ? Math.hypot(middleOf(at.now).re, middleOf(at.now).im) : 1);
	const before = $derived.by(() => {
		const last = way[way.length - 2];
		return last ? Math.hypot(last.re, last.im) : null;
	});
	const done = $derived(advice?.kind === 'there' || advice?.kind === 'compromise');
	// An arrow belongs to the turn it was asked for.
	let askedAt = $state(-1);
	const shown = $derived(asked && askedAt === at.way.length);
	function ask(): void {
		asked = true;
		askedAt = at.way.length;
	}
	const running = $derived(at.bench.running);
	const others = $derived(advice ? dialsToldText(advice) : '');
</script>

<svelte:head><title>At the tuner · Yielding Coil</title></svelte:head>

<Header title="At the tuner" />
<main>
	{#if at.problem}<Note kind="danger">{at.problem}.</Note>{/if}
	{#if !at.bench.analyser}
		<p class="soft">Looking for the analyser…</p>
	{:else if !at.bench.analyser.connected}
		<section class="sheet start">
			<h2>An analyser at the tuner's input shows which knob, which way</h2>
			<p>
				Practise first: a tuner whose dials err and whose shafts lag, an antenna you cannot see, and
				the simulated analyser, calibrated at the tuner's input for you.
			</p>
			<p class="row">
				<button class="button main" onclick={() => void at.practise()}
					>Practise on the simulated bench</button
				>
				<a class="button" href="/analyser">Connect your own analyser</a>
			</p>
		</section>
	{:else if at.ready}
		<div class="desk">
			<div class="knobs">
				<section class="sheet row" aria-label="What is on the bench">
					{#if at.practising}
						<label
							>Antenna
							<select
								aria-label="Antenna"
								value={String(at.round)}
								onchange={(e) =>
									void at.bench.attempt(() => at.start(Number(e.currentTarget.value)))}
							>
								{#each at.rounds as r (r.number)}<option value={String(r.number)}
										>{r.number + 1}. {r.label}</option
									>{/each}
							</select></label
						>
						<label
							>Dials
							<select
								aria-label="Dials"
								value={at.level}
								onchange={(e) => {
									at.level = e.currentTarget.value as 'easy' | 'hard';
									void at.bench.attempt(() => at.start(at.round));
								}}
							>
								<option value="easy">off by 5 % at most</option>
								<option value="hard">off by 20 % at most</option>
							</select></label
						>
						<label class="check"
							><input
								type="checkbox"
								checked={at.inLine}
								onchange={(e) => at.putInLine(e.currentTarget.checked)}
							/> The tuner is in line</label
						>
					{:else}
						<QuantityField
							label="From"
							kind="frequency"
							width={10}
							shown="{megahertz(at.band.low_hz)} MHz"
							onsettle={(low_hz) => at.become({ band: { ...at.band, low_hz } })}
						/>
						<QuantityField
							label="to"
							kind="frequency"
							width={10}
							shown="{megahertz(at.band.high_hz)} MHz"
							onsettle={(high_hz) => at.become({ band: { ...at.band, high_hz } })}
						/>
						{#if !at.bench.calibration}
							<Note kind="news"
								>Not calibrated: <a href="/analyser">calibrate at the tuner's input</a>, or the sums
								are of your test lead.</Note
							>
						{/if}
					{/if}
				</section>
				{#each at.controls as control (control)}
					{@const [low, high] = at.stops(control)}
					<Knob
						{control}
						{low}
						{high}
						value={at.dials[fields[control]] ?? low}
						wanted={shown && advice?.control === control ? advice.to : null}
						onturn={(value, settled) => at.turn(control, value, settled)}
					/>
				{/each}
				{#if at.tuner.network === 'ell'}
					<label class="sheet row"
						>Capacitor at
						<select
							value={at.dials.side}
							onchange={(e) => at.switchTo(e.currentTarget.value as 'antenna' | 'radio')}
						>
							<option value="antenna">the antenna's side</option>
							<option value="radio">the radio's side</option>
						</select></label
					>
				{/if}
				<div class="row">
					<button
						class="button"
						disabled={running}
						onclick={() => void at.bench.attempt(() => at.look(true))}>Sweep again</button
					>
					<button class="button" disabled={running} onclick={() => at.record()}
						>Average for the record</button
					>
					<span class="told" role="status"
						>{running
							? 'sweeping'
							: at.averaged
								? 'averaged over 16 passes'
								: 'one fast pass'}</span
					>
				</div>
				<details class="sheet">
					<summary>The tuner's network and stops</summary>
					<div class="row">
						<label
							>Network
							<select
								value={at.tuner.network}
								onchange={(e) =>
									at.become({
										tuner: { ...at.tuner, network: e.currentTarget.value as 'tee' | 'ell' }
									})}
							>
								<option value="tee">C-L-C, coil across</option>
								<option value="ell">L, capacitor at either side</option>
							</select></label
						>
						{#each at.controls as control (control)}
							{@const [low, high] = at.stops(control)}
							{@const unit = control === 'coil' ? 'h' : 'f'}
							{#each [['low', low, 'from'], ['high', high, 'to']] as const as [end, value, said] (end)}
								<QuantityField
									label="{names[control]} {said}"
									kind={control === 'coil' ? 'inductance' : 'capacitance'}
									width={8}
									shown={quantity(value, control === 'coil' ? 'H' : 'F')}
									onsettle={(v) =>
										at.become({ tuner: { ...at.tuner, [`${control}_${end}_${unit}`]: v } })}
								/>
							{/each}
						{/each}
					</div>
				</details>
			</div>
			<section class="sheet seen" aria-label="What the analyser shows">
				<div class="row">
					<h2>
						{view === 'chart' ? 'Chart of Γ' : 'Magnitude alone'}
						<Help topic="turning" name="turning by the chart" />
					</h2>
					<button class="plain" onclick={() => (view = view === 'chart' ? 'magnitude' : 'chart')}
						>{view === 'chart' ? 'by magnitude alone' : 'by the chart'}</button
					>
				</div>
				{#if view === 'chart'}
					<WayChart {band} {way} {shortest} />
					<p class="told">
						Blue: {megahertz(at.band.low_hz)} to {megahertz(at.band.high_hz)} MHz as it stands, the dot
						its middle. Dotted: your way{shortest.length ? '; green: the shortest' : ''}. The green
						disc is 1.2 : 1.
					</p>
				{:else}
					<Bar {size} {before} matched={done} />
				{/if}
			</section>
			<aside class="right" aria-label="Verdict and next steps">
				<section class="sheet verdict" aria-label="Verdict">
					<p class="eyebrow">
						{at.aim === 'band' ? 'At the worst of the band' : 'In the middle of the band'}
					</p>
					<p class="figure">
						{swr(advice ? (at.aim === 'band' ? advice.worst_swr : advice.swr) : null)}
						<small>: 1</small>
					</p>
					{#if advice}<p role="status">{standingText(advice, at.aim)}</p>{/if}
					<p class="told">{turns} {turns === 1 ? 'turn' : 'turns'} so far.</p>
					<fieldset class="row">
						<legend class="unseen">What to aim at</legend>
						<label class="check"
							><input
								type="radio"
								name="aim"
								checked={at.aim === 'middle'}
								onchange={() => at.aimAt('middle')}
							/> the middle</label
						>
						<label class="check"
							><input
								type="radio"
								name="aim"
								checked={at.aim === 'band'}
								onchange={() => at.aimAt('band')}
							/> the whole band</label
						>
					</fieldset>
					{#if !done && advice && advice.control}
						{#if shown}
							<p class="next">{turnText(advice, at.dials)}</p>
							<p class="told">{expectedText(advice)} {others}</p>
						{:else}
							<button class="button main" onclick={ask}>Which knob, which way?</button>
						{/if}
					{:else if advice?.kind === 'nothing_moved'}
						<p class="told">
							A knob that moves nothing: the power passes by the tuner, or the analyser sits behind
							it.
						</p>
					{/if}
				</section>
				{#if advice?.kind === 'there'}
					<section class="sheet" aria-label="Your way and the shortest">
						<h2>Your way and the shortest</h2>
						{#if at.shortest?.length}
							<p>
								You took {turns}
								{turns === 1 ? 'turn' : 'turns'}. From where you began {at.shortest.length} would have
								done:
							</p>
							<ol>
								{#each at.shortest as step, i (i)}
									<li>
										{#if step.control === 'switch'}switch the capacitor over{:else}the {names[
												step.control
											]} to
											{valueText(step.control, step.setting[fields[step.control]])}{/if}
									</li>
								{/each}
							</ol>
						{:else}
							<p>It was matched when you began.</p>
						{/if}
						{#if at.practising}
							<p>
								<button
									class="button main"
									onclick={() =>
										void at.bench.attempt(() => at.start((at.round + 1) % at.rounds.length))}
									>Next antenna</button
								>
							</p>
						{/if}
					</section>
					<section class="sheet">
						<h2>When the radio takes its place</h2>
						<p class="told">
							The plane moves to the radio's plug, an adapter or two stay behind, and the radio's
							own meter reads: it may say 1.3 where the analyser says 1.1. Begin with little power
							and look again.
						</p>
					</section>
				{/if}
				<section class="sheet caution">
					<p>
						Never turn a knob or a switch of a tuner while you send with power: it arcs, and parts
						carry kilovolts. Never key a transmitter into the analyser.
					</p>
				</section>
			</aside>
		</div>
	{:else}
		<p class="soft">Calibrating at the tuner's input…</p>
	{/if}
</main>

<style>
	main {
		padding: 14px 18px 24px;
	}
	.start {
		max-width: 640px;
		display: grid;
		gap: 9px;
	}
	.desk {
		display: grid;
		grid-template-columns: 330px minmax(0, 1fr) 306px;
		gap: 12px;
		align-items: start;
	}
	.knobs,
	.right,
	.verdict,
	.seen {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 9px;
		min-width: 0;
		align-content: start;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 12px;
		align-items: center;
	}
	.row label:not(.check) {
		display: grid;
		gap: 2px;
		font-size: var(--size-13);
		color: var(--soft);
		max-width: 100%;
	}
	.row select {
		width: 100%;
	}
	.check {
		display: flex;
		gap: 6px;
		align-items: center;
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
	}
	.verdict {
		border-top: 5px solid var(--tape);
	}
	.figure small {
		font-size: var(--size-24);
	}
	.next {
		font-weight: 700;
		color: var(--verdigris);
	}
	.soft {
		color: var(--soft);
	}
	.caution {
		background: var(--caution);
		border-left: 4px solid var(--enamel);
		font-size: var(--size-13);
	}
	summary {
		cursor: pointer;
	}
	@media (max-width: 1050px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		.right {
			display: contents;
		}
		.seen {
			order: -2;
		}
		.verdict {
			order: -1;
		}
		.right > section:not(.verdict) {
			order: 1;
		}
	}
	@media (max-width: 620px), (pointer: coarse) {
		.check {
			min-height: 44px;
		}
		.check input {
			width: 22px;
			height: 22px;
		}
	}
</style>
