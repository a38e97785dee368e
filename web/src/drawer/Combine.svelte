<!-- @component
	A capacitor that is wanted, made of one or two: by value, tolerance and voltage.
-->
<script lang="ts">
	import { answer, api, type Piece } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, quantity, tolerance } from '../lib/units/format';
	import { combinedName } from './words';

	interface Props {
		/** What lies in the drawer: a piece that came or went is another question. */
		own: Piece[];
	}

	let { own }: Props = $props();

	let wanted = $state(120e-12);
	let volts = $state(500);
	const combinations = latest(
		() => ({ own, capacitance_f: wanted, voltage_v: volts, within: 0.1 }),
		({ capacitance_f, voltage_v, within }) =>
			answer(api.POST('/api/combinations', { body: { capacitance_f, voltage_v, within } }))
	);
	const found = $derived(combinations.value);

	const lists = $derived([
		{ title: 'From your drawer', rows: found?.own ?? [] },
		{ title: 'As sold, silver mica and NP0 ceramic', rows: found?.sold ?? [] }
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
			label="rated voltage at least"
			kind="voltage"
			width={7}
			shown="{Math.round(volts)} V"
			onsettle={(v) => void (volts = v)}
		/>
	</div>
	<div class="lists">
		{#each lists as list, nth (nth)}
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
