<!-- @component
	The designs of a build and the history of the one shown: names, a picture of any state laid over, a way back.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Design,
		type Revision,
		type RevisionHead,
		problemText
	} from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import NameField from '../lib/controls/NameField.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { percent, swr } from '../lib/units/format';
	import { designDifference } from './words';

	interface Props {
		design: Design;
		designs: Design[];
		/** The revisions and designs laid over: "r3", "d…". */
		laid: string[];
		/** Lays a state over the charts, or takes it off again. */
		onlay: (key: string, name: string, content: Revision['content'] | null) => void;
		/** Opens another design. */
		onopen: (id: string) => void;
		/** Takes an earlier state again, as a new edit. */
		ontake: (content: Revision['content']) => void;
		/** Called after designs came, went or changed their names. */
		onchange: (designs: Design[]) => void | Promise<void>;
	}

	let { design, designs, laid, onlay, onopen, ontake, onchange }: Props = $props();

	let all = $state(false);
	let refused = $state<string | null>(null);
	let contents = $state.raw<{ key: string; name: string; content: Revision['content'] }[]>([]);
	const told = $derived(
		contents
			.filter((c) => laid.includes(c.key))
			.map((c) => ({
				name: c.name,
				lines: designDifference(c.content, design.revision.content)
			}))
	);
	let binned = $state.raw<Design | null>(null);

	const path = $derived({ design_id: design.id });

	async function tryTo(act: () => Promise<unknown>): Promise<void> {
		try {
			await act();
			refused = null;
		} catch (why) {
			refused = problemText(why);
		}
	}

	// Read anew when another revision is kept or another design opened.
	const states = latest(
		() => ({ design_id: design.id, newest: design.revision.number }),
		({ design_id }) =>
			answer(api.GET('/api/designs/{design_id}/revisions', { params: { path: { design_id } } })),
		{ keeps: true }
	);
	const heads = $derived(states.value ?? []);
	const shown = $derived(all ? heads : heads.slice(0, 5));
	const problem = $derived(refused ?? states.problem);

	const one = (number: number) =>
		answer(
			api.GET('/api/designs/{design_id}/revisions/{number}', {
				params: { path: { ...path, number } }
			})
		);

	const stateName = (head: RevisionHead) => head.label || `state ${head.number}`;

	function put(key: string, name: string, content: Revision['content']): void {
		contents = [...contents.filter((c) => c.key !== key), { key, name, content }];
		onlay(key, name, content);
	}

	async function lay(head: RevisionHead): Promise<void> {
		const key = `r${head.number}`;
		if (laid.includes(key)) return onlay(key, '', null);
		put(key, stateName(head), (await one(head.number)).content);
	}

	function layDesign(other: Design): void {
		const key = `d${other.id}`;
		if (laid.includes(key)) return onlay(key, '', null);
		put(key, other.name, other.revision.content);
	}

	async function label(head: RevisionHead, text: string): Promise<void> {
		await answer(
			api.PATCH('/api/designs/{design_id}/revisions/{number}', {
				params: { path: { ...path, number: head.number } },
				body: { label: text }
			})
		);
		states.again();
	}

	async function rename(other: Design, name: string): Promise<void> {
		const found = await answer(
			api.PATCH('/api/designs/{design_id}', {
				params: { path: { design_id: other.id } },
				body: { name, name_revision: other.name_revision }
			})
		);
		await onchange(designs.map((d) => (d.id === found.id ? found : d)));
	}

	async function duplicate(other: Design): Promise<void> {
		const made = await answer(
			api.POST('/api/builds/{build_id}/designs', {
				params: { path: { build_id: other.build_id } },
				body: { name: `${other.name} (copy)`.slice(0, 120), content: other.revision.content }
			})
		);
		await onchange([...designs, made]);
		onopen(made.id);
	}

	async function bin(other: Design): Promise<void> {
		await answer(
			api.DELETE('/api/designs/{design_id}', {
				params: { path: { design_id: other.id }, query: { name_revision: other.name_revision } }
			})
		);
		binned = other;
		const left = designs.filter((d) => d.id !== other.id);
		if (other.id === design.id && left[0]) onopen(left[0].id);
		await onchange(left);
	}

	async function restore(other: Design): Promise<void> {
		const back = await answer(
			api.POST('/api/designs/{design_id}/restore', {
				params: { path: { design_id: other.id } }
			})
		);
		binned = null;
		await onchange([...designs, back]);
	}

	const when = (text: string) =>
		new Date(text).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' });
