<!-- @component
	The analyser: connect, calibrate, check, sweep; what it shows as it comes in; and where the sweep goes.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import {
		answer,
		api,
		type Build,
		type CableRow,
		type SetupIn,
		type Sweep,
		type Target
	} from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import Desk from '../lib/shell/Desk.svelte';
	import Header from '../lib/shell/Header.svelte';
	import { router } from '../lib/router/router.svelte';
	import { megahertz } from '../lib/units/format';
	import { AnalyserSession } from './analyserSession.svelte';
	import BenchPicture from './BenchPicture.svelte';
	import CalibrateStep from './CalibrateStep.svelte';
	import ConnectStep from './ConnectStep.svelte';
	import KeptSweep from './KeptSweep.svelte';
	import LiveCharts from './LiveCharts.svelte';
	import RangeFields from './RangeFields.svelte';
	import SetupFields from '../sweep/SetupFields.svelte';
	import SweepStep from './SweepStep.svelte';

	type Step = 'connect' | 'calibrate' | 'sweep';
	const steps: [Step, string][] = [
		['connect', 'Connect'],
		['calibrate', 'Calibrate'],
		['sweep', 'Sweep']
	];

	const bench = new AnalyserSession();
	const buildId = router.place.query.get('build');
	let build = $state.raw<Build | null>(null);
	let cables = $state.raw<CableRow[]>([]);
	let range = $state.raw({ lowHz: 20e6, highHz: 30e6, points: 401, passes: 8 });
	let setup = $state.raw<SetupIn>(remembered());
	let name = $state('');
	let kept = $state.raw<Sweep | null>(null);
	let marker = $state<number | null>(null);
	let chosenStep = $state<Step | null>(null);
	let live = $state(false);

	function remembered(): SetupIn {
		try {
			return JSON.parse(localStorage.getItem('setup') ?? '') as SetupIn;
		} catch {
			return { plane: 'feedpoint', line: null, conditions: {} };
		}
	}
	function carry(next: SetupIn): void {
		setup = next;
		try {
			localStorage.setItem('setup', JSON.stringify(next));
		} catch {
			// A browser that keeps nothing asks again next time.
		}
	}

	async function load(): Promise<void> {
		await Promise.all([
			bench.load(),
			answer(api.GET('/api/tables/cables')).then((rows) => (cables = rows)),
			buildId &&
				answer(api.GET('/api/builds/{build_id}', { params: { path: { build_id: buildId } } })).then(
					open
				)
		]);
	}
	function open(found: Build): void {
		build = found;
		const low = Math.min(...found.targets.map((t) => t.low_hz));
		const high = Math.max(...found.targets.map((t) => t.high_hz));
		const middle = (low + high) / 2;
		const half = Math.max((high - low) * 1.5, middle * 0.06);
		range = { ...range, lowHz: Math.round(middle - half), highHz: Math.round(middle + half) };
		const last = found.sweeps.filter((s) => s.setup).at(-1)?.setup;
		if (last) setup = { plane: last.plane, line: last.line, conditions: last.conditions };
	}
	void bench.attempt(load);
	onDestroy(() => bench.close());

	const analyser = $derived(bench.analyser);
	const calibration = $derived(bench.calibration);
	const step = $derived<Step>(
		!analyser?.connected
			? 'connect'
			: (chosenStep ??
					(calibration?.complete &&
					calibration.residual_db !== null &&
					(bench.kind === null || bench.kind === 'sweep')
						? 'sweep'
						: 'calibrate'))
	);
	const progress = $derived(bench.job?.progress ?? null);
	const seen = $derived(bench.job?.found ?? null);
	const curves = $derived(
		(bench.kind === 'sweep') === (step === 'sweep') ? (seen?.curves ?? null) : null
	);
	const shownRange = $derived(
		bench.kind !== 'sweep' && bench.kind && calibration
			? { low: calibration.low_hz, high: calibration.high_hz }
			: { low: range.lowHz, high: range.highHz }
	);
	const targets = $derived<Target[]>(build?.targets ?? []);
	const markerHz = $derived(
		Math.min(
			shownRange.high,
			Math.max(
				shownRange.low,
				marker ?? seen?.dip?.frequency_hz ?? (shownRange.low + shownRange.high) / 2
			)
		)
	);
	const findings = $derived(step === 'sweep' ? (seen?.findings ?? []) : []);
	const outside = $derived(
		calibration?.complete &&
			(range.lowHz < calibration.low_hz - 1 || range.highHz > calibration.high_hz + 1)
	);
	const useCalibration = $derived(calibration?.complete ? calibration.id : null);
	const count = $derived(
		progress && bench.running
			? progress.of_passes
				? `pass ${Math.min(progress.passes + 1, progress.of_passes)} of ${progress.of_passes}, point ${progress.points} of ${progress.of_points}`
				: `pass ${progress.passes + 1}`
			: ''
	);
	const share = $derived(
		progress && progress.of_passes && progress.of_points
			? (progress.passes + (bench.running ? progress.points / progress.of_points : 0)) /
					progress.of_passes
			: 0
	);
	const good = $derived(kept !== null && !findings.some((f) => f.grave));
	const nextName = $derived(
		name.trim() ||
			`${{ line_end: 'at the radio', bench: 'on the bench', matched: 'with the match', feedpoint: 'at the feedpoint' }[setup.plane ?? 'feedpoint']}, ${megahertz(range.lowHz)} to ${megahertz(range.highHz)} MHz`
	);

	const asked = (passes: number | null) => ({
		kind: 'sweep' as const,
		low_hz: range.lowHz,
		high_hz: range.highHz,
		points: range.points,
		passes,
		calibration_id: useCalibration
	});

	async function record(): Promise<void> {
		kept = null;
		marker = null;
		await bench.attempt(async () => {
			const last = await bench.sweep({
				...asked(range.passes),
				widen: true,
				keep: { name: nextName, build_id: build?.id ?? null, setup }
			});
			kept = last.found?.sweep ?? null;
			if (kept && build) await reopen();
		});
	}
	async function adjust(): Promise<void> {
		kept = null;
		live = true;
		await bench.attempt(() => bench.sweep(asked(null)));
		live = false;
	}
	async function reopen(): Promise<void> {
		if (!build) return;
		const path = { build_id: build.id };
		build = await answer(api.GET('/api/builds/{build_id}', { params: { path } }));
	}
	function look(low: number, high: number): void {
		range = { ...range, lowHz: low, highHz: high };
		chosenStep = 'sweep';
	}
	/** The sweep as the baseline of the build it went to, or of a new one. */
	async function baseline(sweep: Sweep, named: string): Promise<void> {
		await bench.attempt(async () => {
			if (build) {
				await answer(
					api.PATCH('/api/builds/{build_id}', {
						params: { path: { build_id: build.id } },
						body: { revision: build.revision, baseline_sweep_id: sweep.id }
					})
				);
				router.go(`/builds/${build.id}/sweep`);
				return;
			}
			const made = await answer(
				api.POST('/api/builds', {
					body: { name: named, sweep_id: sweep.id, more_sweep_ids: [] }
				})
			);
			router.go(`/builds/${made.id}/sweep`);
		});
	}
	const thing = $derived(analyser?.bench.find((b) => b.key === analyser.thing)?.label ?? '');
