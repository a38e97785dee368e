<!-- @component
	A name that can be changed: shown as a heading, and typed over when its button is pressed.
-->
<script lang="ts">
	import { onMount } from 'svelte';

	import { problemText } from '../api/client';
	import { settling } from './settling.svelte';

	interface Props {
		/** What is named, as in "build". */
		what: string;
		name: string;
		/** Keeps another name. Throws `Refused` where it cannot. */
		onrename: (name: string) => Promise<void>;
		/** Level of the heading; 1 when left out. */
		level?: 1 | 3;
	}

	let { what, name, onrename, level = 1 }: Props = $props();

	let typed = $state<string | null>(null);
	let problem = $state<string | null>(null);

	let field = $state<HTMLElement>();
	/** The renaming that is under way. */
	let taking: Promise<void> | null = null;

	onMount(() =>
		settling.join({
			label: `name of the ${what}`,
			element: () => field,
			typed: () => (typed === null || typed.trim() === '' || typed.trim() === name ? null : typed),
			settle,
			drop
		})
	);

	function drop(): void {
		typed = problem = null;
	}

	function settle(): Promise<void> {
		taking ??= taken().finally(() => (taking = null));
		return taking;
	}

	async function taken(): Promise<void> {
		const text = typed?.trim();
		if (!text || text === name) return drop();
		try {
			await onrename(text);
			drop();
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

{#if typed === null}
	<span class="shown">
		<svelte:element this={`h${level}`}>{name}</svelte:element>
		<button class="plain" aria-label="Rename the {what}" onclick={() => (typed = name)}
			>rename</button
		>
	</span>
{:else}
	<span class="shown" bind:this={field}>
		<!-- svelte-ignore a11y_autofocus (asked for with the button just pressed) -->
		<input
			autofocus
			maxlength="120"
			aria-label="Name of the {what}"
			bind:value={typed}
			onblur={settle}
			onkeydown={(event) => {
				if (event.key === 'Enter') void settle();
				if (event.key === 'Escape') {
					event.stopPropagation();
					drop();
				}
			}}
		/>
		{#if problem}<span class="problem" role="alert">{problem}</span>{/if}
	</span>
{/if}

<style>
	.shown {
		display: inline-flex;
		align-items: baseline;
		flex-wrap: wrap;
		gap: 6px;
		min-width: 0;
	}
	h1 {
		font-size: var(--size-17);
		font-weight: 400;
		color: var(--soft);
		overflow-wrap: anywhere;
	}
	h3 {
		font-size: var(--size-14);
		overflow-wrap: anywhere;
	}
	input {
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		padding: 3px 8px;
	}
</style>
