<!-- @component
	A line of text that is kept where it stands: Enter or leaving the field settles it; what is refused stays, with why.
-->
<script lang="ts">
	import { onMount } from 'svelte';

	import { refused } from '../api/client';
	import { Typed } from './typed.svelte';

	interface Props {
		/** Name for the eye. */
		label: string;
		/** Name for screen readers, where the eye's is too short. */
		name?: string;
		shown: string;
		/** Called with the text, spaces at its ends gone. May throw `Refused`, which is shown here. */
		onsettle: (text: string) => unknown;
		/** Why a text cannot be, or nothing. */
		refusal?: (text: string) => string | null;
		placeholder?: string;
		most?: number;
		/** A number of few digits. */
		few?: boolean;
	}

	let {
		label,
		name,
		shown,
		onsettle,
		refusal = () => null,
		placeholder,
		most = 120,
		few = false
	}: Props = $props();

	const id = `text-${Math.random().toString(36).slice(2)}`;
	let field = $state<HTMLElement>();
	const typed = new Typed(
		() => shown,
		async (text) => {
			const clean = text.trim();
			const why = refusal(clean);
			if (why) throw refused(why);
			if (clean !== shown) await onsettle(clean);
		}
	);
	onMount(() => typed.join(name ?? label, () => field));
</script>

<span class="field" bind:this={field}>
	<label for={id}>{label}</label>
	<input
		{id}
		class="written"
		class:few
		aria-label={name}
		value={typed.text ?? shown}
		{placeholder}
		maxlength={most}
		inputmode={few ? 'numeric' : undefined}
		autocomplete="off"
		aria-invalid={typed.problem !== null}
		aria-describedby={typed.problem ? `${id}-problem` : undefined}
		oninput={(event) => (typed.text = event.currentTarget.value)}
		onblur={() => typed.settle()}
		onkeydown={(event) => {
			if (event.key === 'Enter') {
				event.preventDefault();
				void typed.settle();
			}
			if (event.key === 'Escape') typed.drop();
		}}
	/>
	{#if typed.problem}<span class="problem" id="{id}-problem" role="alert">{typed.problem}</span
		>{/if}
</span>

<style>
	.few {
		width: 9ch;
	}
</style>
