<!-- @component
	The shelf: each build with its stage, its verdict and its next step; and a new one from a dropped file.
-->
<script lang="ts">
	import { answer, api, Refused, type Build, type Sweep } from '../lib/api/client';
	import { router } from '../lib/router/router.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import BuildCard from './BuildCard.svelte';
	import DropZone from './DropZone.svelte';

	let builds = $state.raw<Build[] | null>(null);
	let problem = $state<string | null>(null);
	let binned = $state.raw<Build | null>(null);

	async function load(): Promise<void> {
		try {
			builds = await answer(api.GET('/api/builds'));
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			problem = why.message;
		}
	}
	void load();

	async function begin(sweep: Sweep): Promise<void> {
		const name = sweep.name.replace(/\.[^.]*$/, '').replace(/[_-]+/g, ' ') || 'New build';
		const build = await answer(api.POST('/api/builds', { body: { name, sweep_id: sweep.id } }));
		router.go(`/builds/${build.id}/sweep`);
	}

	async function bin(build: Build): Promise<void> {
		await answer(
			api.DELETE('/api/builds/{build_id}', {
				params: { path: { build_id: build.id }, query: { revision: build.revision } }
			})
		);
		binned = build;
		await load();
	}

	async function restore(build: Build): Promise<void> {
		await answer(
			api.POST('/api/builds/{build_id}/restore', { params: { path: { build_id: build.id } } })
		);
		binned = null;
		await load();
	}
</script>

<svelte:head><title>Builds · Yielding Coil</title></svelte:head>

<Header />
<main>
	<h1>Builds</h1>
	{#if problem}
		<Note kind="danger">{problem}</Note>
	{/if}
	{#if builds}
		<DropZone onsweep={begin} large={builds.length === 0} />
		{#if binned}
			{@const gone = binned}
			<Note kind="news">
				“{gone.name}” is in the bin.
				<button class="button" onclick={() => restore(gone)}>Take it back</button>
			</Note>
		{/if}
		{#if builds.length === 0}
			<p class="first">
				Nothing on the shelf yet. Sweep the wire you have, unmatched, at its feedpoint, and drop the
				file above: the next page reads it to you. Or start with <code>./start --fresh-demo</code> to
				see an invented build first.
			</p>
		{/if}
		<ul>
			{#each builds as build (build.id)}
				<li><BuildCard {build} onbin={() => bin(build)} /></li>
			{/each}
		</ul>
	{:else if !problem}
		<p class="first">Looking at the shelf…</p>
	{/if}
</main>

<style>
	main {
		max-width: 1100px;
		margin: 0 auto;
		padding: 10px 18px 40px;
		display: grid;
		gap: 14px;
	}
	h1 {
		font-size: var(--size-24);
	}
	ul {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 14px;
	}
	.first {
		color: var(--soft);
		max-width: 60ch;
	}
</style>
