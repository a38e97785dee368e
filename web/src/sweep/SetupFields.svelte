<!-- @component
	How it is swept: the plane, the line, and the conditions; asked once and carried on to the next sweep.
-->
<script lang="ts">
	import type { CableRow, SetupIn } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import TextField from '../lib/controls/TextField.svelte';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';

	interface Props {
		setup: SetupIn;
		cables: CableRow[];
		onchange: (setup: SetupIn) => void;
	}

	let { setup, cables, onchange }: Props = $props();

	const asked = [
		['height', 'Height', 'as in “feedpoint 4 m up”'],
		['hung', 'How hung', 'flat, sloping, inverted V'],
		['near', 'What is near', 'roof tiles, gutter, tree'],
		['ground', 'Ground', 'wet or dry']
	] as const;
	const line = $derived(setup.line ?? null);

	function plane(value: string): void {
		const chosen = value as SetupIn['plane'];
		onchange({
			...setup,
			plane: chosen,
			line:
				chosen === 'line_end' ? (line ?? { cable: cables[0]?.key ?? 'pe-5', length_m: 10 }) : null
		});
	}
</script>

<div class="fields">
	<label
		>Where the plane is
		<select value={setup.plane} onchange={(event) => plane(event.currentTarget.value)}>
			<option value="feedpoint">at the feedpoint</option>
			<option value="line_end">at the radio end of the line</option>
			<option value="bench">on the bench</option>
			<option value="matched">at the coax, with the match in place</option>
		</select></label
	>
	{#if line}
		<label
			>The line
			<select
				value={line.cable}
				onchange={(event) =>
					onchange({ ...setup, line: { ...line, cable: event.currentTarget.value } })}
			>
				{#each cables as cable (cable.key)}<option value={cable.key}>{cable.name}</option>{/each}
			</select></label
		>
		<QuantityField
			label="Its length"
			kind="length"
			shown={length(line.length_m, units.length)}
			width={9}
			onsettle={(length_m) => onchange({ ...setup, line: { ...line, length_m } })}
		/>
	{/if}
	{#each asked as [key, label, hint] (key)}
		<TextField
			{label}
			shown={setup.conditions?.[key] ?? ''}
			placeholder={hint}
			onsettle={(text) => onchange({ ...setup, conditions: { ...setup.conditions, [key]: text } })}
		/>
	{/each}
</div>

<style>
	.fields {
		display: grid;
		gap: 6px;
		margin-top: 6px;
		font-size: var(--size-13);
	}
	label {
		display: grid;
		gap: 2px;
		color: var(--soft);
	}
</style>