</script>

<section class="sheet" aria-label="Designs and history">
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if binned}
		{@const gone = binned}
		<Note kind="news"
			>“{gone.name}” is in the bin.
			<button class="button" onclick={() => tryTo(() => restore(gone))}>Take it back</button></Note
		>
	{/if}
	<h2>Designs of this build</h2>
	<ul>
		{#each designs as other (other.id)}
			<li class:here={other.id === design.id}>
				<span class="words"
					><NameField
						what="design"
						name={other.name}
						level={3}
						onrename={(n) => rename(other, n)}
					/></span
				>
				{#if other.id !== design.id}
					<button class="button" aria-label="Open {other.name}" onclick={() => onopen(other.id)}
						>open</button
					>
					<button
						class="button"
						aria-pressed={laid.includes(`d${other.id}`)}
						aria-label="lay over: {other.name}"
						onclick={() => layDesign(other)}>lay over</button
					>
				{/if}
				<button
					class="button"
					aria-label="Duplicate {other.name}"
					onclick={() => tryTo(() => duplicate(other))}>duplicate</button
				>
				{#if designs.length > 1}
					<button
						class="button"
						aria-label="Put {other.name} in the bin"
						onclick={() => tryTo(() => bin(other))}>bin</button
					>
				{/if}
			</li>
		{/each}
	</ul>
	<h2>History of “{design.name}”</h2>
	<ol>
		{#each shown as head (head.number)}
			<li class:here={head.number === design.revision.number}>
				<span class="words">
					<NameField
						what="state {head.number}"
						name={stateName(head)}
						level={3}
						onrename={(text) => label(head, text)}
					/>
					<small class="soft"
						>{when(head.made_at)}{head.worst_swr
							? ` · worst ${swr(head.worst_swr)}`
							: ''}{head.share !== null && head.share !== undefined
							? ` · ${percent(head.share)}`
							: ''}</small
					>
				</span>
				{#if head.number !== design.revision.number}
					<button
						class="button"
						aria-pressed={laid.includes(`r${head.number}`)}
						aria-label="lay over: {stateName(head)}"
						onclick={() => tryTo(() => lay(head))}>lay over</button
					>
					<button
						class="button"
						aria-label="take again: {stateName(head)}"
						onclick={() => tryTo(async () => ontake((await one(head.number)).content))}
						>take again</button
					>
				{:else}
					<span class="soft">now</span>
				{/if}
			</li>
		{/each}
	</ol>
	{#if heads.length > 5}
		<button class="plain" onclick={() => (all = !all)}
			>{all ? 'the last five' : `all ${heads.length} states`}</button
		>
	{/if}
	{#each told as { name, lines }, nth (nth)}
		<p role="status">From “{name}” to now: {lines.length ? lines.join('; ') : 'the same parts'}.</p>
	{/each}
</section>

<style>
	section {
		display: grid;
		gap: 6px;
	}
	ul,
	ol {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 2px;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 8px;
		padding: 3px 8px;
		border-radius: 6px;
	}
	.here {
		background: var(--selected);
		box-shadow: inset 4px 0 0 var(--copper);
	}
	.words {
		flex: 1 1 200px;
		min-width: 0;
	}
	small {
		display: block;
		font-size: var(--size-12);
	}
	p {
		font-size: var(--size-13);
	}
	.button[aria-pressed='true'] {
		background: var(--selected);
		border-color: var(--copper);
	}
</style>
