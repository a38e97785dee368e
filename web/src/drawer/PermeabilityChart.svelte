<!-- @component
	Permeability of a ring as measured, both parts with their bands, and the table's likeliest mix dotted.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import { held } from '../lib/charts/frame';
	import Curve from '../lib/charts/marks/Curve.svelte';
	import CurveName from '../lib/charts/marks/CurveName.svelte';
	import Fan from '../lib/charts/marks/Fan.svelte';
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
	const cut = (values: number[]) => held(values, bottom, top);
	const rows = $derived([
		{
			name: 'μ′',
			value: found.real,
			error: found.real_error,
			table: found.table_real,
			hue: 'blueprint' as const
		},
		{
			name: 'μ″',
			value: found.imaginary,
			error: found.imaginary_error,
			table: found.table_imaginary,
			hue: 'heat' as const
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
	{#snippet marks(plot)}
		{#each rows as row, nth (nth)}
			<Fan
				{plot}
				hz={f}
				low={cut(less(row.value, row.error))}
				high={cut(more(row.value, row.error))}
				{top}
				hue="soft"
			/>
			{#if row.table}
				<Curve {plot} of="table" hz={f} values={cut(row.table)} hue="ink" width={1.5} dash="2 3" />
			{/if}
			<Curve {plot} of="curve" hz={f} values={cut(row.value)} hue={row.hue} width={2.5} />
			<CurveName x={plot.x(f[3] ?? 1e6)} y={plot.y(cut(row.value)[3] ?? bottom) + 18} hue={row.hue}
				>{row.name}</CurveName
			>
		{/each}
	{/snippet}
</Plot>
<p class="told soft">
	Solid: yours, shaded where it may lie. {found.table_real
		? 'Dotted: the table’s likeliest mix.'
		: 'No mix of the table is like it.'}
</p>
