<!-- @component
	The capacitor across the input: its best value over the bands, and what of the drawer makes it.
-->
<script lang="ts">
	import { answer, api, type Content } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, quantity, swr, tolerance } from '../lib/units/format';
	import { combinedName } from '../drawer/words';
	import { withElement } from '../design/content';
	import type { Transformer } from './wound';

	interface Props {
		content: Content;
		element: Transformer;
		/** Peak voltage at the input, at the power set. */
		voltageV: number;
		onedit: (content: Content) => void;
	}

	let { content, element, voltageV, onedit }: Props = $props();

	// What is best follows the design; what makes it, the value set.
	const advice = latest(
		() => ({ content, key: element.key }),
		(body) => answer(api.POST('/api/cores/capacitor', { body }))
	);
	const best = $derived(advice.value);
	const set = $derived(element.input_capacitance_f ?? 0);
	const combinations = latest(
		() =>
			set > 0 ? { capacitance_f: set, voltage_v: Math.ceil(1.5 * voltageV), within: 0.06 } : null,
		(body) => answer(api.POST('/api/combinations', { body }))
	);
	const made = $derived(combinations.value);

	const put = (farad: number) =>
		onedit(withElement(content, element.key, { input_capacitance_f: farad }));
	const near = $derived(best ? Math.round(best.capacitance_f * 1e12) * 1e-12 : 0);
	const gains = $derived(
		best !== null && near > 0 && (best.worst_without ?? 0) - (best.worst_with ?? 0) > 0.01
	);
	const shown = $derived(made?.own[0] ?? made?.sold[0] ?? null);
</script>

<h2>Across the input</h2>
<div class="row">
	<QuantityField
		label="Capacitor"
		kind="stray capacitance"
		width={8}
		shown={set > 0 ? quantity(set, 'F') : 'none'}
		onsettle={put}
	/>
	{#if best && Math.abs(near - set) > 0.5e-12}
		<button class="button" onclick={() => put(near)}
			>{near > 0
				? `Best over the bands: ${quantity(near, 'F')}`
				: 'Best over the bands: none'}</button
		>
	{/if}
</div>
<p class="told soft">
	{#if best && gains}
		Without one the worst SWR is {swr(best.worst_without)}, with {quantity(near, 'F')}
		{swr(best.worst_with)}. It must stand {figures(Math.ceil(1.5 * voltageV), 2)} V.
	{:else if best}
		No capacitor betters the worst SWR, {swr(best.worst_without)}: the winding's own capacitance
		does it already.
	{/if}
</p>
{#if set > 0 && shown}
	<p class="told">
		{made?.own.length ? 'In your drawer' : 'Sold'}: {combinedName(shown)}
		{#if shown.parts.length > 1}make{:else}has{/if}
		{quantity(shown.capacitance_f, 'F')}
		{tolerance(shown.tolerance)}, {figures(shown.voltage_v)} V.
		{#if Math.abs(shown.capacitance_f - set) > 0.05e-12}
			<button
				class="plain"
				aria-label="take it: {combinedName(shown)}"
				onclick={() => put(shown.capacitance_f)}>take it</button
			>
		{/if}
	</p>
{/if}

<style>
	.told {
		margin-top: 4px;
	}
</style>
