<!-- @component
	A value typed as people write it. Enter or leaving the field settles it; what is not understood stays, with why.
-->
<script lang="ts">
	import { onMount } from 'svelte';

	import { answer, api, atHome, isAway, Refused, type Schemas } from '../api/client';
	import { length } from '../units/format';
	import { units } from '../units/units.svelte';
	import { plain } from './plain.svelte';
	import { Typed } from './typed.svelte';

	interface Props {
		/** Name for the eye and for screen readers. */
		label: string;
		/** What the field holds. */
		kind: Schemas['QuantityIn']['kind'];
		/** The value as shown, with its unit. */
		shown: string;
		/** Called with the value in SI. May throw `Refused`, which is shown here. */
		onsettle: (value: number) => unknown;
		/** Label hidden from the eye; shown when left out. */
		quiet?: boolean;
		/** Width in characters; 9 when left out. */
		width?: number;
	}

	let { label, kind, shown, onsettle, quiet = false, width = 9 }: Props = $props();

	/** Longer than reading a text takes. */
	const PATIENCE_MS = 5000;
	const id = `field-${Math.random().toString(36).slice(2)}`;
	let beware = $state<string | null>(null);
	let field = $state<HTMLElement>();
	const typed = new Typed(
		() => shown,
		async (text, current) => {
			const { value, not_m } = await read(text);
			// Typed on meanwhile: that counts.
			if (!current()) return;
			await onsettle(value);
			// Decimals of a foot are no inches: the usual slip.
			beware =
				not_m === null
					? null
					: `${text.trim()}: that is ${length(value, 'ft')}, not ${length(not_m, 'ft')}.`;
		}
	);

	/** By the core's reader; while nothing is reached, what is plain is read here. */
	async function read(text: string): Promise<Schemas['QuantityRead']> {
		try {
			return await answer(
				api.POST('/api/quantities', {
					body: { text, kind, length_unit: units.length },
					// At the computer itself it answers, however busy it is.
					signal: atHome ? null : AbortSignal.timeout(PATIENCE_MS)
				})
			);
		} catch (why) {
			if (atHome || !(why instanceof Refused && isAway(why.problem))) throw why;
			const value = plain.read(text, kind);
			if (value === null) throw why;
			return { value, not_m: null };
		}
	}

	onMount(() => typed.join(label, () => field));

	function take(text: string): void {
		typed.text = text;
		typed.meant = null;
		void typed.settle();
	}

	/** Enter takes the value; in a form it goes on to the next field that is empty, and after the last sends it. */
	async function entered(
		event: KeyboardEvent & { currentTarget: HTMLInputElement }
	): Promise<void> {
		const { currentTarget: input } = event;
		if (!input.form) return typed.settle();
		event.preventDefault();
		await typed.settle();
		if (typed.text !== null) return;
		const all = [...input.form.querySelectorAll<HTMLInputElement>('input[data-quantity]')];
		const next = all.slice(all.indexOf(input) + 1).find((each) => each.value === '');
		if (next) next.focus();
		else input.form.requestSubmit();
	}
</script>

<span class="field" bind:this={field}>
	<label for={id} class={quiet ? 'unseen' : ''}>{label}</label>
	<input
		{id}
		class="mono"
		style:--digits={width}
		value={typed.text ?? shown}
		aria-invalid={typed.problem !== null}
		aria-describedby={typed.problem ? `${id}-problem` : undefined}
		autocomplete="off"
		spellcheck="false"
		data-quantity
		oninput={(event) => (typed.text = event.currentTarget.value)}
		onblur={() => typed.settle()}
		onkeydown={(event) => {
			if (event.key === 'Enter') void entered(event);
			if (event.key === 'Escape') typed.drop();
		}}
	/>
	{#if beware && !typed.problem}<span class="beware" role="status">{beware}</span>{/if}
	{#if typed.problem}<span class="problem" id="{id}-problem" role="alert">{typed.problem}</span
		>{/if}
	{#if typed.problem && typed.meant}<button
			type="button"
			class="button"
			onclick={() => take(typed.meant ?? '')}>I meant {typed.meant}</button
		>{/if}
</span>

<style>
	input {
		background: var(--sheet);
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		padding: 4px 8px;
		width: calc(var(--digits) * 1ch + 18px);
		max-width: 100%;
		font-size: var(--size-13);
		box-sizing: border-box;
	}
	.beware {
		flex-basis: 100%;
		color: var(--soft);
		font-size: var(--size-12);
	}
</style>
