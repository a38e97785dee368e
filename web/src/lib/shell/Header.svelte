<!-- @component
	Top line: where one is, quick-find, and how things are shown.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	import { units } from '../units/units.svelte';
	import { panels } from './panels.svelte';
	import { themes, view } from './view.svelte';

	interface Props {
		/** Name of the build; none on the shelf. */
		title?: string | Snippet;
		/** What stands at the right, before the switches. */
		tools?: Snippet;
	}

	let { title, tools }: Props = $props();

	let menu = $state<HTMLDetailsElement>();
	/** On a phone the tools open below the one row of the header. */
	let open = $state(false);

	function leave(event: Event): void {
		if (menu?.open && !menu.contains(event.target as Node)) menu.open = false;
	}
</script>

<svelte:window
	onpointerdown={leave}
	onkeydown={(event) => {
		if (event.key === 'Escape' && menu?.open) {
			menu.open = false;
			menu.querySelector('summary')?.focus();
		}
	}}
/>

<header>
	<a class="home" href="/" aria-label="Yielding Coil: the shelf">
		<svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
			<g fill="none" stroke="currentColor" stroke-width="3" stroke-linecap="round">
				<path
					d="M4 26V14a4 6 0 0 1 8 0v12M10 26V14a4 6 0 0 1 8 0v12M16 26V14a4 6 0 0 1 8 0v12M24 14a4 6 0 0 1 4 3v9"
				/>
			</g>
		</svg>
		<strong>Yielding Coil</strong>
	</a>
	{#if typeof title === 'string'}<h1>{title}</h1>{:else}{@render title?.()}{/if}
	<span class="gap"></span>
	<button class="button more unprinted" aria-expanded={open} onclick={() => (open = !open)}
		>Menu</button
	>
	<span class="tools unprinted" class:open>
		{@render tools?.()}
		<a class="button" href="/drawer">Drawer</a>
		<a class="button" href="/analyser">Analyser</a>
		<button class="button" onclick={() => panels.open('find')}>Find</button>
		<details bind:this={menu}>
			<summary class="button">View</summary>
			<div class="menu sheet">
				<fieldset>
					<legend class="eyebrow">Lengths in</legend>
					{#each [['m', 'metres'], ['ft', 'feet']] as const as [unit, name] (unit)}
						<label
							><input
								type="radio"
								name="lengths"
								checked={units.length === unit}
								onchange={() => units.choose(unit)}
							/>
							{name}</label
						>
					{/each}
				</fieldset>
				<fieldset>
					<legend class="eyebrow">Light</legend>
					{#each themes as [theme, name] (theme)}
						<label
							><input
								type="radio"
								name="theme"
								checked={view.theme === theme}
								onchange={() => view.choose(theme)}
							/>
							{name}</label
						>
					{/each}
				</fieldset>
				<a href="/lines">Lines</a>
				<a href="/choose">Which antenna here</a>
				<a href="/any-length">A length that fits</a>
				<a href="/sums">Plain sums</a>
				<a href="/tuner">Tuner</a>
				<a href="/bands">Bands</a>
				<a href="/devices">Devices</a>
				<a href="/bin">Bin</a>
				<button
					class="plain"
					onclick={() => {
						if (menu) menu.open = false;
						panels.open('keys');
					}}>Keys (?)</button
				>
			</div>
		</details>
	</span>
</header>

<style>
	header,
	.tools {
		display: flex;
		align-items: center;
		flex-wrap: wrap;
		gap: 6px 14px;
	}
	.tools {
		gap: 6px 10px;
	}
	header {
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
	details {
		position: relative;
	}
	summary {
		list-style: none;
	}
	.menu {
		position: absolute;
		right: 0;
		top: calc(100% + 4px);
		z-index: 5;
		display: grid;
		gap: 10px;
		justify-items: start;
		min-width: 190px;
		border-color: var(--control-edge);
	}
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		display: grid;
		gap: 3px;
	}
	.more {
		display: none;
	}
	@media (max-width: 620px) {
		header {
			padding: 4px 12px;
			gap: 4px 8px;
		}
		header :global(.shown) {
			flex: 1 1 0;
			flex-wrap: nowrap;
		}
		header :global(.shown h1) {
			overflow: hidden;
			white-space: nowrap;
			text-overflow: ellipsis;
		}
		.home strong,
		.gap {
			display: none;
		}
		.more {
			display: inline-flex;
			margin-left: auto;
		}
		.tools {
			display: none;
			flex-basis: 100%;
			padding: 6px 0;
		}
		.tools.open {
			display: flex;
		}
		.menu {
			right: auto;
			left: 0;
		}
	}
</style>
