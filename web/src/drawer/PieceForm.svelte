<!-- @component
	One piece of one's own: name, count, price and its values, changed where they stand.
-->
<script lang="ts">
	import type { Piece } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, millimetres, quantity } from '../lib/units/format';
	import type { Held } from './words';

	interface Props {
		piece: Piece;
		/** Keeps another state of it. */
		onchange: (held: Held) => Promise<void>;
	}

	let { piece, onchange }: Props = $props();

	const held = $derived(piece.held);
	const label = (what: string) => `${what} of ${held.name}`;
	const set = (changes: Partial<Held>) => onchange({ ...held, ...changes } as Held);
	const value = (changes: Record<string, unknown>) =>
		onchange({ ...held, values: { ...held.values, ...changes } } as Held);
	function typed(event: Event & { currentTarget: HTMLInputElement }): void {
		const text = event.currentTarget.value.trim();
		const count = text === '' ? null : Number(text);
		if (count === null || (Number.isInteger(count) && count >= 0)) void set({ count });
		else event.currentTarget.value = held.count === null ? '' : String(held.count ?? '');
	}
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
	<label class="told"
		>Name
		<input
			class="written"
			value={held.name}
			aria-label={label('Name')}
			onchange={(e) => {
				const name = e.currentTarget.value.trim();
				if (name) void set({ name });
				else e.currentTarget.value = held.name;
			}}
		/></label
	>
	<label class="told"
		>Count
		<input
			class="written few"
			inputmode="numeric"
			aria-label={label('Count')}
			value={held.count ?? ''}
			onchange={typed}
		/></label
	>
	<label class="told"
		>Price
		<input
			class="written few"
			aria-label={label('Price')}
			value={held.price ?? ''}
			onchange={(e) => set({ price: e.currentTarget.value })}
		/></label
	>
	{#if held.kind === 'core'}
		<QuantityField
			label="A_L, nH per turn², measured"
			kind="inductance factor"
			width={8}
			shown={held.values.al_h ? `${figures(held.values.al_h * 1e9, 4)} nH` : 'not yet'}
			onsettle={(al_h) => value({ al_h })}
		/>
		{#if held.values.al_h}
			<button class="plain" onclick={() => value({ al_h: null })}>nominal again</button>
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
	.few {
		width: 9ch;
	}
</style>
