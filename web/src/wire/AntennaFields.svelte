<!-- @component
	What an antenna is told by: its plain numbers, its wire, the soil under it. Each is typed or stepped; what it
	cannot be is said beside it.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { millimetres, quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { numberText, quantityKinds } from './words';

	type Antenna = Schemas['WireAntenna'];

	type Edit = (antenna: Antenna) => Antenna;

	interface Props {
		antenna: Antenna;
		kind: Schemas['AntennaKindOut'];
		soils: Schemas['SoilOut'][];
		/** Changes the antenna as it then is; throws what refuses it. */
		onchange: (edit: Edit) => Promise<unknown>;
		/** The same for what is picked, not typed: a refusal is told by the desk. */
		onpick: (edit: Edit) => void;
	}

	let { antenna, kind, soils, onchange, onpick }: Props = $props();

	// Each edit takes the antenna as it is by then: two fields settled at once lose nothing of each other.
	const number =
		(name: string, value: number): Edit =>
		(now) => ({ ...now, numbers: { ...now.numbers, [name]: value } });
	const wire =
		(change: (stock: NonNullable<Antenna['stock']>) => Partial<Antenna['stock']>): Edit =>
		(now) => ({ ...now, stock: { ...now.stock, ...change(now.stock ?? {}) } });
	const stock = $derived(antenna.stock ?? {});
	const soilKey = $derived(
		soils.find(
			(s) =>
				s.soil.conductivity_s_per_m === antenna.soil?.conductivity_s_per_m &&
				s.soil.relative_permittivity === antenna.soil?.relative_permittivity
		)?.key ?? ''
	);
	const diameter = $derived(stock.diameter_m ?? 0.002);
	// What covered wire is usually sold as: over half as thick again.
	const USUAL_COVER = 1.6;
	const WIDTHS: Partial<Record<Schemas['NumberOut']['unit'], number>> = {
		m: 9,
		H: 9,
		F: 9,
		Hz: 10
	};
</script>

<div class="row fields">
	{#each kind.numbers as told (told.name)}
		{@const value = antenna.numbers[told.name] ?? 0}
		{#if told.unit === 'count'}
			<NumberStepper
				label={told.label}
				{value}
				least={told.least}
				most={told.most}
				onchange={(count) => onpick(number(told.name, count))}
			/>
		{:else}
			<QuantityField
				label={told.label}
				kind={quantityKinds[told.unit]}
				shown={numberText(told.unit, value, units.length)}
				width={WIDTHS[told.unit] ?? 6}
				onsettle={(typed) => onchange(number(told.name, typed))}
			/>
		{/if}
	{/each}
	{#if antenna.radials_found && antenna.radials_found.radials === antenna.numbers['radials']}
		<span class="told soft">that lose {quantity(antenna.radials_found.ohm, 'Ω')}, by a sweep</span>
	{/if}
</div>
<div class="row fields">
	<label class="told check">
		<span>wire</span>
		<select
			value={stock.conductor ?? 'copper'}
			onchange={(event) => {
				const conductor = event.currentTarget.value as 'copper';
				onpick(wire(() => ({ conductor })));
			}}
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
			onchange(
				wire(({ diameter_m: before = diameter, covering_m: cover }) => ({
					diameter_m,
					covering_m: cover ? (cover * diameter_m) / before : null
				}))
			)}
	/>
	<label class="told check"
		><input
			type="checkbox"
			checked={Boolean(stock.covering_m)}
			onchange={(event) => {
				const covered = event.currentTarget.checked;
				onpick(
					wire(({ diameter_m: bare = diameter }) => ({
						covering_m: covered ? USUAL_COVER * bare : null
					}))
				);
			}}
		/> covered</label
	>
	{#if stock.covering_m}
		<QuantityField
			label="over the covering"
			kind="wire"
			shown={millimetres(stock.covering_m)}
			width={7}
			onsettle={(covering_m) => onchange(wire(() => ({ covering_m })))}
		/>
	{/if}
	<label class="told check">
		<span>over</span>
		<select
			value={soilKey}
			onchange={(event) => {
				const chosen = soils.find((s) => s.key === event.currentTarget.value);
				if (chosen) onpick((now) => ({ ...now, soil: chosen.soil }));
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
