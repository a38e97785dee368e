<!-- @component
	Top line: where one is, and the switch between metres and feet.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	import { units } from '../units/units.svelte';

	interface Props {
		/** Name of the build; none on the shelf. */
		title?: string;
		/** What stands at the right, before the switch. */
		tools?: Snippet;
	}

	let { title, tools }: Props = $props();
</script>

<header>
	<a class="home" href="/">
		<svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
			<g fill="none" stroke="currentColor" stroke-width="3" stroke-linecap="round">
				<path
					d="M4 26V14a4 6 0 0 1 8 0v12M10 26V14a4 6 0 0 1 8 0v12M16 26V14a4 6 0 0 1 8 0v12M24 14a4 6 0 0 1 4 3v9"
				/>
			</g>
		</svg>
		<strong>Yielding Coil</strong>
	</a>
	{#if title}<h1>{title}</h1>{/if}
	<span class="gap"></span>
	{@render tools?.()}
	<span class="switch" role="radiogroup" aria-label="Lengths in">
		{#each [['m', 'metres'], ['ft', 'feet']] as const as [unit, name] (unit)}
			<button role="radio" aria-checked={units.length === unit} onclick={() => units.choose(unit)}
				>{name}</button
			>
		{/each}
	</span>
</header>

<style>
	header {
		display: flex;
		align-items: center;
		flex-wrap: wrap;
		gap: 6px 14px;
		padding: 8px 18px;
	}
	.home {
		display: flex;
		align-items: center;
		gap: 12px;
		color: var(--ink);
		text-decoration: none;
		font-size: var(--size-17);
	}
	.home svg {
		color: var(--copper);
	}
	h1 {
		font-size: var(--size-17);
		font-weight: 400;
		color: var(--soft);
	}
	.gap {
		flex: 1;
	}
	.switch {
		display: flex;
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		overflow: hidden;
	}
	.switch button {
		border: 0;
		background: none;
		padding: 4px 10px;
		font-size: var(--size-13);
		color: var(--soft);
		cursor: pointer;
	}
	.switch button[aria-checked='true'] {
		color: var(--ink);
		font-weight: 700;
		text-decoration: underline;
		text-underline-offset: 3px;
	}
	.switch button:focus-visible {
		outline-offset: -3px;
	}
</style>
