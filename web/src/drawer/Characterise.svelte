<!-- @component
	Characterise what you hold: a ring by turns on it, or a coil, a capacitor, a trap by a sweep of it alone.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import { answer, api, type Piece, type Schemas, type Sweep, type Trade } from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, megahertz, quantity, tolerance } from '../lib/units/format';
	import SweepSlot from '../sweep/SweepSlot.svelte';
	import { AnalyserSession } from '../analyser/analyserSession.svelte';
	import SimulatedLoad from '../analyser/SimulatedLoad.svelte';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';
	import OwnPieces from './OwnPieces.svelte';
	import RingSizes from './RingSizes.svelte';
	import PermeabilityChart from './PermeabilityChart.svelte';
	import type { Held } from './words';
	import { likeness } from './words';

	interface Props {
		/** What is held: a ring when it is a core or a material. */
		kind: 'core' | 'material' | 'coil' | 'capacitor' | 'trap';
		trade: Trade;
		own: Piece[];
		/** Something was kept: the drawer is another one now. */
		onkept: (said: string) => Promise<void>;
	}

	let { kind, trade, own, onkept }: Props = $props();

	const bench = new AnalyserSession();
	void bench.attempt(() => bench.load());
	onDestroy(() => bench.close());

	const ring = $derived(kind === 'core' || kind === 'material');
	const cores = $derived(own.filter((p) => p.held.kind === 'core'));
	let size = $state('FT240');
	let coreId = $state('');
	let stack = $state(1);
	let turns = $state([11, 3]);
	let sweeps = $state.raw<(Sweep | null)[]>([null, null]);
	let alone = $state.raw<Sweep | null>(null);
	const rings = new Latest((body: Schemas['RingIn']) =>
		answer(api.POST('/api/characterisations/ring', { body }))
	);
	const parts = new Latest((body: Schemas['PartIn']) =>
		answer(api.POST('/api/characterisations/part', { body }))
	);
	const found = $derived(rings.value);
	const part = $derived(parts.value);
	let name = $state('');

	// Another kind of thing: what was swept was not of it.
	let of = $state('');
	$effect(() => {
		if (of === kind) return;
		of = kind;
		alone = null;
		parts.clear();
		bench.problem = null;
	});

	const calibration = $derived(bench.calibration?.complete ? bench.calibration : null);
	const canSweep = $derived((bench.analyser?.connected ?? false) && !bench.running);

	async function swept(title: string): Promise<Sweep | null> {
		const low = ring ? 0.2e6 : 1e6;
		const last = await bench.sweep({
			kind: 'sweep',
			low_hz: Math.max(low, calibration?.low_hz ?? low),
			high_hz: Math.min(60e6, calibration?.high_hz ?? 60e6),
			points: 401,
			passes: 16,
			calibration_id: calibration?.id ?? null,
			widen: false,
			keep: { name: title, build_id: null, setup: { plane: 'bench', line: null, conditions: {} } }
		});
		return last.found?.sweep ?? null;
	}
	function sweepTurns(at: number): void {
		void bench.attempt(async () => take(at, await swept(`${turns[at]} turns on a ring`)));
	}
	function sweepPart(): void {
		void bench.attempt(async () => takePart(await swept(`${kind} alone`)));
	}
	async function take(at: number, sweep: Sweep | null): Promise<void> {
		if (!sweep) return;
		sweeps = sweeps.map((s, i) => (i === at ? sweep : s));
		await work();
	}
	async function takePart(sweep: Sweep | null): Promise<void> {
		if (!sweep || kind === 'core' || kind === 'material') return;
		alone = sweep;
		parts.clear();
		await parts.ask({ kind, sweep_id: sweep.id });
	}
	async function work(): Promise<void> {
		const wound = sweeps.flatMap((s, i) => (s ? [{ turns: turns[i] ?? 1, sweep_id: s.id }] : []));
		rings.clear();
		if (wound.length) await rings.ask({ size, stack, wound });
	}
	function setTurns(at: number, count: number): void {
		turns[at] = count;
		void bench.attempt(work);
	}
	function chooseRing(value: string): void {
		const mine = cores.find((c) => c.id === value);
		coreId = mine?.id ?? '';
		if (mine?.held.kind === 'core') {
			size = mine.held.values.size;
			stack = mine.held.values.stack ?? 1;
		} else size = value;
		void bench.attempt(work);
	}
	async function keepRing(): Promise<void> {
		const values = found?.values;
		if (!values) return;
		await bench.attempt(async () => {
			const mine = cores.find((c) => c.id === coreId);
			const named = name.trim() || `material of ${mine?.held.name ?? `a ${size} ring`}`;
			const material = await answer(
				api.POST('/api/pieces', {
					body: {
						kind: 'material',
						name: named,
						price: '',
						values,
						sweep_id: sweeps.find((s) => s)?.id ?? null
					}
				})
			);
			if (mine?.held.kind === 'core') {
				const held: Held = {
					...mine.held,
					values: {
						...mine.held.values,
						mix: values.like ?? mine.held.values.mix,
						al_h: null,
						material: { id: material.id, revision: material.revision, values }
					}
				};
				await answer(
					api.PATCH('/api/pieces/{piece_id}', {
						params: { path: { piece_id: mine.id } },
						body: { revision: mine.revision, held }
					})
				);
			}
			await onkept(
				mine
					? `“${named}” lies in your drawer, and “${mine.held.name}” is of it. Designs on that ring offer it.`
					: `“${named}” lies in your drawer: choose it as the mix of a winding.`
			);
		});
	}
	async function keepPart(): Promise<void> {
		if (!part || !alone) return;
		const { kind: of, values } = part;
		const named = name.trim() || `my ${of}`;
		await bench.attempt(async () => {
			await answer(
				api.POST('/api/pieces', {
					body: { kind: of, name: named, price: '', values, sweep_id: alone?.id ?? null } as Held
				})
			);
			await onkept(`“${named}” lies in your drawer, measured.`);
		});
	}
	const pm = (v: Schemas['ValueOut'] | null, unit: string) =>
		v ? `${quantity(v.value, unit)} ${tolerance(v.error / v.value)}` : null;
	const hints: Record<string, string> = {
		coil: 'Both ends on the analyser, nothing else joined, leads short; from well below its self-resonance.',
		capacitor: 'Both leads on the analyser, as short as they will be in use.',
		trap: 'Across the port, wide enough that X passes zero where R peaks. SWR shows nothing.'
	};
