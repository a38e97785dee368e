<!-- @component
	Photographs at an entry: small, opened large; the original taken out, its position taken away, put in the bin.
-->
<script lang="ts">
	import { answer, api, problemText } from '../lib/api/client';
	import Dialog from '../lib/shell/Dialog.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { type Photograph, sizeText } from './logWords';

	interface Props {
		photographs: Photograph[];
		/** Called after one was changed. */
		onchange: () => void;
	}

	let { photographs, onchange }: Props = $props();

	let shown = $state<string | null>(null);
	let problem = $state<string | null>(null);
	let sure = $state(false);
	const large = $derived(photographs.find((p) => p.id === shown) ?? null);
	/** A new revision is another picture: the browser keeps the old one under the old address. */
	const view = (p: Photograph) => `/api/photographs/${p.id}/view?revision=${p.revision}`;

	async function attempt(act: () => Promise<unknown>): Promise<void> {
		try {
			problem = null;
			await act();
			onchange();
		} catch (why) {
			problem = problemText(why);
		}
	}
	const at = (p: Photograph) => ({
		params: { path: { photograph_id: p.id }, query: { revision: p.revision } }
	});

	async function removePosition(p: Photograph): Promise<void> {
		sure = false;
		await attempt(() =>
			answer(api.POST('/api/photographs/{photograph_id}/position-removed', at(p)))
		);
	}

	async function bin(p: Photograph): Promise<void> {
		shown = null;
		await attempt(() => answer(api.DELETE('/api/photographs/{photograph_id}', at(p))));
	}
</script>

<ul>
	{#each photographs as p (p.id)}
		<li>
			<button aria-label="Show {p.name}" onclick={() => (shown = p.id)}>
				<img
					src={view(p)}
					alt={p.name}
					loading="lazy"
					width={Math.round((88 * p.width) / p.height)}
					height="88"
				/>
			</button>
		</li>
	{/each}
</ul>
{#if problem}<Note kind="danger">{problem}</Note>{/if}
{#if large}
	<Dialog title={large.name} onclose={() => (shown = null)}>
		<img class="large" src={view(large)} alt={large.name} />
		<p class="soft told">
			{large.width} × {large.height} pixels, {sizeText(large.size)}. Seen smaller here; the original
			is kept to the byte.
		</p>
		{#if large.located}
			<p class="told">
				The original says where it was taken. It is never shown here, and goes out with nothing
				unless you ask.
				{#if sure}
					Taken out, it cannot be brought back.
					<button class="button main" onclick={() => removePosition(large)}
						>Take the position out for good</button
					>
				{:else}
					<button class="button" onclick={() => (sure = true)}>Take the position out</button>
				{/if}
			</p>
		{/if}
		<div class="row">
			<a class="button" href="/api/photographs/{large.id}/original" download={large.name}
				>Save the original</a
			>
			<button class="button" onclick={() => bin(large)}>Put in the bin</button>
		</div>
	</Dialog>
{/if}

<style>
	ul {
		list-style: none;
		padding: 0;
		margin: 6px 0 0;
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
	li button {
		border: 1px solid var(--line);
		background: none;
		padding: 0;
		border-radius: 6px;
		overflow: hidden;
		cursor: pointer;
		display: block;
	}
	li img {
		display: block;
		object-fit: cover;
		max-width: 100%;
		background: var(--line);
	}
	.large {
		display: block;
		max-width: 100%;
		max-height: 60vh;
		border-radius: 6px;
	}
	.row {
		margin-top: 8px;
	}
</style>
