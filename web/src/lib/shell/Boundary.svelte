<!-- @component
	What it holds may fail while it is drawn: then that is said, with what stood in the fields and a way on.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	import { settling } from '../controls/settling.svelte';
	import Note from './Note.svelte';

	let { children }: { children: Snippet } = $props();

	const first = (why: unknown) => (why instanceof Error ? why.message : String(why)).slice(0, 120);
</script>

<svelte:boundary onerror={(why) => console.error(why)}>
	{@render children()}
	{#snippet failed(why, reset)}
		{@const typed = settling.lost}
		<Note kind="danger" title="This page met something that it cannot draw.">
			What was saved is safe, and so is everything on the other pages.
			{#if typed.length > 0}
				What you had typed and not yet sent:
				<ul>
					{#each typed as { label, text }, i (i)}<li>{label}: <strong>{text}</strong></li>{/each}
				</ul>
			{/if}
			<p>
				<button class="button main" data-free onclick={reset}>Draw it again</button>
				<button class="button" data-free onclick={() => location.reload()}
					>Load the page anew</button
				>
				<a href="/">To the shelf</a>
			</p>
			<small>For whoever mends it: {first(why)}</small>
		</Note>
	{/snippet}
</svelte:boundary>
