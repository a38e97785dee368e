<!-- @component
	The sweep desk: what the wire is, in one figure, three pictures and a few sentences; and what is wanted of it.
-->
<script lang="ts">
	import { answer, api, Refused, type Build, type Curves, type Reading } from '../lib/api/client';
	import { valueAt } from '../lib/charts/curve';
	import GammaChart from '../lib/charts/GammaChart.svelte';
	import ImpedanceChart from '../lib/charts/ImpedanceChart.svelte';
	import ReturnLossChart from '../lib/charts/ReturnLossChart.svelte';
	import SwrChart from '../lib/charts/SwrChart.svelte';
	import MarkerSlider from '../lib/controls/MarkerSlider.svelte';
	import Desk from '../lib/shell/Desk.svelte';
	import Drop from '../lib/shell/Drop.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { impedance, megahertz, swr } from '../lib/units/format';
	import TargetChooser from './TargetChooser.svelte';
	import { match, resonances, sharpness, standing } from './words';

	interface Props {
		build: Build;
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		/** Keeps changes of the build. */
		onchange: (changes: { targets: Build['targets'] }) => Promise<void>;
	}

	let { build, markerHz, onmarker, onchange }: Props = $props();

	let curves = $state.raw<Curves | null>(null);
	let reading = $state.raw<Reading | null>(null);
	let problem = $state<string | null>(null);
	let shownId = $state<string | null>(null);
	let chosen = $state<'swr' | 'return loss' | null>(null);

	const sweep = $derived(
		build.sweeps.find((s) => s.id === (shownId ?? build.baseline_sweep_id)) ?? build.sweeps[0]
	);

	async function look(sweepId: string, targets: Build['targets']): Promise<void> {
		try {
			const path = { sweep_id: sweepId };
			const [drawn, read] = await Promise.all([
				answer(
					api.GET('/api/sweeps/{sweep_id}/curves', { params: { path, query: { points: 800 } } })
				),
				answer(api.POST('/api/sweeps/{sweep_id}/readings', { params: { path }, body: { targets } }))
			]);
			curves = drawn;
			reading = read;
			problem = null;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			problem = why.message;
		}
	}
	// Asks the server anew when another sweep or other targets are looked at.
	$effect(() => {
		if (sweep) void look(sweep.id, build.targets);
	});

	const at = $derived.by(() => {
		if (!curves) return null;
		const read = (values: (number | null)[]) =>
			valueAt(curves?.frequency_hz ?? [], values, markerHz);
		return {
			r: read(curves.resistance_ohm),
			x: read(curves.reactance_ohm),
			swr: read(curves.swr),
			loss: read(curves.return_loss_db),
			re: read(curves.gamma_real),
			im: read(curves.gamma_imag)
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
</script>

<Desk>
	{#snippet drop()}
		{#if at && sweep}
			<Drop
				powerW={build.power_w}
				stops={[
					{
						key: 'wire',
						title: 'The wire',
						detail: sweep.name,
						resistance: at.r,
						reactance: at.x,
						swr: at.swr,
						watts: null,
						heat: null,
						measured: true,
						here: true
					},
					{
						key: 'radio',
						title: 'Radio',
						detail: 'nothing in between yet',
						resistance: at.r,
						reactance: at.x,
						swr: at.swr,
						watts: null,
						heat: null,
						measured: false,
						here: false
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
					{#if build.sweeps.length > 1}
						<select
							aria-label="Sweep shown"
							value={sweep.id}
							onchange={(event) => (shownId = event.currentTarget.value)}
						>
							{#each build.sweeps as other (other.id)}
								<option value={other.id}
									>{other.name}{other.id === build.baseline_sweep_id
										? ', used for the match'
										: ''}</option
								>
							{/each}
						</select>
					{/if}
				</div>
				<ImpedanceChart
					lowHz={sweep.low_hz}
					highHz={sweep.high_hz}
					targets={build.targets}
					{markerHz}
					{onmarker}
					height={262}
					{curves}
					hue="blueprint"
				/>
			</section>
			<div class="pair">
				<section class="sheet grow">
					<div class="head">
						<h2>{lower === 'swr' ? 'SWR' : 'Return loss'} against 50 Ω</h2>
						<button class="plain" onclick={() => (chosen = lower === 'swr' ? 'return loss' : 'swr')}
							>{lower === 'swr' ? 'return loss' : 'SWR'}</button
						>
						<span class="mono"
							>{lower === 'swr' ? `${swr(at.swr)} : 1` : `${at.loss?.toFixed(2) ?? '–'} dB`}</span
						>
					</div>
					{#if lower === 'swr'}
						<SwrChart
							lowHz={sweep.low_hz}
							highHz={sweep.high_hz}
							targets={build.targets}
							{markerHz}
							{onmarker}
							height={236}
							antenna={{ frequency_hz: curves.frequency_hz, values: curves.swr }}
						/>
					{:else}
						<ReturnLossChart
							lowHz={sweep.low_hz}
							highHz={sweep.high_hz}
							targets={build.targets}
							{markerHz}
							{onmarker}
							height={236}
							antenna={{ frequency_hz: curves.frequency_hz, values: curves.return_loss_db }}
						/>
					{/if}
				</section>
				<section class="sheet chart">
					<h2>Γ, centre 50 Ω</h2>
					<GammaChart
						size={250}
						antenna={curves}
						at={at.re !== null && at.im !== null ? { re: at.re, im: at.im } : null}
						limits={[...new Set(build.targets.map((t) => t.swr_limit))]}
					/>
				</section>
			</div>
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
						? 'The wire holds its bands as it is. Stop here, or see what a match would add.'
						: standing(worst)}
				</p>
			</section>
			<section class="sheet">
				<h3 class="eyebrow">What the sweep says</h3>
				<ul>
					<li>{match(reading)}</li>
					<li>{resonances(reading, sweep.low_hz, sweep.high_hz)}</li>
					{#if sharpness(reading)}<li>{sharpness(reading)}</li>{/if}
					<li>
						{sweep.points} points, {megahertz(sweep.low_hz)} to {megahertz(sweep.high_hz)} MHz, referred
						to {Number(sweep.reference_ohm.toFixed(2))} Ω.
						<a href="/api/sweeps/{sweep.id}/original" download>The file as it came</a>
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
				<TargetChooser {build} {sweep} onchange={(targets) => onchange({ targets })} />
			</section>
		{/if}
		<section class="sheet">
			<h3 class="eyebrow">Next</h3>
			<p><a class="button main" href="/builds/{build.id}/match">Choose a match</a></p>
		</section>
	{/snippet}
</Desk>

<style>
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 6px 14px;
		margin-bottom: 6px;
	}
	h2 {
		font-size: var(--size-14);
	}
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
	.plain {
		border: 0;
		background: none;
		padding: 2px 4px;
		color: var(--blueprint);
		text-decoration: underline;
		font-size: var(--size-13);
		cursor: pointer;
	}
	.verdict {
		border-top: 5px solid var(--tape);
	}
	.verdict p + p {
		margin-top: 8px;
	}
	.figure {
		font-size: var(--size-46);
		font-weight: 700;
		line-height: 1.1;
		white-space: nowrap;
	}
	.of {
		display: block;
		font-size: var(--size-14);
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
