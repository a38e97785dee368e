<!-- @component
	The sweep desk: what the wire is, in one figure, three pictures and a few sentences; and what is wanted of it.
-->
<script lang="ts">
	import { answer, api } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { latest } from '../lib/api/latest.svelte';
	import { swrWithGaps, valueAt } from '../lib/charts/curve';
	import { floorsOf } from '../lib/charts/frame';
	import GammaChart from '../lib/charts/GammaChart.svelte';
	import ImpedanceChart from '../lib/charts/ImpedanceChart.svelte';
	import ReturnLossChart from '../lib/charts/ReturnLossChart.svelte';
	import SwrChart from '../lib/charts/SwrChart.svelte';
	import { router } from '../lib/router/router.svelte';
	import MarkerSlider from '../lib/controls/MarkerSlider.svelte';
	import Desk from '../lib/shell/Desk.svelte';
	import SystemDiagram from '../lib/shell/SystemDiagram.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { impedance, length, megahertz, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Help from '../lib/help/Help.svelte';
	import { differences } from './differences';
	import LazyPage from '../lib/shell/LazyPage.svelte';
	import type { Loss } from './lossWords';
	import PlanePanel from './PlanePanel.svelte';
	import SweepsPanel from './SweepsPanel.svelte';
	import TargetChooser from './TargetChooser.svelte';
	import {
		floorText,
		instrumentText,
		match,
		resonanceIsNotDip,
		resonances,
		setupText,
		sharpness,
		standing
	} from './words';

	const page = openBuild();
	const build = $derived(page.build);
	const onmarker = (hz: number, settled: boolean) => page.mark(hz, settled);

	let overIds = $state.raw<string[]>([]);
	let shownId = $state<string | null>(router.place.query.get('shown'));
	let moving = $state(false);
	let chosen = $state<'swr' | 'return loss' | null>(null);
	/** Where its watts stay, as far as it is judged. */
	let loss = $state.raw<Loss | null>(null);
	const lossy = $derived(loss !== null && ['known_loss', 'loss', 'shield'].includes(loss.state));

	const wanted = $derived(
		build.sweeps.find((s) => s.id === (shownId ?? build.baseline_sweep_id)) ?? build.sweeps[0]
	);

	const drawn = (sweep_id: string, points: number) =>
		answer(
			api.GET('/api/sweeps/{sweep_id}/curves', {
				params: { path: { sweep_id }, query: { points } }
			})
		);
	// Curves and what is read off them come together: figures never stand beside another sweep's curve.
	const read = latest(
		() => (wanted ? { id: wanted.id, targets: build.targets } : null),
		async ({ id, targets }) => {
			const params = { path: { sweep_id: id } };
			const [curves, reading] = await Promise.all([
				drawn(id, 800),
				answer(api.POST('/api/sweeps/{sweep_id}/readings', { params, body: { targets } }))
			]);
			return { id, curves, reading };
		},
		{ keeps: true }
	);
	/** The sweep that is drawn: the wanted one as soon as it is there. */
	const sweep = $derived(build.sweeps.find((s) => s.id === read.value?.id) ?? wanted);
	const markerHz = $derived(page.markerIn(sweep?.low_hz ?? 0, sweep?.high_hz ?? Infinity));
	const curves = $derived(read.value?.curves ?? null);
	const reading = $derived(read.value?.reading ?? null);

	/** What is laid over, and how the first of it compares with the sweep shown. */
	const laid = latest(
		() => {
			const over = build.sweeps.filter((s) => overIds.includes(s.id) && s.id !== wanted?.id);
			return wanted
				? {
						first: wanted.id,
						against: wanted.name,
						over: over.map(({ id, name }) => ({ id, name })),
						targets: build.targets
					}
				: null;
		},
		async ({ first, against, over, targets }) => {
			const overlays = await Promise.all(
				over.map(async (s) => ({ ...s, curves: await drawn(s.id, 401) }))
			);
			const other = over[0];
			if (!other) return { overlays, comparison: null };
			const body = { first, second: other.id, targets };
			const found = await answer(api.POST('/api/sweeps/comparisons', { body }));
			return { overlays, comparison: { name: other.name, against, found } };
		},
		{ keeps: true }
	);
	const overlays = $derived(laid.value?.overlays ?? []);
	const comparison = $derived(laid.value?.comparison ?? null);
	const problem = $derived(read.problem ?? laid.problem);

	const at = $derived.by(() => {
		if (!curves) return null;
		const value = (values: (number | null)[]) =>
			valueAt(curves?.frequency_hz ?? [], values, markerHz);
		return {
			r: value(curves.resistance_ohm),
			x: value(curves.reactance_ohm),
			swr: value(curves.swr),
			loss: value(curves.return_loss_db),
			re: value(curves.gamma_real),
			im: value(curves.gamma_imag)
		};
	});
	// Where the SWR is off the scale throughout, return loss still shows which way is better.
	const lower = $derived(
		chosen ?? (curves?.swr.every((v) => v === null || v > 10) ? 'return loss' : 'swr')
	);
	const worst = $derived(
		reading
			? reading.targets.reduce((a, b) => ((b.worst_swr ?? 1e9) > (a.worst_swr ?? 1e9) ? b : a))
			: null
	);
	const holds = $derived(reading?.targets.every((t) => t.holds) ?? false);
	const step = $derived(sweep ? (sweep.high_hz - sweep.low_hz) / 200 : 1e4);
	const impedanceKnown = $derived(sweep?.carries === 'impedance');
	/** What may have stood between: where it did is known of the sweep. */
	const stoodBetween = $derived(
		page.designs.find((d) => d.id === build.chosen_design_id)?.revision.content ?? null
	);
	/** Whether what is shown was swept through a line. */
	const behind = $derived(sweep?.setup?.plane === 'line_end');
	const frame = $derived({
		lowHz: sweep?.low_hz ?? 0,
		highHz: sweep?.high_hz ?? 1,
		targets: build.targets,
		markerHz,
		onmarker
	});
	const highest = $derived(Math.max(1, ...(curves?.ceiling ?? []).map((v) => v ?? Infinity)));
	// Return loss of 20 dB at best: 10 dB of matched loss in the line.
	const hides = $derived(Boolean(curves?.ceiling) && highest < 1.23);
	const floors = $derived(reading ? floorsOf(reading.targets, build.targets) : []);
