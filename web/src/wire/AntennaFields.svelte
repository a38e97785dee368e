<!-- @component
	What an antenna is told by: its plain numbers, its wire, the soil under it. Each is typed or stepped; what it
	cannot be is said beside it.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { millimetres } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { numberText, quantityKinds } from './words';

	type Antenna = Schemas['WireAntenna'];

	interface Props {
		antenna: Antenna;
		kind: Schemas['AntennaKindOut'];
		soils: Schemas['SoilOut'][];
		/** Takes the antenna changed; throws what refuses it. */
		onchange: (antenna: Antenna) => Promise<unknown>;
	}

	let { antenna, kind, soils, onchange }: Props = $props();

	const set = (name: string, value: number) =>
		onchange({ ...antenna, numbers: { ...antenna.numbers, [name]: value } });
	const stock = $derived(antenna.stock ?? {});
	const soilKey = $derived(
		soils.find(
			(s) =>
				s.soil.conductivity_s_per_m === antenna.soil?.conductivity_s_per_m &&
				s.soil.relative_permittivity === antenna.soil?.relative_permittivity
		)?.key ?? ''
	);
	const diameter = $derived(stock.diameter_m ?? 0.002);
	// What covered wire is usually sold as: half as thick again.
	const USUAL_COVER = 1.6;
</script>

<div class="row fields">
	{#each kind.numbers as number (number.name)}
		{@const value = antenna.numbers[number.name] ?? 0}
		{#if number.unit === 'count'}
			<NumberStepper
				label={number.label}
				{value}
				least={number.least}
				most={number.most}
				onchange={(count) =>
					void onchange({ ...antenna, numbers: { ...antenna.numbers, [number.name]: count } })}
			/>
		{:else}
			<QuantityField
				label={number.label}
				kind={quantityKinds[number.unit]}
				shown={numberText(number.unit, value, units.length)}
				width={number.unit === 'm' || number.unit === 'H' ? 9 : 6}
				onsettle={(typed) => set(number.name, typed)}
			/>
		{/if}
	{/each}
</div>
<div class="row fields">
	<label class="told check">
		<span>wire</span>
		<select
			value={stock.conductor ?? 'copper'}
			onchange={(event) =>
				void onchange({
					...antenna,
					stock: { ...stock, conductor: event.currentTarget.value as 'copper' }
				})}
		>
			<option value="copper">copper</option>
			<option value="aluminium">aluminium</option>
			<option value="steel">steel</option>
		</select>
	</label>
	<QuantityField
		label="thick"
		kind="wire"
		shown={millimetres(diameter)}
		width={7}
		onsettle={(diameter_m) =>
			onchange({
				...antenna,
				stock: {
					...stock,
					diameter_m,
					covering_m: stock.covering_m ? (stock.covering_m * diameter_m) / diameter : null
				}
			})}
	/>
	<label class="told check"
		><input
			type="checkbox"
			checked={Boolean(stock.covering_m)}
			onchange={(event) =>
				void onchange({
					...antenna,
					stock: {
						...stock,
						covering_m: event.currentTarget.checked ? USUAL_COVER * diameter : null
					}
				})}
		/> covered</label
	>
	{#if stock.covering_m}
		<QuantityField
			label="over the covering"
			kind="wire"
			shown={millimetres(stock.covering_m)}
			width={7}
			onsettle={(covering_m) => onchange({ ...antenna, stock: { ...stock, covering_m } })}
		/>
	{/if}
	<label class="told check">
		<span>over</span>
		<select
			value={soilKey}
			onchange={(event) => {
				const chosen = soils.find((s) => s.key === event.currentTarget.value);
				if (chosen) void onchange({ ...antenna, soil: chosen.soil });
			}}
		>
			{#if soilKey === ''}<option value="">soil as typed</option>{/if}
			{#each soils as s (s.key)}<option value={s.key}>{s.name}</option>{/each}
		</select>
	</label>
</div>

<style>
	.fields {
		gap: 6px 14px;
	}
	span {
		color: var(--soft);
	}
</style>
