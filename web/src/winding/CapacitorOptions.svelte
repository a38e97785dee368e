<!-- @component
	Capacitors, alone or two together, that make a value and stand the voltage that occurs.
-->
<script lang="ts">
	import { answer, api } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { combinedName } from '../drawer/words';
	import { figures, quantity, tolerance } from '../lib/units/format';

	interface Props {
		/** Farad. */
		capacitanceF: number;
		/** Peak. */
		voltageV: number;
		/** Two standard deviations of the capacitor as it is planned. */
		toleranceNow: number;
		/** Takes the value and the tolerance of one of them. */
		ontake: (made: { capacitance_f: number; tolerance: number }) => void;
	}

	let { capacitanceF, voltageV, toleranceNow, ontake }: Props = $props();

	const combinations = latest(
		() => ({ capacitance_f: capacitanceF, voltage_v: voltageV, within: 0.1 }),
		(body) => answer(api.POST('/api/combinations', { body }))
	);
	const made = $derived(combinations.value);
	const rows = $derived([
		...(made?.own ?? []).slice(0, 3).map((c) => ({ c, where: 'in your drawer' })),
		...(made?.sold ?? []).slice(0, 3).map((c) => ({ c, where: 'sold' }))
	]);
</script>

<h2>Capacitor: {quantity(capacitanceF, 'F')}, {figures(voltageV)} V peak or better</h2>
{#if rows.length}
	<ul>
		{#each rows as { c, where }, i (i)}
			<li class="told">
				{combinedName(c)}, {where}:
				<span class="mono"
					>{quantity(c.capacitance_f, 'F')} {tolerance(c.tolerance)}, {figures(c.voltage_v)} V</span
				>
				{#if Math.abs(c.capacitance_f / capacitanceF - 1) > 1e-6 || c.tolerance !== toleranceNow}
					<button class="plain" aria-label="take it: {combinedName(c)}" onclick={() => ontake(c)}
						>take it</button
					>
				{/if}
			</li>
		{/each}
	</ul>
{:else if made}
	<p class="told">
		No mica or NP0 of the table stands that: wind the trap of coax, or tune it below the band, or
		send less.
	</p>
{/if}

<style>
	ul {
		padding-left: 18px;
	}
</style>
