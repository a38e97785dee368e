<!-- @component
	What readings without a file carry: R and X as far as they are known, and the one reading that would settle the rest.
-->
<script lang="ts">
	import type { EvidenceOut } from '../lib/api/client';
	import { figures, megahertz, swr } from '../lib/units/format';
	import { askText } from './words';

	let { dial }: { dial: EvidenceOut } = $props();

	const open = $derived(dial.impedances.some((z) => z.reactance_ohm === null));
	const sign = $derived(dial.ask_sign);
</script>

{#if dial.points.length || dial.impedances.length}
	<ul>
		{#each dial.points as p, i (i)}
			<li>
				{megahertz(p.frequency_hz)} MHz: SWR {swr(p.swr)}, on such a meter {swr(p.low_swr)} to {swr(
					p.high_swr
				)}.
			</li>
		{/each}
		{#each dial.impedances as z, nth (nth)}
			<li>
				{megahertz(z.frequency_hz)} MHz: R {figures(z.resistance_ohm)} Ω, X {z.reactance_ohm ===
				null
					? `±${figures(z.size_reactance_ohm)} Ω, sign open`
					: `${figures(z.reactance_ohm)} Ω`}.
			</li>
		{/each}
		{#if open && sign}
			<li>{askText(sign)}</li>
		{/if}
	</ul>
{/if}

<style>
	ul {
		padding-left: 18px;
		display: grid;
		gap: 4px;
		font-size: var(--size-13);
	}
</style>
