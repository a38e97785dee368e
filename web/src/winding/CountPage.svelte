<!-- @component
	Count with me: one large figure, one tap or key a turn, and where tap and crossing come.
-->
<script lang="ts">
	import { onMount, untrack } from 'svelte';

	import { answer, api, problemText } from '../lib/api/client';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { turns as turnsText } from '../lib/units/format';
	import { view } from '../lib/shell/view.svelte';
	import { report } from './report';
	import RingPicture from './RingPicture.svelte';
	import { countText, windables, type Winding } from './wound';

	let { buildId }: { buildId: string } = $props();

	const query = router.place.query;
	const designId = query.get('design') ?? '';
	const piece = query.get('piece') ?? '';
	let winding = $state.raw<Winding | null>(null);
	let name = $state('');
	let problem = $state<string | null>(null);
	let count = $state(untrack(() => Math.max(0, Number(query.get('turn')) || 0)));

	async function load(): Promise<void> {
		try {
			const design = await answer(
				api.GET('/api/designs/{design_id}', { params: { path: { design_id: designId } } })
			);
			const content = design.revision.content;
			const key =
				windables(content).find((e) => e.key === piece)?.key ?? windables(content)[0]?.key;
			name = design.name;
			winding = await report({ content, key: key ?? '', power_w: 100 });
			count = Math.min(count, last);
		} catch (why) {
			problem = problemText(why);
		}
	}
	void load();
	// This page lies beside busy hands: large and plain, whatever the others look like.
	onMount(() => {
		document.documentElement.dataset.theme = 'outdoors';
		return () => view.apply();
	});

	const last = $derived(winding ? Math.ceil(winding.turns.passes) : 0);
	const words = $derived(winding ? countText(winding, count) : { now: '', next: '' });

	function step(by: number): void {
		count = Math.min(last, Math.max(0, count + by));
		router.note({ turn: String(count) });
	}
	function keyed(event: KeyboardEvent): void {
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		const onButton = (event.target as HTMLElement).closest('button, a');
		if (['ArrowRight', 'ArrowUp', '+'].includes(event.key) || (event.key === ' ' && !onButton)) {
			event.preventDefault();
			step(1);
		} else if (['ArrowLeft', 'ArrowDown', 'Backspace', '-'].includes(event.key)) {
			event.preventDefault();
			step(-1);
		}
	}
</script>

<svelte:head><title>Counting · {name || 'Winding'} · Yielding Coil</title></svelte:head>
<svelte:window onkeydown={keyed} />

<header>
	<a class="button" href="/builds/{buildId}/wind?design={designId}&piece={piece}"
		>‹ Back to the desk</a
	>
	<span>{name}</span>
</header>
<main>
	{#if problem}
		<Note kind="danger">{problem}. <a href="/builds/{buildId}/wind">To the winding desk</a></Note>
	{:else if winding}
		<h1 class="unseen">Counting turns</h1>
		<p class="count" aria-live="assertive">
			<span class="mono big">{count}</span>
			<span class="of">of {turnsText(winding.turns.passes)} turns</span>
		</p>
		<p class="now">{words.now}</p>
		{#if words.next}<p class="next" role="status">{words.next}</p>{/if}
		{#if winding.picture.kind === 'ring'}
			<div class="picture"><RingPicture {winding} size={330} made={count} /></div>
		{/if}
		<div class="act">
			<button class="button back" disabled={count === 0} onclick={() => step(-1)}>One back</button>
			<button class="button main" disabled={count === last} onclick={() => step(1)}
				>{count === last ? 'Done' : 'One more turn'}</button
			>
		</div>
		<p class="told">
			{#if winding.picture.kind === 'ring'}One pass from the front through the hole is one turn.{/if}
			Space or → counts on, ← takes one back.
		</p>
	{:else}
		<p>Looking…</p>
	{/if}
</main>

<style>
	header {
		display: flex;
		align-items: center;
		gap: 12px;
		padding: 10px 14px 0;
		font-weight: 600;
	}
	main {
		max-width: 560px;
		margin: 0 auto;
		padding: 6px 14px 20px;
		display: grid;
		gap: 8px;
		justify-items: center;
		text-align: center;
	}
	.big {
		font-size: 6.6rem;
		font-weight: 700;
		line-height: 1;
	}
	.of {
		font-size: var(--size-17);
	}
	.now {
		min-height: 1.4em;
	}
	.next {
		background: var(--tape-wash);
		border-left: 6px solid var(--tape);
		padding: 8px 12px;
		font-weight: 700;
		text-align: left;
	}
	.picture {
		max-width: 100%;
	}
	.act {
		width: 100%;
		display: grid;
		grid-template-columns: 1fr 2fr;
		gap: 10px;
		position: sticky;
		bottom: 8px;
	}
	.act .button {
		min-height: 72px;
		font-size: var(--size-17);
		justify-content: center;
	}
</style>
