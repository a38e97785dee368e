<!-- @component
	What it is made of: wiring, load, turns, ring, wire; every change is drawn at once.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Content,
		type Element,
		type Piece,
		type Trade
	} from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { millimetres, quantity } from '../lib/units/format';
	import { withElement } from '../design/content';
	import Core from './Core.svelte';
	import MeasuredPieces from '../drawer/MeasuredPieces.svelte';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';
	import WireChooser from './WireChooser.svelte';
	import { schools } from './presets';
	import { fixedRatio, type InCascade, type Winding, wirings } from './wound';

	interface Props {
		content: Content;
		element: InCascade;
		winding: Winding | null;
		trade: Trade;
		/** What lies in one's own drawer. */
		own: Piece[];
		onedit: (content: Content) => void;
	}

	let { content, element, winding, trade, own, onedit }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	const set = (changes: Partial<Element>) => onedit(withElement(content, element.key, changes));
	const formers = $derived(
		own.flatMap((p) => (p.held.kind === 'former' ? [{ id: p.id, ...p.held }] : []))
	);
	const core = $derived(element.kind === 'coil' ? null : element.core);
	const ohm = $derived(content.antenna.kind === 'resistor' ? content.antenna.resistance_ohm : null);
	const counted = $derived(element.kind === 'transformer' && !fixedRatio[element.wiring]);

	const center = $derived.by(() => {
		const first = content.targets[0];
		return first ? (first.low_hz + first.high_hz) / 2 : 14e6;
	});
	/** The same coil on a ring instead of on air, or back. */
	async function otherWay(): Promise<void> {
		const of = element;
		if (of.kind === 'transformer') return;
		const found = await answer(
			api.POST('/api/windings/other-way', {
				body: { element: of, center_hz: center, mix: '2', size: 'T68' }
			})
		).catch(() => null);
		// What was edited meanwhile is the newer word.
		if (!found || element !== of) return;
		const other = found.element;
		onedit({
			...content,
			elements: content.elements.map((e) => (e.key === element.key ? other : e))
		});
	}
	function setTurns(primary: number, secondary: number): void {
		if (element.kind !== 'transformer') return;
		const fixed = fixedRatio[element.wiring];
		set({ primary_turns: primary, secondary_turns: fixed ? primary * fixed : secondary });
	}
	function setWiring(wiring: string): void {
		if (element.kind !== 'transformer') return;
		const chosen = wirings.find((w) => w.key === wiring);
		if (!chosen) return;
		const fixed = fixedRatio[chosen.key];
		const primary = fixed && element.primary_turns < 4 ? 9 : element.primary_turns;
		set({
			wiring: chosen.key,
			primary_turns: fixed ? primary : Math.min(primary, 3),
			secondary_turns: fixed ? primary * fixed : Math.max(element.secondary_turns, 8),
			twisted: !fixed
		});
	}
	function setLoad(value: string): void {
		onedit({
			...content,
			antenna:
				value === 'sweep' && build.baseline_sweep_id
					? { kind: 'sweep', sweep_id: build.baseline_sweep_id }
					: { kind: 'resistor', resistance_ohm: Number(value), reactance_ohm: 0 }
		});
	}
</script>

