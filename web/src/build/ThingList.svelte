<!-- @component
	What to take: how much of each thing, what it is, and whether it lies in the drawer or is to be bought.
-->
<script lang="ts">
	import { units } from '../lib/units/units.svelte';
	import { sourceText, type Thing, thingText } from './sheetWords';

	let { things }: { things: Thing[] } = $props();

	/** Whether it must be said what a thing is for. */
	const several = $derived(new Set(things.map((t) => t.part).filter(Boolean)).size > 1);
</script>

<ul>
	{#each things as thing, i (i)}
		{@const { much, what } = thingText(thing, units.length)}
		<li>
			<span class="what"
				>{#if much}<b class="mono">{much}</b>{/if}
				{what}{#if several && thing.part && thing.part !== 'line'}<span class="soft"
						>, {thing.part}</span
					>{/if}</span
			>
			<span class="from" class:buy={thing.source === 'buy' || thing.source === 'too_few'}
				>{sourceText(thing)}</span
			>
		</li>
	{/each}
</ul>

<style>
	ul {
		list-style: none;
		padding: 0;
		margin: 0;
	}
	li {
		display: flex;
		justify-content: space-between;
		gap: 10px;
		padding: 3px 0;
		border-bottom: 1px solid var(--line);
		font-size: var(--size-13);
	}
	.from {
		color: var(--soft);
		text-align: right;
		max-width: 45%;
		min-width: 4em;
	}
	.buy {
		color: var(--copper-ink);
	}
	@media print {
		li {
			padding: 1px 0;
		}
		.buy {
			color: #000;
		}
	}
</style>
