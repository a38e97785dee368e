<!-- @component
	A build: header, tape, and the desk of its stage. Build, designs and marker are shared by its desks.
-->
<script lang="ts">
	import { type Component, untrack } from 'svelte';

	import { answer, api, Refused, type Build } from '../lib/api/client';
	import { BuildState, giveBuild } from '../lib/build/buildState.svelte';
	import { server } from '../lib/api/server.svelte';
	import NameField from '../lib/controls/NameField.svelte';
	import { singleKey } from '../lib/shell/view.svelte';
	import { router } from '../lib/router/router.svelte';
	import Boundary from '../lib/shell/Boundary.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { stages, type Stage } from '../lib/shell/stages';
	import StageNav from '../lib/shell/StageNav.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import MatchDesk from '../matching/MatchDesk.svelte';
	import { isWound, parts } from '../design/content';
	import SweepDesk from '../sweep/SweepDesk.svelte';
	import LazyPage from '../lib/shell/LazyPage.svelte';
	import NoSweepYet from './NoSweepYet.svelte';

	interface Props {
		buildId: string;
		stage: Stage;
		/** The search for a fault, in place of the stage's desk. */
		fault?: boolean;
	}

	let { buildId, stage, fault = false }: Props = $props();

	/** Desks that are fetched when somebody goes there. */
	const desks: Partial<Record<Stage | 'fault', () => Promise<{ default: Component }>>> = {
		fault: () => import('../fault/FaultDesk.svelte'),
		wire: () => import('../wire/WireDesk.svelte'),
		trim: () => import('../trim/TrimDesk.svelte'),
		wind: () => import('../winding/WindDesk.svelte'),
		predict: () => import('../predict/PredictDesk.svelte'),
		build: () => import('./BuildDesk.svelte'),
		log: () => import('../log/LogDesk.svelte')
	};
	const desk = $derived(desks[fault ? 'fault' : stage]);
	// On its way while the build is: on a thin network one waits for both at once. What fails is told below.
	untrack(() => desk?.().catch(() => undefined));

	// svelte-ignore state_referenced_locally
	const page = giveBuild(new BuildState(buildId));
	const build = $derived(page.ready ? page.build : null);
	let problem = $state<string | null>(null);
	let inBin = $state(false);

	async function load(): Promise<void> {
		try {
			await page.load();
			problem = null;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			problem = why.message;
			inBin = why.problem.in_bin ?? false;
			if (server.gone) await server.back().then(load);
		}
	}
	void load();

	async function restore(): Promise<void> {
		await answer(
			api.POST('/api/builds/{build_id}/restore', { params: { path: { build_id: buildId } } })
		);
		problem = null;
		await load();
	}

	const contents = $derived(page.designs.map((d) => d.revision.content));
	const done = $derived<Stage[]>(
		build
			? [
					...(build.wire ? (['wire'] as Stage[]) : []),
					...(build.sweeps.length > 0 ? (['sweep'] as Stage[]) : []),
					...(contents.some((c) => parts(c).length > 0) ? (['match'] as Stage[]) : []),
					...(contents.some((c) => c.elements.some(isWound) || (c.beside ?? []).length > 0)
						? (['wind'] as Stage[])
						: [])
				]
			: []
	);
	/** There is something to match: a sweep, a wire as modelled, or a design made for one. */
	const matched = $derived(
		Boolean(build?.baseline_sweep_id || build?.wire?.antenna) || page.designs.length > 0
	);
	const stageName = $derived(fault ? 'Fault' : (stages.find((s) => s.key === stage)?.name ?? ''));

	function numbered(event: KeyboardEvent): void {
		if (!singleKey(event)) return;
		const to = stages[Number(event.key) - 1];
		if (to?.desk) router.go(`/builds/${buildId}/${to.key}`);
	}
</script>

<svelte:head><title>{stageName} · {build?.name ?? 'Build'} · Yielding Coil</title></svelte:head>
<svelte:window onkeydown={numbered} />

<!-- The build sheet has a head of its own on paper. -->
<div class:unprinted={stage === 'build'}>
	<Header>
		{#snippet title()}
			{#if build}
				<NameField what="build" name={build.name} onrename={(name) => page.change({ name })} />
			{/if}
		{/snippet}
		{#snippet tools()}
			{#if build}
				{@const present = build}
				<QuantityField
					label="Power"
					quiet
					kind="power"
					shown="{Number(present.power_w.toFixed(1))} W"
					width={6}
					onsettle={(power_w) => page.change({ power_w })}
				/>
				<select
					aria-label="Mode"
					value={present.mode}
					onchange={(event) => page.change({ mode: event.currentTarget.value as Build['mode'] })}
				>
					<option value="speech">speech</option>
					<option value="telegraphy">telegraphy</option>
					<option value="digital">digital, constant carrier</option>
				</select>
			{/if}
		{/snippet}
	</Header>
</div>
<StageNav {buildId} {stage} {done} />
<main>
	{#if problem}
		<Note kind="danger" title="This build cannot be shown.">
			{problem}.
			{#if inBin}<button class="button" onclick={restore}>Take it out of the bin</button>{/if}
			<a href="/">To the shelf</a>
		</Note>
	{:else if build}
		{#key fault ? 'fault' : stage}
			<Boundary>
				{#if desk}
					<LazyPage page={desk} given={{}} />
				{:else if stage === 'match' ? !matched : build.sweeps.length === 0}
					<NoSweepYet />
				{:else if stage === 'match'}
					<MatchDesk />
				{:else}
					<SweepDesk />
				{/if}
			</Boundary>
		{/key}
	{:else}
		<p class="wait">Looking for the build…</p>
	{/if}
</main>

<style>
	main {
		padding: 14px 18px 24px;
	}
	.wait {
		color: var(--soft);
	}
</style>
