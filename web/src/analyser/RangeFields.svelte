<!-- @component
	Over which range to sweep, as start and stop or as centre and span; how finely; how often.
-->
<script lang="ts">
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { megahertz } from '../lib/units/format';

	interface Props {
		lowHz: number;
		highHz: number;
		points: number;
		passes: number;
		onchange: (range: { lowHz: number; highHz: number; points: number; passes: number }) => void;
	}

	let { lowHz, highHz, points, passes, onchange }: Props = $props();

	let centred = $state(false);
	const centre = $derived((lowHz + highHz) / 2);
	const span = $derived(highHz - lowHz);

	/** A range from two edges; exchanged ones are put right. */
	function between(a: number, b: number): void {
		onchange({ lowHz: Math.min(a, b), highHz: Math.max(a, b), points, passes });
	}
	function round(middle: number, wide: number): void {
		const half = Math.min(wide / 2, middle * 0.98);
		between(middle - half, middle + half);
	}

	const asEdges = $derived([
		{ label: 'Start', hz: lowHz, set: (hz: number) => between(hz, highHz) },
		{ label: 'Stop', hz: highHz, set: (hz: number) => between(lowHz, hz) }
	]);
	const asCentre = $derived([
		{ label: 'Centre', hz: centre, set: (hz: number) => round(hz, span) },
		{ label: 'Span', hz: span, set: (hz: number) => round(centre, hz) }
	]);
</script>

<div class="row range">
	{#each centred ? asCentre : asEdges as field (field.label)}
		<QuantityField
			label={field.label}
			kind="frequency"
			shown="{megahertz(field.hz)} MHz"
			width={11}
			onsettle={field.set}
		/>
	{/each}
	<button class="plain" onclick={() => (centred = !centred)}
		>{centred ? 'start and stop' : 'centre and span'}</button
	>
	<button class="plain" onclick={() => round(centre, span * 2)}>wider</button>
	<button class="plain" onclick={() => round(centre, span / 2)}>narrower</button>
	<label
		>Points
		<select
			value={points}
			onchange={(event) =>
				onchange({ lowHz, highHz, points: Number(event.currentTarget.value), passes })}
		>
			{#each [101, 201, 401, 801, 2001] as n (n)}<option value={n}>{n}</option>{/each}
		</select></label
	>
	<label
		>Average
		<select
			value={passes}
			onchange={(event) =>
				onchange({ lowHz, highHz, points, passes: Number(event.currentTarget.value) })}
		>
			{#each [1, 4, 8, 16, 64] as n (n)}<option value={n}>{n} {n === 1 ? 'pass' : 'passes'}</option
				>{/each}
		</select></label
	>
</div>

<style>
	.range {
		font-size: var(--size-13);
	}
	label {
		color: var(--soft);
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
</style>
