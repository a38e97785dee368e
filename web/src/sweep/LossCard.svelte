<!-- @component
	Too good to be true: how many of 100 W must stay behind by a sweep, where, and what would settle it.
-->
<script lang="ts">
	import { answer, api, type Content, type Schemas, type Target } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import FanChart from '../lib/charts/FanChart.svelte';
	import WattsFlow from '../lib/charts/WattsFlow.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { type Loss, lossHeadline, lossSentences, placeOf, staysText } from './lossWords';

	interface Props {
		/** What is swept; null where there is none yet. */
		sweepId: string | null;
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		/** The design that stood between, and where it was swept. */
		content?: Content | null;
		plane?: 'box' | 'radio';
		/** Ends of its wires as they hang now. */
		ends?: Schemas['WireEndNow'][];
		/** Told with every verdict, and with null where there is none. */
		onjudged?: (found: Loss | null) => void;
	}

	let {
		sweepId,
		markerHz,
		onmarker,
		content = null,
		plane = 'box',
		ends = [],
		onjudged
	}: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	const antenna = $derived(build.wire?.antenna ?? null);
	const sweep = $derived(build.sweeps.find((s) => s.id === sweepId));
	/** The band that is swept here; the first where none is. */
	const target = $derived.by((): Target | undefined => {
		const inside = (t: Target) =>
			!sweep || (t.low_hz <= sweep.high_hz && t.high_hz >= sweep.low_hz);
		return build.targets.find(inside) ?? build.targets[0];
	});
	let again = $state('');
	const others = $derived(
		build.sweeps.filter((s) => s.id !== sweepId && s.carries === 'impedance')
	);
	const asked = $derived(
		antenna && target
			? {
					antenna,
					ends,
					target,
					sweep_id: sweepId,
					again_id: others.some((s) => s.id === again) ? again : null,
					content,
					plane
				}
			: null
	);
	// Asked without a sweep as well: then its fan is ready when one comes.
	const judged = latest(
		() => asked,
		async (body) => ({
			of: body.sweep_id,
			verdict: await answer(api.POST('/api/losses', { body }))
		})
	);
	// Never beside another sweep than its own, however late it comes.
	const found = $derived(sweepId && judged.value?.of === sweepId ? judged.value.verdict : null);
	$effect(() => onjudged?.(found));
	const flow = (p: Schemas['LossPlaceOut']) => ({
		watts: p.likely_w,
		low_w: p.low_w,
		high_w: p.high_w
	});
</script>

<section class="sheet" aria-label="Too good to be true">
	<h3 class="eyebrow">Too good to be true? <Help topic="loss" name="the watts that stay" /></h3>
	{#if !antenna}
		<p class="told soft">
			Plan the antenna on <a href="/builds/{build.id}/wire">Wire</a>, and a sweep tells how many of
			100 W must stay behind, and where.
		</p>
	{:else if judged.problem}
		<Note kind="news">Cannot tell: {judged.problem}.</Note>
	{:else if !sweepId}
		<p class="told soft">Sweep it, and this tells how many of 100 W must stay behind.</p>
	{:else if !found}
		<p class="told soft" role="status">weighing where the watts go…</p>
	{:else}
		<div class:stale={judged.loading} aria-busy={judged.loading}>
			<p class="do" class:bad={found.state === 'loss' || found.state === 'shield'} role="status">
				{lossHeadline(found)}
			</p>
			{#if staysText(found)}<p class="told">{staysText(found)}</p>{/if}
			{#each lossSentences(found) as sentence (sentence)}<p class="told">{sentence}</p>{/each}
			{#if found.radiated && found.state !== 'shield'}
				<WattsFlow
					radiated={flow(found.radiated)}
					places={found.places.map((p) => ({ key: p.key, name: placeOf(p.key), w: flow(p) }))}
					powerW={100}
					into="go in where it was swept"
				/>
			{/if}
			<FanChart
				label="SWR against what honest ones show"
				curves={{ ...found, fitted: found.state === 'no_match' ? undefined : found.fitted }}
				targets={build.targets}
				{markerHz}
				{onmarker}
				height={150}
			/>
			<p class="told soft">
				Blue: as swept. Shaded: where nine of ten such antennas lie with nothing wrong{found.state ===
				'no_match'
					? ''
					: '. Dotted: the likeliest'}.
			</p>
		</div>
	{/if}
	{#if sweepId && antenna && others.length}
		<p class="row told unprinted">
			<label
				>With a hand on the coax
				<select value={again} onchange={(event) => (again = event.currentTarget.value)}>
					<option value="">no second sweep</option>
					{#each others as other (other.id)}<option value={other.id}>{other.name}</option>{/each}
				</select></label
			>
		</p>
	{/if}
</section>

<style>
	.do {
		margin: 6px 0 4px;
		font-weight: 600;
	}
	.bad {
		color: var(--heat-ink);
	}
	.told + .told {
		margin-top: 5px;
	}
	select {
		max-width: 190px;
	}
</style>
