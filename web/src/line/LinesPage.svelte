<!-- @component
	Know your line: two sweeps and a tape give impedance, velocity and loss; one gives the way to a break.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import { answer, api, type Sweep } from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { valueAt } from '../lib/charts/curve';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { distance, figures, length, megahertz, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { AnalyserSession } from '../analyser/analyserSession.svelte';
	import SimulatedLoad from '../analyser/SimulatedLoad.svelte';
	import SweepSlot from '../sweep/SweepSlot.svelte';
	import LossChart from './LossChart.svelte';
	import OwnCables from './OwnCables.svelte';

	type Slot = 'open' | 'short';
	const bench = new AnalyserSession();
	const sweeps = $state<Record<Slot, Sweep | null>>({ open: null, short: null });
	let lengthM = $state<number | null>(null);
	let velocity = $state(0.66);
	/** Of the line, by its class, until both its sweeps tell. */
	let ohm = $state(50);
	interface Question {
		/** Sweeps with the far end open and shorted. */
		open: string | null;
		short: string | null;
		length_m: number | null;
		velocity_factor: number;
		lineOhm: number;
	}
	let name = $state('');
	let saved = $state<string | null>(null);
	let markerHz = $state(14e6);

	/** Whatever can be said with what is there; an answer about other sweeps or another length is dropped. */
	const findings = new Latest(
		async ({ open, short, length_m, velocity_factor, lineOhm }: Question) => {
			const endOf = (sweep_id: string, vf: number, impedance_ohm: number) =>
				answer(
					api.POST('/api/lines/ends', { body: { sweep_id, velocity_factor: vf, impedance_ohm } })
				);
			if (open === null || short === null) {
				return {
					line: null,
					end: await endOf((open ?? short) as string, velocity_factor, lineOhm)
				};
			}
			const line = await answer(
				api.POST('/api/lines', {
					body: {
						open_sweep_id: open,
						short_sweep_id: short,
						length_m,
						velocity_factor: length_m === null ? velocity_factor : null
					}
				})
			);
			const end = await endOf(
				open,
				Math.min(1, line.velocity_factor ?? velocity_factor),
				line.impedance_ohm.value
			);
			return { line, end };
		},
		{
			took: ({ line }) => {
				if (line) markerHz = Math.min(line.high_hz, Math.max(line.low_hz, markerHz));
			}
		}
	);
	const found = $derived(findings.value?.line ?? null);
	const end = $derived(findings.value?.end ?? null);

	const cables = new Latest(
		() => answer(api.GET('/api/pieces', { params: { query: { kind: 'cable' } } })),
		{ keeps: true }
	);
	const own = $derived(cables.value ?? []);
	const pieces = async () => void (await cables.ask(null));
	void bench.attempt(async () => {
		await Promise.all([bench.load(), pieces()]);
	});
	onDestroy(() => bench.close());

	const canSweep = $derived(bench.analyser?.connected ?? false);
	const calibration = $derived(bench.calibration?.complete ? bench.calibration : null);
	const bothThere = $derived(sweeps.open !== null && sweeps.short !== null);
	const loss = $derived(
		found ? valueAt(found.frequency_hz, found.matched_loss_db, markerHz) : null
	);
	const ceiling = $derived(found ? valueAt(found.frequency_hz, found.highest_swr, markerHz) : null);

	function sweep(slot: Slot): void {
		void bench.attempt(async () => {
			const low = calibration?.low_hz ?? 1e6;
			const high = calibration?.high_hz ?? 100e6;
			const last = await bench.sweep({
				kind: 'sweep',
				low_hz: low,
				high_hz: high,
				points: 401,
				passes: 8,
				calibration_id: calibration?.id ?? null,
				widen: false,
				keep: {
					name: `line, far end ${slot === 'open' ? 'open' : 'shorted'}`,
					build_id: null,
					setup: { plane: 'bench', line: null, conditions: {} }
				}
			});
			if (last.found?.sweep) take(slot, last.found.sweep);
		});
	}

	function take(slot: Slot, taken: Sweep): void {
		sweeps[slot] = taken;
		saved = null;
		void work();
	}

	async function work(): Promise<void> {
		const { open, short } = sweeps;
		if (!open && !short) return;
		const question = {
			open: open?.id ?? null,
			short: short?.id ?? null,
			length_m: lengthM,
			velocity_factor: velocity,
			lineOhm: ohm
		};
		await bench.attempt(() => findings.ask(question));
	}

	async function keep(): Promise<void> {
		const values = found?.cable;
		if (!values || !sweeps.open) return;
		const named = name.trim() || 'my coax';
		await bench.attempt(async () => {
			await answer(
				api.POST('/api/pieces', {
					body: {
						kind: 'cable',
						name: named,
						price: '',
						values: { ...values, name: named },
						sweep_id: sweeps.open?.id ?? null
					}
				})
			);
			saved = named;
			await pieces();
		});
	}

	const endWords: Record<string, string> = {
		open: 'an open end: what was left open, or a break',
		short: 'a short: what was shorted, or water or a nail',
		higher: 'something of more impedance than the line: an antenna, a resistor, a poor joint',
		lower: 'something of less impedance than the line',
		unclear: 'something that is neither an open nor a short',
		none: 'next to nothing: the far end is closed by its own impedance, or lost on the way'
	};
	const pm = (error: number) => `± ${figures(Math.max(error, 1e-9), 2)}`;
</script>

<svelte:head><title>Lines · Yielding Coil</title></svelte:head>

<Header title="Lines" />
<main class="page">
	<h1>Know your line <Help topic="line" name="know your line" /></h1>
	{#if bench.problem}<Note kind="danger">{bench.problem}.</Note>{/if}
	<div class="columns">
		<section class="sheet" aria-label="What to sweep">
			<ol>
				<SweepSlot
					title="far end open"
					hint="Nothing on the far end; the near end on the analyser."
					sweep={sweeps.open}
					canSweep={canSweep && !bench.running}
					onsweep={() => sweep('open')}
					attempt={(act) => bench.attempt(act)}
					ontake={(s) => take('open', s)}
				/>
				<SweepSlot
					title="far end shorted"
					hint="Centre and braid joined at the far end, as short as you can."
					sweep={sweeps.short}
					canSweep={canSweep && !bench.running}
					onsweep={() => sweep('short')}
					attempt={(act) => bench.attempt(act)}
					ontake={(s) => take('short', s)}
				/>
			</ol>
			<div class="tape">
				<QuantityField
					label="Length by the tape"
					kind="length"
					shown={lengthM === null ? '' : length(lengthM, units.length)}
					width={10}
					onsettle={async (m) => {
						lengthM = m;
						await work();
					}}
				/>
				{#if lengthM === null}
					<QuantityField
						label="or assume a velocity factor"
						kind="velocity"
						shown={velocity.toFixed(3).replace(/0$/, '')}
						width={6}
						onsettle={async (v) => {
							velocity = v;
							await work();
						}}
					/>
					<QuantityField
						label="impedance of its class"
						kind="resistance"
						shown="{figures(ohm)} Ω"
						onsettle={async (value) => {
							ohm = value;
							await work();
						}}
					/>
				{/if}
			</div>
			<SimulatedLoad {bench} />
			<p class="told soft">
				{#if !canSweep}
					<span><a href="/analyser">Connect an analyser</a>, or choose two files.</span>
				{:else if calibration}
					Swept from {megahertz(calibration.low_hz)} to {megahertz(calibration.high_hz)} MHz, corrected
					by “{calibration.name}”. The wider, the surer: from 1 MHz as far up as your analyser goes.
				{:else}
					<span
						>Not calibrated: <a href="/analyser">calibrate</a> from 1 to 100 MHz first, or the test lead
						is measured too.</span
					>
				{/if}
				{#if bench.running}<span role="status">Sweeping…</span>{/if}
			</p>
		</section>
		<section class="sheet answer" aria-label="Verdict">
			{#if found}
				<p>
					<span class="figure">{figures(found.impedance_ohm.value)} Ω</span>
					<span class="of"
						>characteristic impedance, {pm(found.impedance_ohm.error)} Ω, your load’s half percent included</span
					>
				</p>
				<ul>
					{#if found.length_m !== null && !found.length_assumed}
						<li>
							Velocity factor <b class="mono">{found.velocity_factor?.toFixed(3)}</b>, with your
							tape’s {length(found.length_m, units.length)}.
						</li>
					{:else}
						<li>
							Electrical length <b class="mono">{found.electrical_m.value.toFixed(3)} m</b>
							{pm(found.electrical_m.error * 1e3)} mm{#if found.length_m !== null}; with a velocity
								factor of {found.velocity_factor?.toFixed(2)} that is {length(
									found.length_m,
									units.length
								)}, as sure as that factor{/if}.
						</li>
					{/if}
					<li>
						Loss <b class="mono">{loss?.toFixed(2)} dB</b> at {megahertz(markerHz)} MHz for the whole
						line; behind it no SWR above <b class="mono">{swr(ceiling)}</b> can be read.
						<Help topic="ceiling" name="the most it can show" />
					</li>
					{#if (ceiling ?? 99) < 1.25}
						<li>
							So much is lost that a resistor up there cannot be told from an antenna. Measure at
							the far end.
						</li>
					{/if}
					<li>The fit lies {(-found.misfit_db).toFixed(0)} dB below full scale.</li>
				</ul>
				{#if found.cable}
					<form
						class="told"
						onsubmit={(event) => {
							event.preventDefault();
							void keep();
						}}
					>
						<label
							>Keep it as your own cable
							<input
								class="written"
								bind:value={name}
								placeholder="as in “drum of foam coax”"
								maxlength="120"
							/></label
						>
						<button class="button main">Keep it</button>
					</form>
					{#if saved}<p role="status" class="told">
							“{saved}” can now be chosen wherever a cable can.
						</p>{/if}
				{:else}
					<p class="told">Lay a tape along it to know its velocity and to keep it as your own.</p>
				{/if}
			{:else if end}
				<p>
					<span class="figure">{distance(end.distance_m, units.length)}</span>
					<span class="of">to the strongest reflection</span>
				</p>
				<p class="told">
					One sweep tells the way to its end. The other one tells what the line is.
				</p>
			{:else}
				<svg
					class="way both"
					viewBox="0 0 380 132"
					role="img"
					aria-label="The same piece of coax twice, its near end on the analyser: its far end open, then shorted; a tape beside it"
				>
					{#each [{ y: 22, end: 'open', mark: 'M346,14l10,8l-10,8' }, { y: 68, end: 'shorted', mark: 'M345,56V80' }] as row (row.end)}
						<rect x="0" y={row.y - 14} width="74" height="28" rx="5" />
						<text class="on" x="37" y={row.y + 4} text-anchor="middle">analyser</text>
						<line x1="74" y1={row.y} x2="345" y2={row.y} />
						<path d={row.mark} />
						<text x="210" y={row.y - 9} text-anchor="middle">{row.end}</text>
					{/each}
					<rect class="laid" x="74" y="96" width="271" height="16" />
					{#each Array.from({ length: 27 }, (_, i) => i) as i (i)}
						<path class="mark" d="M{84 + i * 9.8},96v{i % 5 ? 5 : 9}" />
					{/each}
					<text x="210" y="128" text-anchor="middle">its length</text>
				</svg>
				<p class="told">
					Two sweeps and a tape tell impedance, velocity and loss of the piece you hold; one sweep
					tells the way to a break.
				</p>
				<p class="soft told">
					Until then the data of its class are used: ± 2 % in velocity, ± 10 % in loss.
				</p>
			{/if}
		</section>
	</div>
	{#if found && bothThere}
		<section class="sheet">
			<h2>Matched loss of the whole line</h2>
			<LossChart line={found} {markerHz} onmarker={(hz) => (markerHz = hz)} />
		</section>
	{/if}
	{#if end}
		<section class="sheet" aria-label="The way to its end">
			<h2>The way to its end</h2>
			<p class="told">
				{#if end.kind === 'none'}What comes back is {endWords.none}.
				{:else}At <b class="mono">{distance(end.distance_m, units.length)}</b> there is {endWords[
						end.kind
					]}.{/if}
				Two faults nearer to each other than {distance(end.resolution_m, units.length)} run into one;
				beyond
				{distance(end.range_m, units.length)} the distance folds back. Velocity factor {(
					found?.velocity_factor ?? velocity
				).toFixed(3)}: the distance is as sure as that.
			</p>
			{#if end.kind !== 'none'}
				<svg class="way" viewBox="0 0 380 54" role="img" aria-label="The line, with its end marked">
					<line x1="20" y1="26" x2="340" y2="26" />
					<rect x="12" y="14" width="12" height="24" rx="3" />
					{#if end.kind === 'short'}<path d="M340,14V38" />{:else}<path
							d="M340,18l10,8l-10,8"
						/>{/if}
					<text x="180" y="18" text-anchor="middle">{distance(end.distance_m, units.length)}</text>
					<text x="20" y="51">analyser</text>
					<text x="340" y="51" text-anchor="middle"
						>{['open', 'short'].includes(end.kind) ? end.kind : '?'}</text
					>
				</svg>
			{/if}
		</section>
	{/if}
	<OwnCables {own} attempt={(act) => bench.attempt(act)} onchange={pieces} />
</main>

<style>
	.columns {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		gap: 14px;
		align-items: start;
	}
	ol,
	ul {
		padding: 0;
		list-style: none;
		display: grid;
		gap: 12px;
	}
	.answer ul {
		gap: 6px;
		margin-top: 8px;
		font-size: var(--size-13);
	}
	.answer {
		border-top: 5px solid var(--tape);
	}
	.tape {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 14px;
		margin: 14px 0 8px;
	}
	form {
		margin-top: 10px;
		justify-items: start;
	}
	form label {
		display: grid;
		gap: 2px;
		justify-self: stretch;
	}
	.way {
		width: min(100%, 440px);
		display: block;
		margin-top: 8px;
	}
	.way line {
		stroke: var(--copper);
		stroke-width: 4;
	}
	.way rect {
		fill: var(--ink);
	}
	.way path {
		fill: none;
		stroke: var(--enamel);
		stroke-width: 4;
	}
	.both {
		margin: 0 0 4px;
	}
	.way .laid {
		fill: var(--tape);
		stroke: var(--ink);
	}
	.way .mark {
		stroke: var(--ink);
		stroke-width: 1;
	}
	.way .on {
		fill: var(--sheet);
	}
	.way text {
		font-size: 14px;
		fill: var(--ink);
	}
	@media (max-width: 800px) {
		.columns {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
