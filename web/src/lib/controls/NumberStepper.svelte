<!-- @component
	A whole number with one step less and more beside it.
-->
<script lang="ts">
	import { onMount } from 'svelte';

	import { refused } from '../api/client';
	import { Typed } from './typed.svelte';

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
	let field = $state<HTMLElement>();
	const typed = new Typed(
		() => String(value),
		(text) => {
			const number = Number(text.replace(',', '.'));
			if (text.trim() === '' || !Number.isInteger(number) || number < least || number > most) {
				throw refused(`“${text}” is no whole number from ${least} to ${most}; ${value} stands.`);
			}
			if (number !== value) onchange(number);
		}
	);
	onMount(() => typed.join(label, () => field));

	function step(to: number): void {
		typed.drop();
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
		value={typed.text ?? value}
		aria-invalid={typed.problem !== null}
		aria-describedby={typed.problem === null ? undefined : id}
		oninput={(event) => (typed.text = event.currentTarget.value)}
		onblur={() => typed.settle()}
		onkeydown={(event) => {
			if (event.key === 'Enter') void typed.settle();
			if (event.key === 'Escape') typed.drop();
		}}
	/>
	<button
		class="button"
		aria-label="{label}: one more"
		disabled={value >= most}
		onclick={() => step(value + 1)}>+</button
	>
	{#if typed.problem !== null}<span class="problem" {id} role="alert">{typed.problem}</span>{/if}
</span>

<style>
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
