<!-- @component
	One step of a build: a box to tick, what to know while doing it, what may hurt, a note, and when it was done.
-->
<script lang="ts">
	import TextField from '../lib/controls/TextField.svelte';
	import { units } from '../lib/units/units.svelte';
	import { cautionText, type Step, stepText } from './sheetWords';
	import type { TickBook } from './tickBook.svelte';

	interface Props {
		step: Step;
		/** Its place in the order, from 1. */
		nth: number;
		book: TickBook;
		/** Whether it is the one to do now. */
		next: boolean;
	}

	let { step, nth, book, next }: Props = $props();

	const said = $derived(stepText(step, units.length));
	const tick = $derived(book.of(step.key));
	let noting = $state(false);
	const when = $derived(
		tick.at
			? new Date(tick.at).toLocaleString(undefined, {
					day: 'numeric',
					month: 'short',
					hour: '2-digit',
					minute: '2-digit'
				})
			: ''
	);

	function note(text: string): void {
		book.set(step.key, { note: text, over: tick.note });
		noting = false;
	}
</script>

<li class:next class:done={tick.done}>
	<label class="step">
		<input
			type="checkbox"
			checked={tick.done}
			aria-current={next ? 'step' : undefined}
			onchange={(event) => book.set(step.key, { done: event.currentTarget.checked })}
		/>
		<span>
			<b>{nth}. {said.title}</b>
			<span class="more">{said.more}</span>
		</span>
	</label>
	{#if !noting}
		<button
			class="plain note"
			aria-label="{tick.note ? 'Change the note' : 'Note'} at step {nth}"
			onclick={() => (noting = true)}>{tick.note ? 'change' : 'note'}</button
		>
	{/if}
	{#if step.cautions.length}
		<div class="hurts">
			{#each step.cautions as caution (caution.code)}<p>{cautionText(caution)}</p>{/each}
		</div>
	{/if}
	{#if when || (tick.note && !noting)}
		<p class="kept">
			{#if when}<span class="soft">{when}</span>{/if}
			{#if tick.note && !noting}<span>{tick.note}</span>{/if}
		</p>
	{/if}
	{#if noting}
		<div class="noting">
			<TextField
				label="Note"
				name="Note at step {nth}"
				shown={tick.note}
				most={500}
				onsettle={note}
			/>
			<button class="button" onclick={() => (noting = false)}>Close</button>
		</div>
	{/if}
</li>

<style>
	li {
		position: relative;
		padding: 6px 8px;
		border-left: 3px solid transparent;
		border-radius: 4px;
	}
	.next {
		border-left-color: var(--tape);
		background: var(--tape-wash);
	}
	.note {
		position: absolute;
		top: 5px;
		right: 6px;
	}
	.step {
		display: grid;
		padding-right: 52px;
		grid-template-columns: 22px minmax(0, 1fr);
		gap: 10px;
		align-items: start;
		cursor: pointer;
	}
	input {
		width: 19px;
		height: 19px;
		margin: 1px 0 0;
		accent-color: var(--verdigris);
	}
	.done b {
		font-weight: 400;
	}
	.more {
		display: block;
		color: var(--soft);
		font-size: var(--size-13);
	}
	.hurts,
	.kept,
	.noting {
		margin: 2px 0 0 32px;
		font-size: var(--size-13);
	}
	.hurts {
		color: var(--enamel);
	}
	.hurts p {
		margin: 0;
	}
	.kept {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 10px;
		align-items: baseline;
	}
	.noting {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: end;
	}
	@media (max-width: 620px) {
		.step {
			min-height: 44px;
		}
		input {
			width: 24px;
			height: 24px;
		}
	}
	@media print {
		.step {
			padding-right: 0;
		}
		li {
			padding: 1px 0;
			break-inside: avoid;
		}
		.next {
			background: none;
			border-left-color: transparent;
		}
		.hurts {
			color: #000;
			font-style: italic;
			margin-left: 25px;
			font-size: var(--print);
			line-height: 1.2;
		}
		.hurts p {
			display: inline;
		}
		.hurts p::after {
			content: ' ';
		}
		.step {
			grid-template-columns: 15px minmax(0, 1fr);
		}
		input {
			width: 14px;
			height: 14px;
			min-height: 0;
		}
	}
</style>