</script>

<svelte:head><title>Analyser · Yielding Coil</title></svelte:head>

<Header title={build ? `Analyser for ${build.name}` : 'Analyser'}>
	{#snippet tools()}
		{#if build}<a class="button" href="/builds/{build.id}/sweep">Back to the build</a>{/if}
	{/snippet}
</Header>
<main>
	{#if analyser}
		<Desk>
			{#snippet drop()}
				<BenchPicture
					{analyser}
					{calibration}
					running={bench.running}
					onscrew={(t) => void bench.attempt(() => bench.screwOn(t))}
				/>
			{/snippet}
			{#snippet pictures()}
				<section class="sheet settings">
					<RangeFields
						lowHz={range.lowHz}
						highHz={range.highHz}
						points={range.points}
						passes={range.passes}
						onchange={(next) => (range = next)}
					/>
					{#if outside && calibration}
						<p class="told warn" role="status">
							This is wider than the calibration, {megahertz(calibration.low_hz)} to {megahertz(
								calibration.high_hz
							)} MHz.
							<button
								class="plain"
								onclick={() =>
									look(
										Math.max(range.lowHz, calibration.low_hz),
										Math.min(range.highHz, calibration.high_hz)
									)}>Sweep only what is calibrated</button
							>
							<button
								class="plain"
								onclick={() => {
									bench.choose(null);
									chosenStep = 'calibrate';
								}}>Calibrate over all of it</button
							>
						</p>
					{/if}
					<div class="bar" class:on={bench.running}>
						<span style:width="{100 * share}%"></span>
					</div>
					{#if bench.running}
						<p class="row">
							<span class="mono" role="status">{count}</span>
							<button class="button" onclick={() => void bench.attempt(() => bench.stop())}
								>Stop</button
							>
						</p>
					{/if}
				</section>
				{#if curves}
					<LiveCharts
						{curves}
						lowHz={shownRange.low}
						highHz={shownRange.high}
						{targets}
						{markerHz}
						onmarker={(hz) => (marker = hz)}
						title={bench.kind === 'sweep'
							? useCalibration
								? 'as swept, corrected'
								: 'as swept, not corrected'
							: bench.kind === 'check'
								? 'the load, corrected'
								: 'the standard, raw'}
					/>
				{:else}
					<section class="sheet empty">
						<svg viewBox="0 0 600 190" aria-hidden="true">
							<path class="axis" d="M30,10V160H590" />
							<path class="ghost" d="M32,20C150,28 230,40 290,138C350,40 430,28 588,20" />
						</svg>
						<p class="soft">
							{#if step === 'connect'}
								Here the curve comes in. First connect an analyser.
							{:else if step === 'calibrate'}
								Calibrate at the place where the antenna will be screwed on; then what you see is
								the antenna and not your test lead.
							{:else}
								Sweep wide first: a dip outside the window looks like no dip at all.
							{/if}
						</p>
					</section>
				{/if}
			{/snippet}
			{#snippet verdict()}
				<section class="sheet verdict" aria-label="Verdict">
					<div class="steps" role="group" aria-label="Steps">
						{#each steps as [key, title], i (key)}
							<button
								class="step"
								class:here={step === key}
								aria-current={step === key ? 'step' : undefined}
								disabled={key !== 'connect' && !analyser.connected}
								onclick={() => (chosenStep = key)}>{i + 1} {title}</button
							>
						{/each}
					</div>
					{#if bench.problem}<Note kind="danger">{bench.problem}.</Note>
					{:else if analyser.problem}<Note kind="danger">{analyser.problem.detail}.</Note>{/if}
					{#if step === 'connect'}
						<ConnectStep
							{analyser}
							onconnect={(kind, address, profile) =>
								void bench
									.attempt(() => bench.connect(kind, address, profile))
									.then(() => (chosenStep = null))}
						/>
					{:else if step === 'calibrate'}
						<CalibrateStep {bench} lowHz={range.lowHz} highHz={range.highHz} />
						{#if calibration?.complete}
							<p class="next">
								<button class="button main" onclick={() => (chosenStep = 'sweep')}
									>Go on to the sweep</button
								>
							</p>
						{:else if !calibration}
							<p class="next">
								<button class="plain" onclick={() => (chosenStep = 'sweep')}
									>Sweep without correction</button
								>
							</p>
						{/if}
					{:else}
						<SweepStep
							dip={bench.kind === 'sweep' ? (seen?.dip ?? null) : null}
							{findings}
							running={bench.running}
							{live}
							wider={Boolean(outside)}
							onsweep={() => void record()}
							onadjust={() => void adjust()}
							onstop={() => void bench.attempt(() => bench.stop())}
							onlook={look}
						/>
					{/if}
				</section>
				{#if step === 'sweep'}
					{#if kept}
						<KeptSweep
							sweep={kept}
							{build}
							{good}
							suggestion={thing || 'New antenna'}
							checkedId={useCalibration && calibration?.residual_db !== null
								? useCalibration
								: null}
							dipHz={seen?.dip?.frequency_hz ?? null}
							onbaseline={(sweep, named) => void baseline(sweep, named)}
						/>
					{/if}
					<section class="sheet" aria-label="How it hangs">
						<h3 class="eyebrow">How it hangs (kept for the next sweeps)</h3>
						<SetupFields {setup} {cables} onchange={carry} />
						<label class="name"
							>Name of the next sweep
							<input
								class="written"
								bind:value={name}
								placeholder={nextName}
								maxlength="200"
							/></label
						>
					</section>
					<p class="soft told">
						Sweeping sends a little power up the wire: nobody near its ends, and look up for power
						lines before you raise it. Never connect the analyser while a transmitter could be keyed
						on a wire close by.
					</p>
				{/if}
			{/snippet}
		</Desk>
	{:else if bench.problem}
		<Note kind="danger">{bench.problem}.</Note>
	{:else}
		<p class="soft">Looking for the analyser…</p>
	{/if}
</main>

<style>
	main {
		padding: 14px 18px 24px;
	}
	.settings {
		display: grid;
		gap: 6px;
	}
	.warn {
		background: var(--caution);
		border-left: 4px solid var(--enamel);
		padding: 6px 10px;
	}
	.bar {
		height: 4px;
		background: var(--line);
		border-radius: 2px;
	}
	.bar span {
		display: block;
		height: 4px;
		background: var(--verdigris);
		border-radius: 2px;
	}
	.empty {
		display: grid;
		gap: 10px;
		justify-items: center;
		padding: 40px 20px;
		text-align: center;
	}
	.empty svg {
		width: min(100%, 560px);
	}
	.axis {
		fill: none;
		stroke: var(--line);
		stroke-width: 2;
	}
	.ghost {
		fill: none;
		stroke: var(--line);
		stroke-width: 3;
		stroke-dasharray: 4 6;
	}
	.verdict {
		display: grid;
		gap: 9px;
	}
	.steps {
		display: flex;
		gap: 4px;
	}
	.step {
		flex: 1;
		border: 0;
		border-bottom: 3px solid var(--line);
		background: none;
		padding: 4px 2px;
		font-size: var(--size-13);
		cursor: pointer;
	}
	.step.here {
		border-bottom-color: var(--copper);
		font-weight: 700;
	}
	.step:disabled {
		color: var(--soft);
		cursor: default;
	}
	.name {
		display: grid;
		gap: 2px;
		font-size: var(--size-13);
		color: var(--soft);
		margin-top: 8px;
	}
	@media (max-width: 620px), (pointer: coarse) {
		.step {
			min-height: 44px;
		}
	}
</style>
