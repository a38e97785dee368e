<!-- @component
	A tuned coupler over its bands: where the capacitor stands, the SWR there, what squeezing the primary leaves.
-->
<script lang="ts">
	import { figures, megahertz, quantity, swr } from '../lib/units/format';
	import type { Transformer, Winding } from './wound';

	interface Props {
		winding: Winding;
		tuning: NonNullable<Transformer['tuning']>;
		onset: (changes: Partial<Transformer>) => void;
	}

	let { winding, tuning, onset }: Props = $props();

	const coupler = $derived(winding.coupler);
	const low = $derived(tuning.low_f ?? 0);
	const high = $derived(tuning.high_f ?? 1);
	/** Where a setting stands on the knob, by ratio: most bands crowd at its lower end. */
	const at = (farad: number) =>
		(100 * Math.log(Math.max(farad, low, 1e-12) / Math.max(low, 1e-12))) /
		Math.log(high / Math.max(low, 1e-12));
	const x = (ohm: number) => `${ohm < 0 ? '−' : '+'}${figures(Math.abs(ohm), 2)} Ω`;
</script>

{#if coupler}
	<h2>The capacitor over the bands</h2>
	<p class="told soft">
		It tunes {megahertz(coupler.low_hz)} to {megahertz(coupler.high_hz)} MHz. Set it on the bench with
		a resistor first; squeeze or spread the primary for what reactance is left.
	</p>
	<div class="knob" aria-hidden="true">
		<span class="now" style:left="{Math.min(100, Math.max(0, at(tuning.set_f)))}%"></span>
		{#each coupler.settings as s, nth (nth)}
			<i style:left="{Math.min(100, Math.max(0, at(s.capacitance_f)))}%">{s.label}</i>
		{/each}
	</div>
	<ul>
		{#each coupler.settings as s, nth (nth)}
			<li class:out={!s.within}>
				<button
					class="plain"
					aria-label="Set the capacitor for {s.label}"
					onclick={() => onset({ tuning: { ...tuning, set_f: s.capacitance_f } })}>{s.label}</button
				>
				<span class="mono">{quantity(s.capacitance_f, 'F')}</span>
				<span>SWR {swr(s.swr)}, {swr(s.edge_swr)} at the edges</span>
				<small class="soft"
					>{s.within ? '' : 'at its stop, out of reach; '}X left {x(s.reactance_ohm)}; primary
					squeezed {x(s.squeezed_reactance_ohm)}, spread {x(s.apart_reactance_ohm)}; {figures(
						s.voltage_v ?? 0
					)} V peak across it</small
				>
			</li>
		{/each}
	</ul>
{/if}

<style>
	.knob {
		position: relative;
		height: 8px;
		border-radius: 4px;
		background: var(--line);
		margin: 22px 8px 14px;
	}
	.knob i {
		position: absolute;
		bottom: 10px;
		transform: translateX(-50%);
		font-style: normal;
		font-size: var(--size-12);
		color: var(--verdigris);
	}
	.now {
		position: absolute;
		top: -5px;
		bottom: -5px;
		width: 3px;
		background: var(--copper);
	}
	ul {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 6px;
		font-size: var(--size-13);
	}
	li {
		display: grid;
		grid-template-columns: 48px 76px 1fr;
		gap: 0 8px;
	}
	small {
		grid-column: 2 / -1;
		font-size: var(--size-12);
	}
	.out .mono {
		color: var(--enamel);
	}
</style>
