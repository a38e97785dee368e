<!-- @component
	Short, open, load, one after the other at the plane; what looks wrong; then the load once more as a check.
-->
<script lang="ts">
	import { answer, api, type Calibration } from '../lib/api/client';
	import NameField from '../lib/controls/NameField.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, megahertz } from '../lib/units/format';
	import type { AnalyserSession } from './analyserSession.svelte';
	import { ageText, residualText, say, standardStep } from './words';

	interface Props {
		bench: AnalyserSession;
		/** Range that a new calibration is to cover, Hz. */
		lowHz: number;
		highHz: number;
	}

	let { bench, lowHz, highHz }: Props = $props();

	const standards = ['short', 'open', 'load'] as const;
	const calibration = $derived(bench.calibration);
	const wrong = $derived(
		new Set(
			(calibration?.slips ?? []).flatMap((s) => [String(s.values.first), String(s.values.second)])
		)
	);
	/** The standard that comes next: the first that is missing. */
	const next = $derived(standards.find((s) => !calibration?.standards[s]) ?? null);
	let name = $state('test lead');
	let plane = $state('end of the test lead');
	let binned = $state.raw<Calibration | null>(null);
	const wide = $derived({ low: lowHz, high: highHz });

	async function begin(): Promise<void> {
		await bench.attempt(async () => {
			const made = await answer(
				api.POST('/api/calibrations', {
					body: {
						name: name.trim() || 'calibration',
						plane: plane.trim(),
						low_hz: wide.low,
						high_hz: wide.high,
						points: 401
					}
				})
			);
			bench.calibrations = [made, ...bench.calibrations];
			bench.choose(made.id);
		});
	}

	const sweep = (standard: (typeof standards)[number]) =>
		bench.attempt(() =>
			bench.sweep({
				kind: 'standard',
				calibration_id: calibration?.id ?? '',
				standard,
				passes: 8
			})
		);
	const check = () =>
		bench.attempt(() =>
			bench.sweep({ kind: 'check', calibration_id: calibration?.id ?? '', passes: 8 })
		);

	async function change(kit: Calibration['kit']): Promise<void> {
		if (!calibration) return;
		const changed = await answer(
			api.PATCH('/api/calibrations/{calibration_id}', {
				params: { path: { calibration_id: calibration.id } },
				body: { revision: calibration.revision, kit }
			})
		);
		bench.calibrations = bench.calibrations.map((c) => (c.id === changed.id ? changed : c));
	}

	async function rename(typed: string): Promise<void> {
		if (!calibration) return;
		const changed = await answer(
			api.PATCH('/api/calibrations/{calibration_id}', {
				params: { path: { calibration_id: calibration.id } },
				body: { revision: calibration.revision, name: typed }
			})
		);
		bench.calibrations = bench.calibrations.map((c) => (c.id === changed.id ? changed : c));
	}

	async function bin(): Promise<void> {
		if (!calibration) return;
		const gone = calibration;
		await bench.attempt(async () => {
			await answer(
				api.DELETE('/api/calibrations/{calibration_id}', {
					params: { path: { calibration_id: gone.id }, query: { revision: gone.revision } }
				})
			);
			bench.calibrations = bench.calibrations.filter((c) => c.id !== gone.id);
			bench.choose(null);
			binned = gone;
		});
	}

	async function restore(gone: Calibration): Promise<void> {
		await bench.attempt(async () => {
			const path = { calibration_id: gone.id };
			const back = await answer(
				api.POST('/api/calibrations/{calibration_id}/restore', { params: { path } })
			);
			bench.calibrations = [back, ...bench.calibrations];
			bench.choose(back.id);
			binned = null;
		});
	}
</script>

