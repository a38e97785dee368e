<!-- @component
	One piece of one's own: name, count, price and its values, changed where they stand.
-->
<script lang="ts">
	import type { Piece } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import TextField from '../lib/controls/TextField.svelte';
	import { figures, millimetres, quantity } from '../lib/units/format';
	import type { Held } from './words';

	interface Props {
		piece: Piece;
		/** Keeps what becomes of its newest state. Throws `Refused` where that cannot be. */
		onchange: (make: (held: Held) => Held) => Promise<void>;
	}

	let { piece, onchange }: Props = $props();

	const held = $derived(piece.held);
	const label = (what: string) => `${what} of ${held.name}`;
	const set = (changes: Partial<Held>) => onchange((now) => ({ ...now, ...changes }) as Held);
	const value = (changes: Record<string, unknown>) =>
		onchange((now) => ({ ...now, values: { ...now.values, ...changes } }) as Held);
	/** Pieces are counted, or not. */
	const uncounted = (text: string) =>
		/^\d{0,6}$/.test(text) ? null : `“${text}” is no count: write a whole number, or nothing`;
	const lengths: Record<string, [string, string][]> = {
		wire: [
			['diameter_m', 'metal'],
			['covered_m', 'over all']
		],
		former: [
			['outer_m', 'outside'],
			['length_m', 'long']
		],
		box: [
			['width_m', 'wide'],
			['height_m', 'high'],
			['depth_m', 'deep']
		]
	};
	const measures = $derived(lengths[held.kind] ?? []);
	const of = (field: string) => (held.values as Record<string, number>)[field] ?? 0;
</script>

<div class="row">
	<TextField
		label="Name"
		name={label('Name')}
		shown={held.name}
		refusal={(text) => (text ? null : 'A piece without a name is not found again: write one')}
		onsettle={(name) => set({ name })}
	/>
	<TextField
		label="Count"
		name={label('Count')}
		few
		shown={String(held.count ?? '')}
		refusal={uncounted}
		onsettle={(text) => set({ count: text === '' ? null : Number(text) })}
	/>
	<TextField
		label="Price"
		name={label('Price')}
		shown={held.price ?? ''}
		onsettle={(price) => set({ price })}
	/>
	{#if held.kind === 'core'}
		<QuantityField
			label="A_L, nH per turn², measured"
			kind="inductance factor"
			width={8}
			shown={held.values.al_h ? `${figures(held.values.al_h * 1e9, 4)} nH` : 'not yet'}
			onsettle={(al_h) => value({ al_h })}
		/>
		{#if held.values.al_h}
			<button class="plain" onclick={() => void value({ al_h: null }).catch(() => undefined)}
				>nominal again</button
			>
		{/if}
	{:else if held.kind === 'capacitor'}
		<QuantityField
			label="Value"
			kind="capacitance"
			width={8}
			shown={quantity(held.values.capacitance_f, 'F')}
			onsettle={(capacitance_f) => value({ capacitance_f })}
		/>
		<QuantityField
			label="±"
			kind="share"
			width={5}
			shown="{Number((100 * (held.values.tolerance ?? 0.05)).toFixed(1))} %"
			onsettle={(tolerance) => value({ tolerance })}
		/>
		<QuantityField
			label="Rated voltage"
			kind="voltage"
			width={7}
			shown="{Math.round(held.values.voltage_v ?? 0)} V"
			onsettle={(voltage_v) => value({ voltage_v })}
		/>
	{/if}
	{#each measures as [field, name] (field)}
		<QuantityField
			label={name}
			kind="wire"
			width={8}
			shown={millimetres(of(field))}
			onsettle={(metres) => value({ [field]: metres })}
		/>
	{/each}
</div>

<style>
	.row {
		align-items: end;
		margin-top: 6px;
	}
</style>
