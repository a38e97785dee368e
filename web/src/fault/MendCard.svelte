<!-- @component
	What it was, what to mind at mending, and the last sweep against the baseline.
-->
<script lang="ts">
	import { answer, api, problemText, type Schemas } from '../lib/api/client';
	import { units } from '../lib/units/units.svelte';
	import type { FaultBook } from './faultBook.svelte';
	import {
		actTitle,
		elementName,
		type Fault,
		faultName,
		leftText,
		mendText,
		place,
		type ActCode
	} from './faultWords';

	interface Props {
		fault: Fault;
		book: FaultBook;
	}

	let { fault, book }: Props = $props();

	let marked = $state(false);
	let told = $state.raw<Schemas['ToldOut'] | null>(null);
	let problem = $state<string | null>(null);
	let asking = $state(false);

	const top = $derived(fault.left[0]);
	const ended = $derived(fault.ended);

	async function tellMe(): Promise<void> {
		asking = true;
		problem = null;
		try {
			told = await answer(
				api.GET('/api/builds/{build_id}/fault/told', {
					params: { path: { build_id: book.buildId } }
				})
			);
		} catch (why) {
			problem = problemText(why);
		} finally {
			asking = false;
		}
	}
	const names = (keys: string[]) =>
		keys
			.map((key) => {
				const [code, of] = key.split(':');
				return actTitle(code as ActCode, of ?? '');
			})
			.join('; ') || 'the first sweep alone';
</script>

{#if ended}
	<section class="sheet verdict">
		<p class="eyebrow">
			{new Date(ended.happened_at).toLocaleDateString(undefined, {
				day: 'numeric',
				month: 'long',
				year: 'numeric'
			})}
		</p>
		{#if ended.data.given_up}
			<h2 class="do">Given up for now</h2>
			<p>What was tested stays in the log.</p>
		{:else}
			<h2 class="do">Mended: {elementName(ended.data.element ?? '')}</h2>
			{#if ended.again === 'still'}
				<p class="good">As the baseline again: nothing moved beyond the analyser’s own doubt.</p>
			{:else if ended.again === 'moved'}
				<p class="good">As the baseline again, as far as the bands go; something moved a little.</p>
			{:else if ended.again === 'matters'}
				<p class="bad">Not yet as the baseline: a band is still worse than it was.</p>
			{:else if !fault.begun.practice}
				<p>Sweep it again where the baseline was swept: the last proof.</p>
				<p><a class="button" href="/builds/{book.buildId}/sweep">Sweep it again</a></p>
			{/if}
		{/if}
		{#if fault.begun.practice}
			{#if told}
				<p>
					<strong>It really was: {elementName(told.element)}, {faultName(told.fault)}</strong
					>{told.at_m ? ` at ${place(told.at_m, units.length)}` : ''}.
				</p>
				<p>Your way: {names(told.own)}.</p>
				<p>
					The shortest way: {told.shortest ? names(told.shortest) : 'none of three tests or fewer'}.
				</p>
			{:else}
				<button class="button main" disabled={asking} onclick={tellMe}
					>{asking ? 'Every test is done once… ' : 'What was it really?'}</button
				>
			{/if}
		{/if}
		{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
	</section>
{:else if top && (fault.state === 'found' || fault.state === 'alike')}
	<section class="sheet verdict">
		<p class="eyebrow">{fault.state === 'found' ? 'Found' : 'Not told apart by any test'}</p>
		<h2 class="do">
			{#if fault.state === 'found'}{leftText(top, units.length)}{:else}{fault.left
					.slice(0, fault.alike)
					.map((l) => leftText(l, units.length))
					.join(' or ')}{/if}
		</h2>
		{#if top.at_m !== null && top.within_m !== null && fault.state === 'found'}
			<p class="figure">{place(top.at_m, units.length)}</p>
			<p>from the radio’s end, nine times in ten within {place(top.within_m, units.length)}.</p>
		{/if}
		<ul class="mend">
			{#each fault.mend as code (code)}<li>{mendText(code)}</li>{/each}
		</ul>
		{#if top.code === 'nothing'}
			<p>
				As good as it was, as far as these tests go. What comes and goes shows only while it is
				there: sweep it again when it is bad.
			</p>
		{:else}<label class="check"
				><input type="checkbox" bind:checked={marked} />Marked before anything was taken apart</label
			>
			<div class="row acts">
				<button
					class="button main"
					disabled={book.working}
					onclick={() =>
						book.tell({
							kind: 'fault_mended',
							element: top.key,
							fault: top.code,
							marked,
							given_up: false
						})}>{fault.begun.practice ? 'That is it' : 'Mended'}</button
				>
			</div>
		{/if}
		{#if book.problem}<p class="problem" role="alert">{book.problem}</p>{/if}
	</section>
{/if}

<style>
	.mend {
		margin: 6px 0;
		padding-left: 18px;
		font-size: var(--size-13);
		display: grid;
		gap: 3px;
	}
	.acts {
		margin-top: 8px;
	}
	.good {
		color: var(--verdigris);
		font-weight: 600;
	}
	.bad {
		color: var(--enamel);
		font-weight: 600;
	}
	@media (max-width: 520px) {
		.row .button {
			min-height: 72px;
			width: 100%;
			font-size: var(--size-17);
			font-weight: 700;
		}
	}
</style>
