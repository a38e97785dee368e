<!-- @component
	Something to be told: a refusal, a caution, or word of what was kept.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		/** Red for refusals and danger, plain for news. */
		kind: 'danger' | 'news';
		/** First words, in bold. */
		title?: string;
		children: Snippet;
	}

	let { kind, title, children }: Props = $props();
</script>

<div class="note {kind}" role={kind === 'danger' ? 'alert' : 'status'}>
	{#if title}<strong>{title}</strong>{/if}
	{@render children()}
</div>

<style>
	.note {
		padding: 9px 14px;
		border-left: 4px solid var(--enamel);
		background: var(--caution);
		border-radius: 4px var(--radius) var(--radius) 4px;
		font-size: var(--size-13);
	}
	.news {
		border-left-color: var(--tape);
		background: var(--tape-wash);
	}
</style>
