<!-- @component
	What a sweep says of a planned antenna: in words, and number by number.
-->
<script lang="ts">
	import { units } from '../lib/units/units.svelte';
	import { fitHeadline, fitSentences, movedText, type WireFit } from './fitWords';

	interface Props {
		fit: WireFit;
	}

	let { fit }: Props = $props();
</script>

<p class="do" role="status">{fitHeadline(fit)}</p>
{#each fitSentences(fit) as sentence, i (i)}<p class="told">{sentence}</p>{/each}
{#if fit.values.length}
	<table>
		<thead
			><tr
				><th scope="col">what</th><th scope="col">planned</th><th scope="col">hangs, nine in ten</th
				></tr
			></thead
		>
		<tbody>
			{#each fit.values as value (value.name)}
				{@const text = movedText(value, units.length)}
				<tr class:open={fit.untold.includes(value.name)}>
					<th scope="row">{text.name}</th>
					<td class="mono">{text.planned}</td>
					<td class="mono"><strong>{text.found}</strong><br />{text.range}</td>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-12);
		margin: 6px 0;
	}
	th {
		text-align: left;
		font-weight: 400;
	}
	td,
	th {
		padding: 3px 6px 3px 0;
		vertical-align: top;
	}
	.open {
		color: var(--soft);
	}
</style>
