<!-- @component
	Things side by side, a row a fact; what wins is marked, and not by colour alone.
-->
<script lang="ts">
	interface Props {
		/** What stands in the columns. */
		heads: string[];
		/** A name, and one text for each column; `wins` says in which column it is better, if in one. */
		rows: { name: string; cells: string[]; wins?: number | null }[];
	}

	let { heads, rows }: Props = $props();
</script>

<table>
	<thead>
		<tr
			><th></th>{#each heads as head, i (i)}<th>{head}</th>{/each}</tr
		>
	</thead>
	<tbody>
		{#each rows as row, nth (nth)}
			<tr>
				<th scope="row">{row.name}</th>
				{#each row.cells as cell, i (i)}<td class="mono" class:wins={row.wins === i}>{cell}</td
					>{/each}
			</tr>
		{/each}
	</tbody>
</table>

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		margin: 6px 0;
		font-size: var(--size-12);
	}
	th {
		text-align: left;
		font-weight: 500;
		color: var(--soft);
	}
	td,
	thead th {
		text-align: right;
		padding: 1px 0 1px 6px;
	}
	.wins {
		color: var(--verdigris);
		font-weight: 700;
	}
	.wins::before {
		content: '✓ ';
	}
</style>
