<!-- @component
	A capacitor that is wanted, made of one or two: by value, tolerance and voltage.
-->
<script lang="ts">
	import { answer, api } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, quantity, tolerance } from '../lib/units/format';
	import { combinedName } from './words';

	let wanted = $state(120e-12);
	let volts = $state(500);
	const combinations = latest(
		() => ({ capacitance_f: wanted, voltage_v: volts, within: 0.1 }),
		(body) => answer(api.POST('/api/combinations', { body }))
	);
	const found = $derived(combinations.value);

	const lists = $derived([
		{ title: 'From your drawer', rows: found?.own ?? [] },
		{ title: 'As sold, silver mica', rows: found?.sold ?? [] }
	]);
</script>

<section class="sheet" aria-label="Make one of two">
	<h2>Make one of two</h2>
	<div class="row">
		<QuantityField
			label="Wanted"
			kind="capacitance"
			width={8}
			shown={quantity(wanted, 'F')}
			onsettle={(farad) => void (wanted = farad)}
		/>
		<QuantityField
			label="that stands, in volts"
			kind="turns"
			width={6}
			shown={String(Math.round(volts))}
			onsettle={(v) => void (volts = v)}
		/>
	</div>
	<div class="lists">
		{#each lists as list (list.title)}
			<div>
				<h3 class="eyebrow">{list.title}</h3>
				{#if list.rows.length}
					<ol>
						{#each list.rows as c, i (i)}
							<li>
								{combinedName(c)}:
								<span class="mono"
									>{quantity(c.capacitance_f, 'F')}
									{tolerance(c.tolerance)}, {figures(c.voltage_v)} V</span
								>
							</li>
						{/each}
					</ol>
				{:else}
					<p class="told soft">Nothing here makes it within 10 % at that voltage.</p>
				{/if}
			</div>
		{/each}
	</div>
	<p class="told soft">
		In series the smaller one takes the larger part of the voltage. Discharge a capacitor before you
		touch it.
	</p>
</section>

<style>
	.lists {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
		gap: 14px;
		margin-top: 8px;
	}
	ol {
		padding-left: 20px;
		font-size: var(--size-13);
	}
</style>