<div class="fields">
	{#if element.kind === 'transformer'}
		<label class="named"
			>Wiring
			<select
				aria-label="Wiring"
				value={element.wiring}
				onchange={(e) => setWiring(e.currentTarget.value)}
			>
				{#each wirings as w (w.key)}<option value={w.key}>{w.name}</option>{/each}
			</select></label
		>
		<label class="named"
			>It carries
			<select
				aria-label="It carries"
				value={content.antenna.kind === 'sweep' ? 'sweep' : String(ohm)}
				onchange={(e) => setLoad(e.currentTarget.value)}
			>
				{#if build.baseline_sweep_id}<option value="sweep">the wire as swept</option>{/if}
				{#each schools as s (s.ohm)}<option value={String(s.ohm)}>{s.name}</option>{/each}
				{#if ohm !== null && !schools.some((s) => s.ohm === ohm)}
					<option value={String(ohm)}>{quantity(ohm, 'Ω')}</option>
				{/if}
			</select></label
		>
		<div class="row">
			<NumberStepper
				label={counted ? 'Primary turns' : 'Turns'}
				value={element.primary_turns}
				most={counted ? element.secondary_turns : 60}
				onchange={(n) => setTurns(n, element.secondary_turns)}
			/>
			{#if counted}
				<NumberStepper
					label="in"
					value={element.secondary_turns}
					least={element.primary_turns}
					onchange={(n) => setTurns(element.primary_turns, n)}
				/>
			{/if}
		</div>
	{:else if element.kind === 'ring_coil'}
		<div class="row">
			<NumberStepper label="Turns" value={element.turns} onchange={(turns) => set({ turns })} />
		</div>
	{:else}
		<div class="row">
			<QuantityField
				label="Coil"
				kind="inductance"
				width={8}
				shown={quantity(element.inductance_h, 'H')}
				onsettle={(inductance_h) => set({ inductance_h })}
			/>
			<QuantityField
				label="on"
				kind="wire"
				width={7}
				shown={millimetres(element.former_m)}
				onsettle={(former_m) => set({ former_m })}
			/>
			<QuantityField
				label="every"
				kind="wire"
				width={8}
				shown={element.pitch_m ? millimetres(element.pitch_m) : 'touching'}
				onsettle={(pitch_m) => set({ pitch_m })}
			/>
			{#if element.pitch_m}
				<button class="plain" onclick={() => set({ pitch_m: null })}>touching</button>
			{/if}
			<QuantityField
				label="tap at turn"
				kind="turns"
				width={5}
				shown={element.tap_turns ? String(element.tap_turns) : 'none'}
				onsettle={(tap_turns) => set({ tap_turns })}
			/>
			{#if element.tap_turns}
				<button class="plain" onclick={() => set({ tap_turns: null })}>no tap</button>
			{/if}
		</div>
		<MeasuredPieces
			{element}
			{own}
			centerHz={center}
			onset={(changes) => set(changes as Partial<Element>)}
		/>
		<label class="named"
			>Former
			<select
				aria-label="Former"
				value={trade.formers.find((f) => Math.abs(f.outer_m - element.former_m) < 1e-5)?.key ?? ''}
				onchange={(e) => {
					const chosen = trade.formers.find((f) => f.key === e.currentTarget.value);
					const mine = formers.find((f) => f.id === e.currentTarget.value);
					const outer = mine?.values.outer_m ?? chosen?.outer_m;
					if (outer) set({ former_m: outer });
				}}
			>
				<option value="">{millimetres(element.former_m)}, of your own</option>
				{#each formers as f (f.id)}<option value={f.id}>{f.name}, yours</option>{/each}
				{#each trade.formers as f (f.key)}<option value={f.key}>{f.name}</option>{/each}
			</select></label
		>
	{/if}
	{#if core && element.kind !== 'coil'}
		<Core
			{core}
			pieceId={element.piece?.id ?? null}
			{trade}
			{own}
			onset={(next, taken) =>
				set(
					(taken === undefined ? { core: next } : { core: next, piece: taken }) as Partial<Element>
				)}
		/>
	{/if}
	{#if element.kind === 'transformer' && element.tuning}
		{@const tuning = element.tuning}
		<div class="row">
			<QuantityField
				label="Variable capacitor"
				kind="capacitance"
				width={7}
				shown={quantity(tuning.low_f ?? 0, 'F')}
				onsettle={(low_f) => set({ tuning: { ...tuning, low_f } })}
			/>
			<QuantityField
				label="to"
				kind="capacitance"
				width={7}
				shown={quantity(tuning.high_f ?? 0, 'F')}
				onsettle={(high_f) => set({ tuning: { ...tuning, high_f } })}
			/>
			<QuantityField
				label="set to"
				kind="capacitance"
				width={7}
				shown={quantity(tuning.set_f, 'F')}
				onsettle={(set_f) => set({ tuning: { ...tuning, set_f } })}
			/>
			<QuantityField
				label="rated voltage"
				kind="voltage"
				width={7}
				shown="{Math.round(tuning.voltage_v ?? 0)} V"
				onsettle={(voltage_v) => set({ tuning: { ...tuning, voltage_v } })}
			/>
		</div>
	{/if}
	<WireChooser
		wire={element.wire}
		taken={element.wire_piece ?? null}
		{trade}
		{own}
		onset={(changes) => set(changes as Partial<Element>)}
	/>
	{#if element.kind !== 'transformer'}
		<p>
			<button class="plain" onclick={otherWay}
				>{element.kind === 'coil'
					? 'Wind it on a powder ring instead'
					: 'Wind it on a former instead'}</button
			>
		</p>
	{/if}
	{#if winding && core}
		<p class="told soft">
			Up to {winding.fit.most_turns} turns of this wire in one layer.
		</p>
	{/if}
</div>

<style>
	.fields {
		display: grid;
		gap: 8px;
	}
	.row {
		gap: 6px 14px;
	}
</style>
