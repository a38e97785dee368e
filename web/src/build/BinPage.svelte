<!-- @component
	The bin: what was put away, entries of logs that were taken back among it, each with a way back.
-->
<script lang="ts">
	import { answer, api, type Binned, problemText } from '../lib/api/client';
	import { units } from '../lib/units/units.svelte';
	import { entryText } from '../trim/words';
	import { Latest } from '../lib/api/latest.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';

	let refused = $state<string | null>(null);
	let news = $state<string | null>(null);

	const bin = new Latest(() => answer(api.GET('/api/bin')));
	const things = $derived(bin.value);
	const problem = $derived(refused ?? bin.problem);
	bin.show(null);

	const ways = {
		build: (id: string) =>
			answer(api.POST('/api/builds/{build_id}/restore', { params: { path: { build_id: id } } })),
		sweep: (id: string) =>
			answer(api.POST('/api/sweeps/{sweep_id}/restore', { params: { path: { sweep_id: id } } })),
		design: (id: string) =>
			answer(api.POST('/api/designs/{design_id}/restore', { params: { path: { design_id: id } } })),
		piece: (id: string) =>
			answer(api.POST('/api/pieces/{piece_id}/restore', { params: { path: { piece_id: id } } })),
		photograph: (id: string) =>
			answer(
				api.POST('/api/photographs/{photograph_id}/restore', {
					params: { path: { photograph_id: id } }
				})
			),
		entry: (id: string) =>
			answer(api.POST('/api/entries/{entry_id}/restore', { params: { path: { entry_id: id } } }))
	};

	const nameOf = (thing: Binned) =>
		thing.entry ? entryText(thing.entry, units.length) : thing.name;
	const kindOf = (thing: Binned) => (thing.entry ? 'entry of the log' : thing.kind);

	async function restore(thing: Binned): Promise<void> {
		try {
			await ways[thing.kind](thing.id);
			news = `“${nameOf(thing)}” is back.`;
			refused = null;
			await bin.ask(null);
		} catch (why) {
			refused = problemText(why);
		}
	}
	const when = (text: string) =>
		new Date(text).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
</script>

<svelte:head><title>Bin · Yielding Coil</title></svelte:head>

<Header />
<main class="page">
	<h1>Bin</h1>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if news}<Note kind="news">{news} <a href="/">To the shelf</a></Note>{/if}
	{#if things?.length === 0}
		<p class="soft">
			Nothing in here. What you put in the bin waits here until you take it back; nothing is thrown
			away.
		</p>
	{:else if things}
		<ul>
			{#each things as thing (thing.id)}
				<li class="sheet row">
					<span class="words">
						<strong>{nameOf(thing)}</strong>
						<span class="soft"
							>{kindOf(thing)}{thing.build ? ` of ${thing.build}` : ''}, put here {when(
								thing.binned_at
							)}</span
						>
					</span>
					<button
						class="button"
						aria-label="Take {nameOf(thing)} back"
						onclick={() => restore(thing)}>Take it back</button
					>
				</li>
			{/each}
		</ul>
	{:else if !problem}
		<p class="soft">Looking…</p>
	{/if}
</main>

<style>
	.words {
		flex: 1 1 240px;
	}
	.words .soft {
		display: block;
		font-size: var(--size-13);
	}
</style>
