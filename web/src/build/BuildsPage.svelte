<!-- @component
	The shelf: each build with its stage, its verdict and its next step; and a new one from a dropped file.
-->
<script lang="ts">
	import { answer, api, type Build, problemText, type Sweep } from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { router } from '../lib/router/router.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import BuildCard from './BuildCard.svelte';
	import DropZone from '../sweep/DropZone.svelte';
	import LazyPage from '../lib/shell/LazyPage.svelte';
	import NewWire from './NewWire.svelte';

	let problem = $state<string | null>(null);
	let planning = $state(false);
	let binned = $state.raw<Build | null>(null);
	/** Several sweeps that came at once, until it is said whether they belong together. */
	let several = $state.raw<Sweep[] | null>(null);

	async function tryTo(act: () => Promise<unknown>): Promise<void> {
		try {
			await act();
			problem = null;
		} catch (why) {
			problem = problemText(why);
		}
	}

	const shelf = new Latest(() => answer(api.GET('/api/builds')));
	const builds = $derived(shelf.value);
	const load = () => shelf.ask(null);
	void tryTo(load);

	const nameOf = (sweep: Sweep) =>
		sweep.name
			.replace(/\.[^.]*$/, '')
			.replace(/[_-]+/g, ' ')
			.trim() || 'New build';

	const make = (sweep: Sweep, more: Sweep[] = []) =>
		answer(
			api.POST('/api/builds', {
				body: { name: nameOf(sweep), sweep_id: sweep.id, more_sweep_ids: more.map((s) => s.id) }
			})
		);

	async function begin(sweeps: Sweep[]): Promise<void> {
		const first = sweeps[0];
		if (!first) return;
		if (sweeps.length > 1) {
			several = sweeps;
			return;
		}
		const build = await make(first);
		router.go(`/builds/${build.id}/sweep`);
	}

	/** One build with all of them; what is matched is one that carries R and X. */
	async function together(sweeps: Sweep[]): Promise<void> {
		const first = sweeps.find((s) => s.carries === 'impedance') ?? sweeps[0];
		if (!first) return;
		const build = await make(
			first,
			sweeps.filter((s) => s !== first)
		);
		router.go(`/builds/${build.id}/sweep`);
	}

	async function apart(sweeps: Sweep[]): Promise<void> {
		for (const sweep of sweeps) await make(sweep);
		several = null;
		await load();
	}

	async function duplicate(build: Build): Promise<void> {
		await answer(
			api.POST('/api/builds/{build_id}/duplicate', {
				params: { path: { build_id: build.id } },
				body: { name: `${build.name} (copy)`.slice(0, 120) }
			})
		);
		await load();
	}

	async function layIn(): Promise<void> {
		await answer(api.POST('/api/demo'));
		await load();
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
<main class="page">
	<h1>Builds</h1>
	{#if problem}
		<Note kind="danger">{problem}</Note>
	{/if}
	{#if builds}
		<DropZone title="Drop the sweep of a wire here" onsweeps={begin} large={builds.length === 0} />
		<p class="row">
			<button class="button" onclick={() => (planning = true)}>Plan a new wire</button>
			<a class="button" href="/choose">Which antenna for this place</a>
			<span class="soft">nothing hung yet: choose, cut, trim</span>
		</p>
		{#if several}
			{@const sweeps = several}
			<Note kind="news" title="{sweeps.length} sweeps were read.">
				<button class="button main" onclick={() => tryTo(() => together(sweeps))}
					>One build with all of them</button
				>
				<button class="button" onclick={() => tryTo(() => apart(sweeps))}>A build each</button>
			</Note>
		{/if}
		{#if binned}
			{@const gone = binned}
			<Note kind="news">
				“{gone.name}” is in the bin.
				<button class="button" onclick={() => tryTo(() => restore(gone))}>Take it back</button>
				<a href="/bin">The bin</a>
			</Note>
		{/if}
		{#if builds.length === 0}
			<p class="first">
				Nothing on the shelf yet. Sweep the wire you have, unmatched, at its feedpoint, and drop the
				file above: the next page reads it to you. Or look at five example builds first:
				<button class="button" onclick={() => tryTo(layIn)}>Open the demo builds</button> Or sweep
				one with an <a href="/analyser">analyser, a simulated one if you have none</a>.
			</p>
		{/if}
		<ul>
			{#each builds as build (build.id)}
				<li>
					<BuildCard
						{build}
						onbin={() => tryTo(() => bin(build))}
						onduplicate={() => tryTo(() => duplicate(build))}
					/>
				</li>
			{/each}
		</ul>
		<LazyPage
			page={() => import('../log/ArchivePanel.svelte')}
			given={{ buildId: null, ontaken: () => void tryTo(load) }}
		/>
	{:else if !problem}
		<p class="first">Looking at the shelf…</p>
	{/if}
</main>
{#if planning}
	<NewWire
		onbuild={(build) => router.go(`/builds/${build.id}/wire`)}
		onclose={() => (planning = false)}
	/>
{/if}

<style>
	.first {
		color: var(--soft);
		max-width: 60ch;
	}
</style>
