<!-- @component
	A value typed as people write it. Enter or leaving the field settles it; what is not understood stays, with why.
-->
<script lang="ts">
	import { onMount } from 'svelte';

	import { answer, api, Refused, type Schemas } from '../api/client';
	import { length } from '../units/format';
	import { units } from '../units/units.svelte';
	import { settling } from './settling.svelte';

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

	const id = `field-${Math.random().toString(36).slice(2)}`;
	let typed = $state<string | null>(null);
	let problem = $state<string | null>(null);
	let beware = $state<string | null>(null);
	/** What was most likely meant, offered in one press. */
	let meant = $state<string | null>(null);

	let field = $state<HTMLElement>();
	/** The settling that is under way, of which text, and the how manyth it is: the newest counts. */
	let taking: Promise<void> | null = null;
	let asked: string | null = null;
	let newest = 0;

	onMount(() =>
		settling.join({
			label,
			element: () => field,
			typed: () => (typed === shown ? null : typed),
			settle,
			drop
		})
	);

	function drop(): void {
		typed = problem = meant = null;
	}

	function settle(): Promise<void> {
		if (typed === null || typed === shown) {
			typed = problem = null;
			return Promise.resolve();
		}
		if (taking && asked === typed) return taking;
		asked = typed;
		const mine = ++newest;
		const under_way = taken(typed, mine).finally(() => {
			if (mine === newest) taking = asked = null;
		});
		taking = under_way;
		return under_way;
	}

	async function taken(text: string, mine: number): Promise<void> {
		try {
			const { value, not_m } = await answer(
				api.POST('/api/quantities', { body: { text, kind, length_unit: units.length } })
			);
			// Typed on meanwhile: that counts.
			if (mine !== newest) return;
			await onsettle(value);
			// Decimals of a foot are no inches: the usual slip.
			beware =
				not_m === null
					? null
					: `${text.trim()}: that is ${length(value, 'ft')}, not ${length(not_m, 'ft')}.`;
			problem = null;
			if (typed === text) typed = null;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			if (mine !== newest) return;
			problem = why.message;
			meant = why.problem.suggested ?? null;
		}
	}

	function take(text: string): void {
		typed = text;
		meant = null;
		void settle();
	}

	/** Enter takes the value; in a form it goes on to the next field that is empty, and after the last sends it. */
	async function entered(
		event: KeyboardEvent & { currentTarget: HTMLInputElement }
	): Promise<void> {
		const { currentTarget: input } = event;
		if (!input.form) return settle();
		event.preventDefault();
		await settle();
		if (typed !== null) return;
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
		style:width="{width}ch"
		value={typed ?? shown}
		aria-invalid={problem !== null}
		aria-describedby={problem ? `${id}-problem` : undefined}
		autocomplete="off"
		spellcheck="false"
		data-quantity
		oninput={(event) => (typed = event.currentTarget.value)}
		onblur={settle}
		onkeydown={(event) => {
			if (event.key === 'Enter') void entered(event);
			if (event.key === 'Escape') drop();
		}}
	/>
	{#if beware && !problem}<span class="beware" role="status">{beware}</span>{/if}
	{#if problem}<span class="problem" id="{id}-problem" role="alert">{problem}</span>{/if}
	{#if problem && meant}<button type="button" class="button" onclick={() => take(meant ?? '')}
			>I meant {meant}</button
		>{/if}
</span>

<style>
	.field {
		display: inline-flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 6px;
		font-size: var(--size-13);
	}
	label {
		color: var(--soft);
	}
	input {
		background: var(--sheet);
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		padding: 4px 8px;
		font-size: var(--size-13);
		box-sizing: content-box;
	}
	input[aria-invalid='true'] {
		border-color: var(--enamel);
		border-width: 2px;
	}
	.beware {
		flex-basis: 100%;
		color: var(--soft);
		font-size: var(--size-12);
	}
	.problem {
		flex-basis: 100%;
		color: var(--enamel);
		font-size: var(--size-12);
	}
</style>