{#if binned}
	{@const gone = binned}
	<Note kind="news"
		>“{gone.name}” is in the bin; sweeps corrected with it stay.
		<button class="button" onclick={() => void restore(gone)}>Take it back</button></Note
	>
{/if}
{#if calibration?.residual_db !== null && calibration?.residual_db !== undefined}
	<p>
		<span class="figure">{calibration.residual_db.toFixed(0).replace('-', '−')} dB</span>
		<span class="of">residual of the load check</span>
	</p>
{:else if calibration}
	<p>
		<span class="figure">{Object.keys(calibration.standards).length} of 3</span>
		<span class="of">standards swept for “{calibration.name}”</span>
	</p>
{:else if bench.calibrations.length}
	<p class="told">Use one that you made, or begin a new one.</p>
	<ul class="kept">
		{#each bench.calibrations as row (row.id)}
			<li>
				<button class="plain" aria-label="Use “{row.name}”" onclick={() => bench.choose(row.id)}
					>{row.name}</button
				>
				<small class="soft"
					>{megahertz(row.low_hz)} to {megahertz(row.high_hz)} MHz, {ageText(
						row.age_h
					)}{row.complete ? '' : ', not finished'}</small
				>
			</li>
		{/each}
	</ul>
{/if}
{#if !calibration}
	<p class="told">
		Swept from {megahertz(lowHz)} to {megahertz(highHz)} MHz, the range set above the charts. Make it
		wide enough now: a sweep that goes further is not corrected.
	</p>
	<form
		class="told"
		onsubmit={(event) => {
			event.preventDefault();
			void begin();
		}}
	>
		<label
			>Where the standards go: the plane that matters <input
				class="written"
				bind:value={plane}
				maxlength="120"
			/></label
		>
		<label
			>Name of the calibration <input class="written" bind:value={name} maxlength="120" /></label
		>
		<button class="button main">Begin with the short</button>
	</form>
{:else}
	<NameField what="calibration" name={calibration.name} level={3} onrename={rename} />
	<ol>
		{#each standards as standard (standard)}
			{@const taken = calibration.standards[standard]}
			<li class:taken class:wrong={wrong.has(standard)}>
				<span
					><strong>{standard}</strong>
					{#if taken}<small class="soft">{taken.passes} passes</small>{/if}</span
				>
				<button
					class="button"
					class:main={next === standard || (next === null && wrong.has(standard))}
					disabled={bench.running}
					onclick={() => void sweep(standard)}
					>{taken ? 'Sweep it again' : `Sweep the ${standard}`}</button
				>
			</li>
		{/each}
	</ol>
	{#if next}<p class="told">{standardStep(next)}</p>{/if}
	{#each calibration.slips as slip, nth (nth)}
		<Note kind="danger">{say(slip)}</Note>
	{/each}
	{#if calibration.complete}
		{#if calibration.residual_db === null}
			<p class="told">
				Leave the load on, or take it off and screw it on again, and sweep it once more: what is
				left says how far you may trust it.
			</p>
			<button class="button main" disabled={bench.running} onclick={() => void check()}
				>Check with the load</button
			>
		{:else}
			<p class="told">
				{residualText(calibration.residual_db, calibration.residual_kind ?? 'moved')}
				<Help topic="residual" name="the residual" />
			</p>
			<button class="button" disabled={bench.running} onclick={() => void check()}
				>Check again</button
			>
		{/if}
	{/if}
	<details>
		<summary>What the standards are</summary>
		<div class="kit">
			<QuantityField
				label="Load"
				kind="resistance"
				shown="{figures(calibration.kit.load_ohm ?? 50, 4)} Ω"
				width={8}
				onsettle={(load_ohm) => change({ ...calibration.kit, load_ohm })}
			/>
			<QuantityField
				label="Fringing of the open"
				kind="stray capacitance"
				shown="{((calibration.kit.open_f ?? 0) * 1e12).toFixed(3)} pF"
				width={8}
				onsettle={(open_f) => change({ ...calibration.kit, open_f })}
			/>
			<QuantityField
				label="Inductance of the short"
				kind="stray inductance"
				shown="{((calibration.kit.short_h ?? 0) * 1e9).toFixed(2)} nH"
				width={8}
				onsettle={(short_h) => change({ ...calibration.kit, short_h })}
			/>
			<QuantityField
				label="Offset of the open"
				kind="length"
				shown="{((calibration.kit.open_offset_m ?? 0) * 1e3).toFixed(1)} mm"
				width={8}
				onsettle={(open_offset_m) => change({ ...calibration.kit, open_offset_m })}
			/>
			<QuantityField
				label="Offset of the short"
				kind="length"
				shown="{((calibration.kit.short_offset_m ?? 0) * 1e3).toFixed(1)} mm"
				width={8}
				onsettle={(short_offset_m) => change({ ...calibration.kit, short_offset_m })}
			/>
			<small class="soft"
				>Ideal unless you know better. The load is trusted to 1 %: every impedance is as far off as
				it is.</small
			>
		</div>
	</details>
	<p class="row">
		<button class="plain" onclick={() => bench.choose(null)}>another calibration</button>
		<button class="plain" onclick={() => void bin()}>put this one in the bin</button>
	</p>
{/if}

<style>
	.kept {
		padding-left: 0;
		list-style: none;
	}
	.kept small {
		display: block;
		padding-left: 4px;
	}
	form,
	label {
		display: grid;
		gap: 4px;
	}
	form {
		margin-top: 8px;
	}
	form button {
		justify-self: start;
	}
	ol {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 6px;
		margin: 8px 0;
	}
	li {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
		border-left: 4px solid var(--line);
		padding-left: 8px;
	}
	.taken {
		border-left-color: var(--verdigris);
	}
	.wrong {
		border-left-color: var(--enamel);
	}
	strong::first-letter {
		text-transform: uppercase;
	}
	strong {
		display: inline-block;
	}
	details {
		margin-top: 8px;
		font-size: var(--size-13);
	}
	.kit {
		display: grid;
		gap: 6px;
		margin: 6px 0;
	}
</style>
