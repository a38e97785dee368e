<!-- @component
	One thing on the line of time: when, what, the curve of its sweep, its photographs; its words can be changed, and it
	can be taken back.
-->
<script lang="ts">
	import { answer, api, problemText } from '../lib/api/client';
	import TextField from '../lib/controls/TextField.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { units } from '../lib/units/units.svelte';
	import { setupText } from '../sweep/words';
	import { length } from '../lib/units/format';
	import { entryText } from '../trim/words';
	import { type Logged, markOf, stateText, sweptText, weak } from './logWords';
	import PhotoStrip from './PhotoStrip.svelte';
	import SmallCurve from './SmallCurve.svelte';

	interface Props {
		item: Logged;
		/** Names of the bands of the build. */
		bands: string[];
		baselineId: string | null;
		/** Whether the build is named: where all builds are searched. */
		named: boolean;
		/** Called after something of it was changed. */
		onchange: () => void;
		/** Takes a sweep to be held against the baseline; left out where it is of another build. */
		onagainst?: (sweepId: string) => void;
	}

	let { item, bands, baselineId, named, onchange, onagainst }: Props = $props();

	let wording = $state(false);
	let problem = $state<string | null>(null);
	const time = $derived(
		new Date(item.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
	);
	const entry = $derived(item.entry);
	const title = $derived(
		entry ? entryText(entry, units.length, bands) : item.state ? stateText(item.state) : ''
	);
	const setup = $derived(entry?.setup ?? item.sweep?.setup ?? null);
	const path = $derived({ params: { path: { entry_id: item.id } } });

	async function attempt(act: () => Promise<unknown>): Promise<void> {
		try {
			problem = null;
			await act();
			onchange();
		} catch (why) {
			problem = problemText(why);
		}
	}

	async function reword(text: string): Promise<void> {
		if (!entry) return;
		const body = { revision: entry.revision, text };
		await answer(api.PATCH('/api/entries/{entry_id}', { ...path, body }));
		wording = false;
		onchange();
	}

	const takeBack = (revision: number) =>
		attempt(() =>
			answer(
				api.DELETE('/api/entries/{entry_id}', {
					params: { path: { entry_id: item.id }, query: { revision } }
				})
			)
		);
</script>

<li class={markOf(item)}>
	<span class="time mono">{time}</span>
	<span class="mark" aria-hidden="true"></span>
	<div class="what">
		{#if named}<a class="soft" href="/builds/{item.build_id}/log">{item.build}</a>{/if}
		{#if title}<p class="title">{title}</p>{/if}
		{#if entry && entry.text && !['note', 'fault_test'].includes(entry.data.kind) && !wording}
			<p class="words">{entry.text}</p>
		{/if}
		{#if item.sweep}
			<p class="swept">
				<SmallCurve sweepId={item.sweep.id} name={item.sweep.name} />
				<span>
					{sweptText(item.sweep)}
					{#if item.sweep.id === baselineId}<b>· the baseline</b>
					{:else if onagainst && baselineId}
						<button class="plain" onclick={() => onagainst(item.sweep?.id ?? '')}
							>against the baseline</button
						>
					{/if}
				</span>
			</p>
		{/if}
		{#if setup}
			<p class="soft words">{setupText(setup, (m) => length(m, units.length))}</p>
		{/if}
		{#if weak(item)}<p class="soft words">{weak(item)}</p>{/if}
		{#if item.photographs?.length}
			<PhotoStrip photographs={item.photographs} {onchange} />
		{/if}
		{#if entry && wording}
			<div class="row">
				<TextField label="Words" shown={entry.text} most={2000} onsettle={reword} />
				<button class="button" onclick={() => (wording = false)}>Close</button>
			</div>
		{/if}
		{#if problem}<Note kind="danger">{problem}</Note>{/if}
	</div>
	{#if entry}
		<span class="acts unprinted">
			<button
				class="plain"
				aria-label="Change the words of “{title}”"
				onclick={() => (wording = true)}>change</button
			>
			<button
				class="plain"
				aria-label="Take back “{title}”"
				onclick={() => takeBack(entry.revision)}>take back</button
			>
		</span>
	{/if}
</li>

<style>
	li {
		display: grid;
		grid-template-columns: 44px 18px minmax(0, 1fr) auto;
		gap: 0 8px;
		padding: 5px 0;
		content-visibility: auto;
		contain-intrinsic-size: auto 44px;
	}
	.time {
		font-size: var(--size-12);
		color: var(--soft);
		padding-top: 2px;
	}
	/* The wire that everything hangs on. */
	.mark {
		position: relative;
		background: linear-gradient(var(--copper), var(--copper)) center / 2px 100% no-repeat;
		margin: -5px 0;
	}
	.mark::after {
		content: '';
		position: absolute;
		left: 50%;
		top: 14px;
		width: 9px;
		height: 9px;
		transform: translate(-50%, -50%);
		background: var(--sheet);
		border: 2px solid var(--soft);
	}
	.sweep .mark::after {
		border-radius: 50%;
		border-color: var(--blueprint);
	}
	.design .mark::after {
		background: var(--verdigris);
		border-color: var(--verdigris);
	}
	.act .mark::after {
		width: 18px;
		height: 4px;
		border: none;
		background: var(--copper);
	}
	p {
		margin: 0;
	}
	.words {
		font-size: var(--size-13);
	}
	.swept {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 2px 12px;
		font-size: var(--size-13);
	}
	.title {
		overflow-wrap: anywhere;
	}
	.acts {
		display: flex;
		gap: 10px;
		align-items: start;
		font-size: var(--size-13);
	}
	@media (max-width: 620px) {
		li {
			grid-template-columns: 40px 14px minmax(0, 1fr);
		}
		.acts {
			grid-column: 3;
		}
	}
</style>
