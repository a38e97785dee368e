<!-- @component
	A whole number with one step less and more beside it.
-->
<script lang="ts">
	import { onMount } from 'svelte';

	import { settling } from './settling.svelte';

	interface Props {
		/** Name for the eye and for screen readers. */
		label: string;
		value: number;
		least?: number;
		most?: number;
		onchange: (value: number) => void;
	}

	let { label, value, least = 1, most = 200, onchange }: Props = $props();

	const id = `steps-${Math.random().toString(36).slice(2)}`;
	/** What was typed and is no such number: it stays, with why. */
	let refused = $state<string | null>(null);

	let field = $state<HTMLElement>();
	onMount(() =>
		settling.join({
			label,
			element: () => field,
			typed: () => refused,
			settle: () => Promise.resolve(),
			drop: () => (refused = null)
		})
	);

	function settle(typed: string): void {
		const number = Number(typed.replace(',', '.'));
		const fits =
			typed.trim() !== '' && Number.isInteger(number) && number >= least && number <= most;
		refused = fits ? null : typed;
		if (fits && number !== value) onchange(number);
	}
	function step(to: number): void {
		refused = null;
		onchange(to);
	}
</script>

<span class="steps" bind:this={field}>
	<span class="label">{label}</span>
	<button
		class="button"
		aria-label="{label}: one less"
		disabled={value <= least}
		onclick={() => step(value - 1)}>−</button
	>
	<input
		class="mono"
		aria-label={label}
		inputmode="numeric"
		value={refused ?? value}
		aria-invalid={refused !== null}
		aria-describedby={refused === null ? undefined : id}
		onchange={(event) => settle(event.currentTarget.value)}
		onkeydown={(event) => {
			if (event.key === 'Escape') refused = null;
		}}
	/>
	<button
		class="button"
		aria-label="{label}: one more"
		disabled={value >= most}
		onclick={() => step(value + 1)}>+</button
	>
	{#if refused !== null}
		<span class="problem" {id} role="alert"
			>“{refused}” is no whole number from {least} to {most}; {value} stands.</span
		>
	{/if}
</span>

<style>
	.problem {
		flex-basis: 100%;
		color: var(--enamel);
		font-size: var(--size-12);
	}
	input[aria-invalid='true'] {
		border-color: var(--enamel);
	}
	.steps {
		flex-wrap: wrap;
		display: inline-flex;
		align-items: center;
		gap: 4px;
		font-size: var(--size-13);
	}
	.label {
		color: var(--soft);
		margin-right: 2px;
	}
	input {
		width: 3.2ch;
		box-sizing: content-box;
		text-align: center;
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		padding: 3px 4px;
	}
	.button {
		padding: 3px 9px;
	}
</style>
