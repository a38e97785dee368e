<!-- @component
	A build: header, tape, and the desk of its stage. Build, designs and marker are shared by its desks.
-->
<script lang="ts">
	import { answer, api, Refused, type Build, type Design, type Target } from '../lib/api/client';
	import { server } from '../lib/api/server.svelte';
	import NameField from '../lib/controls/NameField.svelte';
	import { singleKey } from '../lib/shell/view.svelte';
	import { router } from '../lib/router/router.svelte';
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
	}

	let { buildId, stage }: Props = $props();

	let build = $state.raw<Build | null>(null);
	let designs = $state.raw<Design[]>([]);
	let problem = $state<string | null>(null);
	let inBin = $state(false);
	let markerHz = $state(0);

	async function load(): Promise<void> {
		try {
			const at = { params: { path: { build_id: buildId } } };
			const [found, kept] = await Promise.all([
				answer(api.GET('/api/builds/{build_id}', at)),
				answer(api.GET('/api/builds/{build_id}/designs', at))
			]);
			build = found;
			designs = kept;
			problem = null;
			const asked = Number(router.place.query.get('marker'));
			const first = found.targets[0] as Target;
			markerHz = asked > 0 ? asked * 1e6 : (first.low_hz + first.high_hz) / 2;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			problem = why.message;
			inBin = why.problem.in_bin ?? false;
			if (server.gone) await server.back().then(load);
		}
	}
	void load();

	async function reload(): Promise<void> {
		build = await answer(
			api.GET('/api/builds/{build_id}', { params: { path: { build_id: buildId } } })
		);
	}

	async function restore(): Promise<void> {
		await answer(
			api.POST('/api/builds/{build_id}/restore', { params: { path: { build_id: buildId } } })
		);
		problem = null;
		await load();
	}

	function mark(hz: number, settled: boolean): void {
		markerHz = hz;
		if (settled) router.note({ marker: (hz / 1e6).toFixed(4) });
	}

	type Changes = Partial<
		Pick<
			Build,
			'power_w' | 'mode' | 'targets' | 'chosen_design_id' | 'baseline_sweep_id' | 'name' | 'wire'
		>
	>;
	async function change(changes: Changes): Promise<void> {
		if (!build) return;
		build = await answer(
			api.PATCH('/api/builds/{build_id}', {
				params: { path: { build_id: build.id } },
				body: { revision: build.revision, ...changes }
			})
		);
	}

	const done = $derived<Stage[]>(
		build
			? [
					...(build.wire ? (['wire'] as Stage[]) : []),
					...(build.sweeps.length > 0 ? (['sweep'] as Stage[]) : []),
					...(designs.some((d) => parts(d.revision.content).length > 0)
						? (['match'] as Stage[])
						: []),
					...(designs.some(
						(d) =>
							d.revision.content.elements.some(isWound) ||
							(d.revision.content.beside ?? []).length > 0
					)
						? (['wind'] as Stage[])
						: [])
				]
			: []
	);
	const stageName = $derived(stages.find((s) => s.key === stage)?.name ?? '');

	function numbered(event: KeyboardEvent): void {
		if (!singleKey(event)) return;
		const to = stages[Number(event.key) - 1];
		if (to?.desk) router.go(`/builds/${buildId}/${to.key}`);
	}
</script>

<svelte:head><title>{stageName} · {build?.name ?? 'Build'} · Yielding Coil</title></svelte:head>
<svelte:window onkeydown={numbered} />

<Header>
	{#snippet title()}
		{#if build}
			<NameField what="build" name={build.name} onrename={(name) => change({ name })} />
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
				onsettle={(power_w) => change({ power_w })}
			/>
			<select
				aria-label="Mode"
				value={present.mode}
				onchange={(event) => change({ mode: event.currentTarget.value as Build['mode'] })}
			>
				<option value="speech">speech</option>
				<option value="telegraphy">telegraphy</option>
				<option value="digital">digital, constant carrier</option>
			</select>
		{/if}
	{/snippet}
</Header>
<StageNav {buildId} {stage} {done} />
<main>
	{#if problem}
		<Note kind="danger" title="This build cannot be shown.">
			{problem}.
			{#if inBin}<button class="button" onclick={restore}>Take it out of the bin</button>{/if}
			<a href="/">To the shelf</a>
		</Note>
	{:else if build}
		{#if stage === 'wire'}
			<LazyPage
				page={() => import('../wire/WireDesk.svelte')}
				given={{ build, onchange: change }}
			/>
		{:else if stage === 'trim'}
			<LazyPage
				page={() => import('../trim/TrimDesk.svelte')}
				given={{ build, onchange: change, onreload: reload }}
			/>
		{:else if stage === 'wind'}
			{@const present = build}
			<LazyPage
				page={() => import('../winding/WindDesk.svelte')}
				given={{
					build: present,
					designs,
					markerHz,
					onmarker: mark,
					onchange: change,
					ondesigns: (list: Design[]) => (designs = list)
				}}
			/>
		{:else if build.sweeps.length === 0 || (stage === 'match' && !build.baseline_sweep_id)}
			<NoSweepYet {build} onchange={change} onreload={reload} />
		{:else if stage === 'match'}
			<MatchDesk
				{build}
				bind:designs
				{markerHz}
				onmarker={mark}
				onchange={change}
				onreload={reload}
			/>
		{:else}
			<SweepDesk {build} {markerHz} onmarker={mark} onchange={change} onreload={reload} />
		{/if}
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
