<!-- @component
	Nothing is wound for this build yet: what one usually begins with.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Accessory,
		type Content,
		type Design,
		type Piece,
		problemText
	} from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { router } from '../lib/router/router.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { besides, contentBeside, contentOf, freeKey, onRing, starts } from './presets';

	interface Props {
		/** Whether there is something wound already, and this is one more. */
		more?: boolean;
		onmade: (design: Design) => void;
		/** The design that is open, which what is wound beside it goes to; a new one when left out. */
		content?: Content | null;
		/** Puts a part beside the open design. */
		onbeside?: (part: Accessory) => void;
	}

	let { more = false, onmade, content = null, onbeside }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	/** What it hangs on: the wire as it was swept, where it was. */
	const swept = $derived(
		build.sweeps.find((s) => s.id === build.baseline_sweep_id && s.carries === 'impedance')
	);

	/** Rings of one's own, and the one that it shall be wound on; the usual one when none is chosen. */
	let rings = $state.raw<Piece[]>([]);
	let ringId = $state(router.place.query.get('ring') ?? '');
	const ring = $derived(rings.find((r) => r.id === ringId) ?? null);
	void answer(api.GET('/api/pieces', { params: { query: { kind: 'core' } } }))
		.then((found) => (rings = found))
		.catch(() => undefined);

	let problem = $state<string | null>(null);

	async function make(name: string, made_of: Content): Promise<void> {
		const content = { ...made_of, elements: made_of.elements.map((e) => onRing(e, ring)) };
		try {
			const made = await answer(
				api.POST('/api/builds/{build_id}/designs', {
					params: { path: { build_id: build.id } },
					body: { name, content }
				})
			);
			onmade(made);
		} catch (why) {
			problem = problemText(why);
		}
	}
	function beside(start: (typeof besides)[number]): void {
		const usual = start.part(content?.targets ?? build.targets);
		const part = usual && onRing(usual, ring);
		if (!part) {
			problem = 'A trap needs two bands: choose another one at the sweep or the wire first';
			return;
		}
		if (content && onbeside) onbeside({ ...part, key: freeKey(content, part.key) });
		else void make(start.name, contentBeside(part, build.targets));
	}
</script>

<section class="sheet">
	<h2>{more ? 'Wind something else' : 'Nothing is wound for this build yet'}</h2>
	<p class="told soft">
		{more
			? 'A transformer becomes a design of its own; a choke or a trap goes with this one.'
			: 'Choose what you need, then turn it into turns, cores and wire.'}
		A coil for an L match is made on the <a href="/builds/{build.id}/match">match desk</a> first.
	</p>
	{#if rings.length > 0}
		<p class="told">
			<label
				>On which ring
				<select bind:value={ringId}>
					<option value="">the usual one</option>
					{#each rings as mine (mine.id)}<option value={mine.id}>{mine.held.name}, yours</option
						>{/each}
				</select></label
			>
		</p>
	{/if}
	{#if swept}<p class="told">A transformer is judged on your wire as swept, “{swept.name}”.</p>{/if}
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	<ul>
		{#each starts as start, nth (nth)}
			<li>
				<button
					class="button"
					onclick={() => make(start.name, contentOf(start, build.targets, swept?.id ?? null))}
				>
					<strong>{start.name}</strong>
					<small>{start.why}</small>
				</button>
			</li>
		{/each}
		{#each besides as start, nth (nth)}
			<li>
				<button class="button" onclick={() => beside(start)}>
					<strong>{start.name}</strong>
					<small>{start.why}</small>
				</button>
			</li>
		{/each}
	</ul>
</section>

<style>
	ul {
		list-style: none;
		padding: 0;
		margin-top: 10px;
		display: grid;
		gap: 8px;
		grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
	}
	.button {
		width: 100%;
		height: 100%;
		text-align: left;
		padding: 10px 14px;
	}
	small {
		display: block;
		color: var(--soft);
	}
</style>
