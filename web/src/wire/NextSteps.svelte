<!-- @component
	What to do next with a planned antenna: hang it, match it as modelled, wind its coil, or take a sweep instead.
-->
<script lang="ts">
	import { answer, api, problemText, type Schemas, type WireAntenna } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { chosenOf, COIL_KEY, loadingCoil, standAbove, trapOf } from './handOver';
	import type { Kind } from './kinds.svelte';

	interface Props {
		kind: Kind | undefined;
		antenna: WireAntenna | null;
		study: Schemas['StudyOut'] | null;
		/** Whether the wires of several bands hang together. */
		isSet: boolean;
		/** Takes the Q of the coil as it is wound. */
		onq: (q: number) => void;
	}

	let { kind, antenna, study, isSet, onq }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	let problem = $state<string | null>(null);
	const chosen = $derived(chosenOf(page));
	const above = $derived(chosen?.revision.content.antenna);
	/** The very antenna stands above the design already. */
	const stands = $derived(
		above?.kind === 'wire' && JSON.stringify(above) === JSON.stringify(antenna)
	);
	/** What an analyser reads of its coil in the band. */
	const coil = $derived(study?.coil_reading_h ?? null);
	const resonant = $derived(kind?.resonant ?? true);

	// The coil as it is wound by now tells its Q.
	const wound = latest(
		() =>
			study && chosen?.revision.content.beside?.some((b) => b.key === COIL_KEY)
				? {
						content: chosen.revision.content,
						key: COIL_KEY,
						power_w: build.power_w,
						low_hz: study.sketch.frequency_hz[0] ?? 1e6,
						high_hz: study.sketch.frequency_hz.at(-1) ?? 30e6
					}
				: null,
		(body) => answer(api.POST('/api/windings', { body }))
	);
	const woundQ = $derived.by(() => {
		const seen = wound.value?.seen;
		return seen ? (seen.q[Math.floor(seen.q.length / 2)] ?? null) : null;
	});
	const plannedQ = $derived(antenna?.numbers['q'] ?? null);

	/** The bands that its trap parts, the upper one first; null without a trap or a second band. */
	const parted = $derived.by(() => {
		if (!antenna || antenna.numbers['trap_hz'] === undefined || build.targets.length < 2)
			return null;
		const middles = build.targets.map((t) => (t.low_hz + t.high_hz) / 2);
		return [Math.max(...middles), Math.min(...middles)] as const;
	});

	async function go(stage: 'match' | 'wind', wind: 'coil' | 'trap' | null = null): Promise<void> {
		if (!antenna || !kind) return;
		try {
			const made =
				wind === 'coil' && coil !== null
					? loadingCoil(coil)
					: wind === 'trap' && parted
						? trapOf(antenna, ...parted)
						: undefined;
			const id = await standAbove(page, antenna, `${kind.name}, as modelled`, made);
			const piece = made ? `&piece=${encodeURIComponent(made.key)}` : '';
			router.go(`/builds/${build.id}/${stage}?design=${id}${piece}`);
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

<section class="sheet unprinted">
	<h3 class="eyebrow">Next</h3>
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
	<p class="row">
		<a class="button main" href="/builds/{build.id}/{resonant ? 'trim' : 'sweep'}"
			>{resonant ? 'Hang it and trim' : 'Hang it and sweep'}</a
		>
		{#if build.sweeps.length === 0}<a class="button" href="/builds/{build.id}/sweep"
				>I have a sweep</a
			>{/if}
	</p>
	{#if antenna && !isSet}
		<p class="row">
			{#if coil !== null}
				<button class="button" disabled={!study} onclick={() => void go('wind', 'coil')}
					>Wind its coil</button
				>
			{/if}
			{#if parted}
				<button class="button" disabled={!study} onclick={() => void go('wind', 'trap')}
					>Wind its traps</button
				>
			{/if}
			{#if kind?.by_unun}
				<button class="button" disabled={!study} onclick={() => void go('wind')}
					>Wind its unun</button
				>
			{/if}
			<button class="button" disabled={!study} onclick={() => void go('match')}
				>Match it as modelled</button
			>
		</p>
		{#if woundQ !== null && plannedQ !== null && coil !== null && Math.round(woundQ) !== Math.round(plannedQ)}
			<p class="told">
				As it is wound its coil has a Q of {Math.round(woundQ)}, by sums for clean air: wet, former
				and case take some of it.
				<button class="button" onclick={() => onq(Math.round(woundQ))}>Reckon with it</button>
			</p>
		{/if}
		{#if chosen}
			<p class="told soft">
				{stands
					? `It stands at the top of “${chosen.name}”.`
					: `That puts it at the top of “${chosen.name}”, in place of ${above?.kind === 'sweep' ? 'the sweep' : above?.kind === 'resistor' ? 'the resistor' : 'what stood there'}; History takes it back.`}
			</p>
		{/if}
	{/if}
</section>

<style>
	p + p {
		margin-top: 6px;
	}
</style>
