<!-- @component
	An act that waits for what was typed, or was kept from being done by it: said, and a way on.
-->
<script lang="ts">
	import { settling } from '../controls/settling.svelte';

	const SOON_MS = 300;

	let slow = $state(false);
	$effect(() => {
		slow = false;
		if (settling.waiting === null) return;
		const timer = setTimeout(() => (slow = true), SOON_MS);
		return () => clearTimeout(timer);
	});

	function keyed(event: KeyboardEvent): void {
		if (event.key === 'Escape' && (settling.waiting !== null || settling.refused))
			settling.cancel();
	}
</script>

<svelte:document onclickcapture={(event) => settling.pressed(event)} />
<svelte:window onkeydown={keyed} />

{#if settling.refused}
	{@const { label, typed } = settling.refused}
	<div class="held unprinted" role="alert" data-free>
		<p>
			Not done yet: “{typed}” in <strong>{label}</strong> was not taken. Correct it and press again.
		</p>
		<button class="button" onclick={() => void settling.without()}>Go on without it</button>
		<button class="plain" onclick={() => settling.cancel()}>Cancel</button>
	</div>
{:else if slow}
	<div class="held unprinted" role="status" data-free>
		<p>“{settling.waiting}” waits for what was typed …</p>
		<button class="plain" onclick={() => settling.cancel()}>Cancel</button>
	</div>
{/if}

<style>
	.held {
		position: fixed;
		z-index: 20;
		left: 50%;
		bottom: 16px;
		transform: translateX(-50%);
		max-width: min(560px, calc(100vw - 24px));
		box-sizing: border-box;
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px 12px;
		padding: 10px 14px;
		background: var(--sheet);
		border: 2px solid var(--copper);
		border-radius: 8px;
		font-size: var(--size-13);
	}
	p {
		flex: 1 1 220px;
		margin: 0;
	}
</style>
