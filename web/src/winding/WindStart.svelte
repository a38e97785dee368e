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
	import OwnPieces from '../drawer/OwnPieces.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { besides, contentBeside, contentOf, freeKey, fromDrawer, starts } from './presets';

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

	/** What of the drawer it shall be made of: by kind of piece, the question, and the piece; the usual one when ''. */
	const questions = [
		['core', 'On which ring'],
		['wire', 'With which wire'],
		['capacitor', 'A trap with which capacitor']
	] as const;
	let own = $state.raw<Piece[]>([]);
	let chosen = $state<Record<string, string>>(
		Object.fromEntries(questions.map(([kind]) => [kind, router.place.query.get(kind) ?? '']))
	);
	const taken = $derived(
		questions.map(
			([kind]) => own.find((p) => p.held.kind === kind && p.id === chosen[kind]) ?? null
		)
	);
	void answer(api.GET('/api/pieces'))
		.then((found) => (own = found))
		.catch(() => undefined);

	let problem = $state<string | null>(null);

	async function make(name: string, made_of: Content): Promise<void> {
		const content = { ...made_of, elements: made_of.elements.map((e) => fromDrawer(e, taken)) };
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
		const part = usual && fromDrawer(usual, taken);
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
	{#if own.some((p) => questions.some(([kind]) => p.held.kind === kind))}
		<p class="told from">
			{#each questions as [kind, question] (kind)}
				{@const mine = own.filter((p) => p.held.kind === kind)}
				{#if mine.length}
					<label class="named inline"
						>{question}
						<select bind:value={chosen[kind]}>
							<option value="">the usual one</option>
							<OwnPieces pieces={mine} />
						</select></label
					>
				{/if}
			{/each}
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
	.from {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 18px;
	}
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
