<!-- @component
	How to check a trap: through a link turn, where it dips, and across the port, where only X tells.
-->
<script lang="ts">
	import { path } from '../lib/charts/curve';
	import Plot from '../lib/charts/Plot.svelte';
	import { figures, megahertz } from '../lib/units/format';
	import type { Winding } from './wound';

	interface Props {
		winding: Winding;
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
	}

	let { winding, markerHz, onmarker }: Props = $props();

	const trap = $derived(winding.trap);
	const f = $derived(trap?.link.frequency_hz ?? [1e6, 2e6]);
	const frame = $derived({
		lowHz: f[0] ?? 1e6,
		highHz: f[f.length - 1] ?? 2e6,
		targets: [],
		markerHz: Math.min(f[f.length - 1] ?? markerHz, Math.max(f[0] ?? markerHz, markerHz)),
		onmarker,
		height: 130
	});
	const deepest = $derived(Math.max(1, ...(trap?.link.value ?? []).map((v) => v ?? 0)));
	const top = $derived(Math.ceil(deepest));
	const peak = $derived(Math.max(...(trap?.resistance_ohm.value ?? []).map((v) => v ?? 0)));
	const size = $derived.by(() => {
		const step = 10 ** Math.floor(Math.log10(Math.max(peak, 10)));
		return ([1, 2, 5, 10].find((k) => k * step >= peak) ?? 10) * step;
	});
	const cut = (values: (number | null)[]) =>
		values.map((v) => (v === null ? null : Math.max(-size, Math.min(v, size))));
</script>

{#if trap}
	<h2>Check it alone</h2>
	<p class="told">
		<strong>Through a link turn</strong>: one loose turn of wire beside the coil, on the analyser.
		Return loss dips by about {figures(deepest, 2)} dB at {megahertz(trap.resonance_hz)} MHz.
	</p>
	<Plot
		label="Return loss through a link turn, dB"
		{frame}
		bottom={top}
		top={0}
		ticks={[0, top / 2, top]}
		tickText={(v) => v.toFixed(1)}
	>
		{#snippet marks({ x, y })}
			<path class="curve" d={path(f, trap.link.value, x, y)} />
		{/snippet}
	</Plot>
	<p class="told">
		<strong>Across the port</strong>: X (dotted) passes zero where R (dashed) peaks. SWR shows
		nothing: {figures(trap.port_swr ?? 999, 2)} at best.
	</p>
	<Plot
		label="R and X of the trap across the port, ohms"
		{frame}
		bottom={-size}
		top={size}
		ticks={[-size, 0, size]}
		tickText={(v) => (Math.abs(v) >= 1e3 ? `${v / 1e3}k` : String(v))}
	>
		{#snippet marks({ x, y })}
			<path class="curve" d={path(f, cut(trap.resistance_ohm.value), x, y)} />
			<path class="x" d={path(f, cut(trap.reactance_ohm.value), x, y)} />
		{/snippet}
	</Plot>
	<p class="told soft">
		Then house it and look again: tube, glue and screws bring it to about {megahertz(
			trap.housed_hz
		)} MHz. Squeeze or spread turns until it stands where you want it housed.
	</p>
{/if}

<style>
	path {
		fill: none;
	}
	.curve {
		stroke: var(--copper);
		stroke-width: 2.5;
		stroke-dasharray: 8 4;
	}
	.x {
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-dasharray: 2 3;
	}
	.told {
		margin-top: 6px;
	}
</style>
