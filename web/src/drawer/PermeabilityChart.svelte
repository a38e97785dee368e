<!-- @component
	Permeability of a ring as measured, both parts with their bands, and the table's likeliest mix dotted.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import { band, path } from '../lib/charts/curve';
	import Plot from '../lib/charts/Plot.svelte';

	let { found }: { found: Schemas['RingOut'] } = $props();

	let markerHz = $state(7e6);
	const f = $derived(found.frequency_hz);
	const frame = $derived({
		lowHz: f[0] ?? 1e6,
		highHz: f[f.length - 1] ?? 30e6,
		targets: [],
		markerHz: Math.min(f[f.length - 1] ?? markerHz, Math.max(f[0] ?? markerHz, markerHz)),
		onmarker: (hz: number) => (markerHz = hz),
		height: 220
	});
	const top = $derived(10 ** Math.ceil(Math.log10(Math.max(...found.real, ...found.imaginary))));
	const bottom = $derived(top / 1000);
	const ticks = $derived([bottom, bottom * 10, bottom * 100, top]);
	const cut = (values: number[]) => values.map((v) => Math.max(bottom, Math.min(v, top)));
	const rows = $derived([
		{ name: 'μ′', value: found.real, error: found.real_error, table: found.table_real, tone: 'b' },
		{
			name: 'μ″',
			value: found.imaginary,
			error: found.imaginary_error,
			table: found.table_imaginary,
			tone: 'h'
		}
	]);
	const less = (a: number[], b: number[]) => a.map((v, i) => v - (b[i] ?? 0));
	const more = (a: number[], b: number[]) => a.map((v, i) => v + (b[i] ?? 0));
</script>

<Plot
	label="Permeability as measured"
	{frame}
	{bottom}
	{top}
	{ticks}
	tickText={(v) => (v < 1 ? v.toFixed(1) : String(Math.round(v)))}
	log
	logX
>
	{#snippet marks({ x, y })}
		{#each rows as row (row.name)}
			<path
				class="fan {row.tone}"
				d={band(f, cut(less(row.value, row.error)), cut(more(row.value, row.error)), x, y, top)}
			/>
			{#if row.table}<path class="table" d={path(f, cut(row.table), x, y)} />{/if}
			<path class="curve {row.tone}" d={path(f, cut(row.value), x, y)} />
			<text class={row.tone} x={x(f[3] ?? 1e6)} y={y(cut(row.value)[3] ?? bottom) + 18}
				>{row.name}</text
			>
		{/each}
	{/snippet}
</Plot>
<p class="told soft">
	Solid: yours, shaded where it may lie. {found.table_real
		? 'Dotted: the table’s likeliest mix.'
		: 'No mix of the table is like it.'}
</p>

<style>
	path {
		fill: none;
	}
	.curve {
		stroke-width: 2.5;
	}
	.curve.b {
		stroke: var(--blueprint);
	}
	.curve.h {
		stroke: var(--heat);
	}
	.fan {
		fill: var(--line);
		opacity: 0.7;
	}
	.table {
		stroke: var(--ink);
		stroke-width: 1.5;
		stroke-dasharray: 2 3;
	}
	text {
		font-size: var(--size-13);
		font-weight: 700;
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	text.b {
		fill: var(--blueprint);
	}
	text.h {
		fill: var(--heat-ink);
	}
</style>