</script>

<section class="sheet" aria-label="Characterise what you hold">
	<h2>
		{ring ? 'Which ring is this?' : `Measure one ${kind}`}
		<Help topic="characterise" name="characterising what you hold" />
	</h2>
	{#if bench.problem}<Note kind="danger">{bench.problem}.</Note>{/if}
	<div class="columns">
		<div>
			{#if ring}
				<p class="told soft">
					Wind eleven turns of any wire on it and sweep them alone; then three. Few turns see the
					high frequencies, and both together tell the core from the winding's own capacitance.
				</p>
				<div class="row">
					<label class="named inline"
						>Ring
						<select
							aria-label="Ring that is measured"
							value={coreId || size}
							onchange={(e) => chooseRing(e.currentTarget.value)}
						>
							<OwnPieces pieces={cores} />
							<optgroup label="By its size">
								<RingSizes sizes={trade.sizes} />
							</optgroup>
						</select></label
					>
				</div>
				<ol>
					{#each [0, 1] as at (at)}
						<SweepSlot
							title="{turns[at]} turns{at ? ', beside or after' : ''}"
							hint={at
								? 'Fewer turns on the same ring; the first winding off, or open.'
								: 'Passes through the hole, evenly spread, both ends on the analyser.'}
							sweep={sweeps[at] ?? null}
							{canSweep}
							onsweep={() => sweepTurns(at)}
							attempt={(act) => bench.attempt(act)}
							ontake={(s) => void bench.attempt(() => take(at, s))}
						/>
						<li class="turns">
							<NumberStepper
								label={at ? 'Turns, second' : 'Turns, first'}
								value={turns[at] ?? 1}
								onchange={(n) => setTurns(at, n)}
							/>
						</li>
					{/each}
				</ol>
			{:else}
				<ol>
					<SweepSlot
						title="{kind} alone across the port"
						hint={hints[kind] ?? ''}
						sweep={alone}
						{canSweep}
						onsweep={sweepPart}
						attempt={(act) => bench.attempt(act)}
						ontake={(s) => void bench.attempt(() => takePart(s))}
					/>
				</ol>
			{/if}
			<SimulatedLoad {bench} />
			{#if !bench.analyser?.connected}
				<p class="told soft">
					No analyser is connected: <a href="/analyser">connect one</a>, or drop files of the
					sweeps.
				</p>
			{/if}
			{#if canSweep && !calibration}
				<p class="told">
					Not calibrated: little can be told. <a href="/analyser">Calibrate</a> from 0.2 to 60 MHz first.
				</p>
			{/if}
		</div>
		<div>
			{#if found}
				<p class="figure" role="status">{likeness(found).title}</p>
				<p class="told">{likeness(found).why}</p>
				<PermeabilityChart {found} />
				<p class="row">
					<input
						class="written"
						aria-label="Name of the material"
						placeholder="material of this ring"
						bind:value={name}
					/>
					<button class="button main" onclick={keepRing}
						>Keep it{coreId ? ' for that ring' : ' as a material'}</button
					>
				</p>
			{:else if part}
				<p class="figure" role="status">
					{part.kind === 'capacitor'
						? quantity(part.capacitance_f?.value ?? 0, 'F')
						: part.kind === 'trap'
							? `${megahertz(part.resonance_hz?.value ?? 0)} MHz`
							: quantity(part.inductance_h?.value ?? 0, 'H')}
				</p>
				<p class="told">
					{part.kind === 'capacitor'
						? pm(part.capacitance_f, 'F')
						: pm(part.inductance_h, 'H')}{#if part.kind !== 'capacitor' && part.capacitance_f}, {part.kind ===
						'trap'
							? 'with'
							: 'its own capacitance'}
						{pm(part.capacitance_f, 'F')}{/if}{#if part.kind === 'capacitor' && part.inductance_h},
						its leads {pm(part.inductance_h, 'H')}{/if}.
					{#if part.q}
						Q {figures(part.q.value, 2)}
						{tolerance(part.q.error / part.q.value)} at {megahertz(part.q_at_hz)} MHz.
					{:else}
						Q is too high for this sweep to tell.
					{/if}
					{#if part.resonance_hz}
						Resonates at {megahertz(part.resonance_hz.value)} MHz ± {figures(
							part.resonance_hz.error / 1e3,
							2
						)} kHz.
					{:else if part.kind === 'coil'}
						Its self-resonance lies beyond what the sweep shows.
					{/if}
				</p>
				<p class="row">
					<input
						class="written"
						aria-label="Name of the piece"
						placeholder="my {part.kind}"
						bind:value={name}
					/>
					<button class="button main" onclick={keepPart}>Keep it in the drawer</button>
				</p>
			{:else}
				<p class="told soft">
					{ring
						? 'Then its permeability with honest limits stands here, the mix it is most like, and the runner-up. Windings on it are computed from it instead of from the table.'
						: 'Then its values stand here, with how sure they are.'}
				</p>
			{/if}
		</div>
	</div>
</section>

<style>
	.columns {
		display: grid;
		grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
		gap: 20px;
	}
	ol {
		list-style: none;
		padding: 0;
		margin: 8px 0;
		display: grid;
		gap: 6px;
	}
	.turns {
		padding-left: 14px;
		margin-bottom: 8px;
	}
	.figure {
		font-size: var(--size-24);
		line-height: 1.2;
	}
	select {
		max-width: 100%;
	}
	.row {
		margin-top: 6px;
	}
	@media (max-width: 760px) {
		.columns {
			grid-template-columns: 1fr;
		}
	}
</style>
