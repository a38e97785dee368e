<!-- @component
	What was told here and is not in the log yet: still to be sent, or not taken and why.
-->
<script lang="ts">
	import { atHome } from '../lib/api/client';
	import { outbox } from '../lib/api/outbox.svelte';
	import { units } from '../lib/units/units.svelte';
	import type { Trimming } from './trimming.svelte';
	import { toldText } from './words';

	let { work }: { work: Trimming } = $props();

	const bands = $derived(work.view?.links.map((l) => l.label) ?? []);
	const unsent = $derived(work.waiting.filter((told) => !told.refused));
	const refused = $derived(work.waiting.filter((told) => told.refused));
	const last = $derived(unsent.at(-1));
	const text = (told: (typeof unsent)[number]) => toldText(told.body, units.length, bands);
</script>

{#if unsent.length > 0}
	<section class="sheet">
		<h2 class="eyebrow">
			{atHome ? 'Not in the log yet' : 'On this phone, not sent yet'}: {unsent.length}
		</h2>
		<ol>
			{#each unsent as told (told.id)}<li>{text(told)}</li>{/each}
		</ol>
		<p class="soft">
			{outbox.forgetful
				? 'This browser keeps nothing: leave the page open until it is sent.'
				: 'Kept here and sent once, in this order, when the computer is reached again.'}
		</p>
		{#if last}
			<button class="button" onclick={() => void outbox.takeBack(last.id)}
				>Undo: {text(last).replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase())}</button
			>
		{/if}
	</section>
{/if}
{#if refused.length > 0}
	<section class="sheet refused" role="alert">
		<h2 class="eyebrow">Not taken into the log</h2>
		{#each refused as told (told.id)}
			<p><strong>{text(told)}</strong>: {told.refused}</p>
			<div class="row">
				<button class="button" onclick={() => void outbox.again(told.id)}>Send it again</button>
				<button class="button" onclick={() => void outbox.takeBack(told.id)}>Let it go</button>
			</div>
		{/each}
	</section>
{/if}

<style>
	section {
		display: grid;
		gap: 8px;
		justify-items: start;
	}
	.refused {
		border-left: 4px solid var(--enamel);
	}
	ol {
		padding-left: 1.4em;
		margin: 0;
	}
	p {
		margin: 0;
	}
</style>