</script>

<Desk>
	{#snippet drop()}
		{#if at && sweep}
			<SystemDiagram
				powerW={build.power_w}
				limit={Math.min(...build.targets.map((t) => t.swr_limit))}
				stops={[
					{
						key: 'wire',
						title: 'The wire',
						detail: behind ? 'not seen from the shack' : sweep.name,
						resistance: behind ? null : at.r,
						reactance: behind ? null : at.x,
						swr: behind ? undefined : at.swr,
						watts: null,
						heat: null,
						measured: !behind,
						here: !behind
					},
					{
						key: 'radio',
						title: 'Radio',
						detail: behind ? sweep.name : 'nothing in between yet',
						resistance: at.r,
						reactance: at.x,
						swr: at.swr,
						watts: null,
						heat: null,
						measured: behind,
						here: behind
					}
				]}
			/>
		{/if}
	{/snippet}

	{#snippet pictures()}
		{#if problem}<Note kind="danger">{problem}.</Note>{/if}
		{#if curves && sweep && at}
			<section class="sheet">
				<div class="head">
					<h2>R and X of the wire</h2>
					<MarkerSlider
						lowHz={sweep.low_hz}
						highHz={sweep.high_hz}
						{markerHz}
						stepHz={step}
						says="{impedance(at.r, at.x)}, SWR {swr(at.swr)}"
						{onmarker}
					/>
					<span class="mono">{impedance(at.r, at.x)}</span>
					<Help topic="impedance" name="R and X" />
				</div>
				{#if impedanceKnown}
					<ImpedanceChart
						frame={{ ...frame, height: 262 }}
						{curves}
						sampledHz={curves.sampled_hz}
						hue="blueprint"
						fan={curves.fan}
						others={overlays.filter((o) => o.curves.resistance_ohm.some((v) => v !== null))}
					/>
				{:else}
					<p class="soft">This reading carries SWR alone: R and X are not known.</p>
				{/if}
			</section>
			<div class="pair">
				<section class="sheet grow">
					<div class="head">
						<h2>{lower === 'swr' ? 'SWR' : 'Return loss'} against 50 Ω</h2>
						<Help topic="swr" name="SWR" />
						<button class="plain" onclick={() => (chosen = lower === 'swr' ? 'return loss' : 'swr')}
							>{lower === 'swr' ? 'return loss' : 'SWR'}</button
						>
						<span class="mono"
							>{lower === 'swr' ? `${swr(at.swr)} : 1` : `${at.loss?.toFixed(2) ?? '–'} dB`}</span
						>
					</div>
					{#if lower === 'swr'}
						<SwrChart
							frame={{ ...frame, height: 236 }}
							antenna={{ frequency_hz: curves.frequency_hz, values: swrWithGaps(curves) }}
							returnLoss={curves.return_loss_db}
							sampledHz={curves.sampled_hz}
							{floors}
							fan={curves.fan
								? {
										hz: curves.frequency_hz as number[],
										low: curves.fan.low_swr,
										high: curves.fan.high_swr
									}
								: undefined}
							fanHue="blueprint"
							ceiling={curves.ceiling}
							others={overlays.map((o) => ({
								name: o.name,
								frequency_hz: o.curves.frequency_hz,
								values: swrWithGaps(o.curves)
							}))}
						/>
					{:else}
						<ReturnLossChart
							frame={{ ...frame, height: 236 }}
							antenna={{ frequency_hz: curves.frequency_hz, values: curves.return_loss_db }}
							sampledHz={curves.sampled_hz}
						/>
					{/if}
				</section>
				<section class="sheet chart">
					<h2>Γ, centre 50 Ω <Help topic="gamma" name="the chart of Γ" /></h2>
					<GammaChart
						size={250}
						antenna={curves}
						at={at.re !== null && at.im !== null ? { re: at.re, im: at.im } : null}
						limits={[...new Set(build.targets.map((t) => t.swr_limit))]}
					/>
				</section>
			</div>
			{#if comparison}
				<section class="sheet" aria-label="Differences">
					<h2>“{comparison.name}” against “{comparison.against}”</h2>
					<ul>
						{#each differences(comparison.found) as line, nth (nth)}<li>{line}</li>{/each}
					</ul>
				</section>
			{/if}
			{#if moving}
				{#key sweep.id}
					<PlanePanel
						{sweep}
						frame={{ ...frame, lowHz: sweep.low_hz, highHz: sweep.high_hz }}
						onclose={() => (moving = false)}
						onkept={async (kept) => {
							await page.reload();
							moving = false;
							shownId = kept.id;
						}}
					/>
				{/key}
			{/if}
			<SweepsPanel
				shownId={wanted?.id ?? sweep.id}
				{overIds}
				onshow={(id) => (shownId = id)}
				onover={(ids) => (overIds = ids)}
			/>
		{:else if !problem}
			<p class="soft">Reading the sweep…</p>
		{/if}
	{/snippet}

	{#snippet verdict()}
		{#if reading && worst && sweep}
			<section class="sheet verdict" aria-label="Verdict">
				<p>
					<span class="figure">{swr(worst.worst_swr)} : 1</span>
					<span class="of">worst SWR on {worst.label}, without a match</span>
				</p>
				<p>
					{holds
						? reading.too_wide
							? 'The SWR holds, but over a range wider than any wire by itself: a lossy line, a resistor or a lossy transformer looks like this too. It is no proof of a good antenna: sweep at the feedpoint.'
							: lossy
								? 'The SWR holds, and that is no proof of a good antenna: see below what stays behind.'
								: 'The wire holds its bands as it is. Stop here, or see what a match would add.'
						: standing(worst)}
				</p>
			</section>
		{/if}
		{#if sweep && impedanceKnown}
			<LazyPage
				page={() => import('./LossCard.svelte')}
				given={{
					sweepId: sweep.id,
					markerHz,
					onmarker,
					content: stoodBetween,
					onjudged: (found: Loss | null) => (loss = found)
				}}
			/>
			<LazyPage page={() => import('./MovedCard.svelte')} given={{ sweepId: sweep.id }} />
		{/if}
		{#if reading && worst && sweep}
			<section class="sheet">
				<h3 class="eyebrow">
					What the sweep says <Help topic="reading" name="what the sweep says" />
				</h3>
				<ul>
					<li>{match(reading)}</li>
					{#if impedanceKnown}
						<li>{resonances(reading, sweep.low_hz, sweep.high_hz)}</li>
						{#if resonanceIsNotDip(reading)}<li>{resonanceIsNotDip(reading)}</li>{/if}
					{/if}
					{#if sharpness(reading)}<li>{sharpness(reading)}</li>{/if}
					{#if floorText(reading.targets)}
						<li>{floorText(reading.targets)} <Help topic="floor" name="the floor" /></li>
					{/if}
					{#if sweep.setup}
						<li>
							{setupText(sweep.setup, (m) => length(m, units.length))}{sweep.setup.instrument
								? `; ${instrumentText(sweep.setup.instrument)}`
								: ''}.
						</li>
					{/if}
					{#if hides}
						<li>
							Behind this line nothing above {swr(highest)} can be read: a resistor up there cannot be
							told from an antenna. Sweep at the feedpoint.
						</li>
					{/if}
					{#each curves?.gaps ?? [] as gap, nth (nth)}
						<li>
							No samples from {megahertz(gap.low_hz)} to {megahertz(gap.high_hz)} MHz: nothing is said
							of that stretch.
						</li>
					{/each}
					<li>
						{sweep.points} points, {megahertz(sweep.low_hz)} to {megahertz(sweep.high_hz)} MHz, referred
						to {Number(sweep.reference_ohm.toFixed(2))} Ω.
					</li>
				</ul>
				{#if reading.above_one}
					<Note kind="danger">
						At {reading.above_one} points more came back than was sent: calibrate, and sweep again before
						you trust this.
					</Note>
				{/if}
			</section>
		{/if}
		{#if sweep}
			<section class="sheet">
				<TargetChooser {sweep} gaps={curves?.gaps ?? []} />
			</section>
		{/if}
		<section class="sheet next unprinted">
			<h3 class="eyebrow">Next</h3>
			{#if impedanceKnown || sweep?.id !== build.baseline_sweep_id}
				<p><a class="button main" href="/builds/{build.id}/match">Choose a match</a></p>
				{#if impedanceKnown}
					<p>
						<button class="button" onclick={() => (moving = true)}
							>{sweep?.setup?.plane === 'line_end'
								? 'Move it to the feedpoint'
								: 'Move it through a line'}</button
						>
					</p>
				{/if}
			{:else}
				<p>
					Add a sweep with R and X below the charts, and press “use for the match”: then a match can
					be computed.
				</p>
			{/if}
			<p>
				<a class="button" href="/analyser?build={build.id}">Sweep it with the analyser</a>
				<a class="button" href="/builds/{build.id}/fault">Something is wrong</a>
			</p>
		</section>
	{/snippet}
</Desk>

<style>
	.pair {
		display: flex;
		gap: 12px;
	}
	.grow {
		flex: 1;
		min-width: 0;
	}
	.chart {
		flex: 0 0 262px;
	}
	.verdict p + p {
		margin-top: 8px;
	}
	.next p {
		margin-top: 6px;
	}
	ul {
		padding-left: 18px;
		display: grid;
		gap: 5px;
		margin-top: 6px;
		font-size: var(--size-13);
	}
	@media (max-width: 620px) {
		.pair {
			flex-direction: column;
		}
		.chart {
			flex-basis: auto;
		}
	}
</style>
