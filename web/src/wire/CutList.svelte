<!-- @component
	What to cut, so that it can be printed and taken to the wire: measured to the mark, what stays over it, the whole.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';

	interface Props {
		cuts: Schemas['Cut'][];
		/** All of it, metres. */
		wireM: number;
	}

	let { cuts, wireM }: Props = $props();
</script>

<div class="list">
	<table>
		<thead>
			<tr>
				<th>Piece</th>
				<th>How many</th>
				<th>To the mark</th>
				<th>Over it</th>
				<th>Cut</th>
			</tr>
		</thead>
		<tbody>
			{#each cuts as cut, nth (nth)}
				<tr>
					<td>{cut.label}</td>
					<td class="mono">{cut.count}</td>
					<td class="mono">{length(cut.measure_m, units.length)}</td>
					<td class="mono">{length(cut.add_m, units.length)}</td>
					<td class="mono"><strong>{length(cut.cut_m, units.length)}</strong></td>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="soft told">
		In all {length(wireM, units.length)} of wire. What stays over the mark is for the insulator, for fixing,
		and to fold back: fold before you cut.
	</p>
</div>

<style>
	.list {
		overflow-x: auto;
	}
	table {
		border-collapse: collapse;
		width: 100%;
		font-size: var(--size-13);
	}
	th,
	td {
		text-align: left;
		padding: 4px 10px 4px 0;
		border-bottom: 1px solid var(--line);
	}
	.mono {
		white-space: nowrap;
	}
	th {
		color: var(--soft);
		font-weight: 600;
	}
	p {
		margin-top: 8px;
	}
</style>
