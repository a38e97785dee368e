<!-- @component
	A place to drop sweep files, to choose some, to paste one, or to type points.
-->
<script lang="ts">
	import { dropSweep, Refused, type Sweep } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import TypedPoints from './TypedPoints.svelte';

	interface Props {
		/** Called with the kept sweeps. */
		onsweeps: (sweeps: Sweep[]) => void | Promise<void>;
		/** What is said over it. */
		title: string;
		/** The build that they go to; none makes a new one. */
		buildId?: string;
		/** Large on an empty shelf; small when left out. */
		large?: boolean;
	}

	let { onsweeps, title, buildId, large = false }: Props = $props();

	interface Trouble {
		file: File;
		text: string;
		offers: string[];
	}

	let over = $state(false);
	let busy = $state(false);
	let typing = $state(false);
	let troubles = $state.raw<Trouble[]>([]);

	async function take(files: Iterable<File>, part?: 'S11'): Promise<void> {
		busy = true;
		troubles = [];
		const kept: Sweep[] = [];
		const found: Trouble[] = [];
		for (const file of files) {
			try {
				kept.push(await dropSweep(file, { build_id: buildId, take: part }));
			} catch (why) {
				if (!(why instanceof Refused)) throw why;
				found.push({ file, text: why.message, offers: why.problem.offers ?? [] });
			}
		}
		troubles = found;
		try {
			if (kept.length) await onsweeps(kept);
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			troubles = [{ file: new File([], kept[0]?.name ?? ''), text: why.message, offers: [] }];
		} finally {
			busy = false;
		}
	}

	function pasted(event: ClipboardEvent): void {
		const target = event.target as HTMLElement;
		if (['INPUT', 'TEXTAREA'].includes(target.tagName) || target.closest('dialog')) return;
		const files = [...(event.clipboardData?.files ?? [])];
		const text = event.clipboardData?.getData('text') ?? '';
		if (files.length === 0 && !text.trim()) return;
		event.preventDefault();
		void take(files.length ? files : [new File([text], 'pasted')]);
	}
</script>

<svelte:window onpaste={pasted} />

<div
	class="zone unprinted"
	class:over
	class:large
	role="group"
	aria-label={title}
	ondragover={(event) => {
		event.preventDefault();
		over = true;
	}}
	ondragleave={() => (over = false)}
	ondrop={(event) => {
		event.preventDefault();
		over = false;
		void take(event.dataTransfer?.files ?? []);
	}}
>
	<p class="what">
		<strong>{title}</strong>
		<span
			>Touchstone (.s1p; S11 of .s2p) or a table with a heading row (.csv: MHz, R, X; or SWR alone).
			Several at once, or pasted.</span
		>
	</p>
	<span class="row">
		<label class="button main">
			{busy ? 'Reading…' : 'Choose a file'}
			<input
				type="file"
				class="unseen"
				multiple
				disabled={busy}
				onchange={(event) => {
					void take([...(event.currentTarget.files ?? [])]);
					event.currentTarget.value = '';
				}}
			/>
		</label>
		<button class="button" onclick={() => (typing = true)}>Type points</button>
	</span>
</div>
{#each troubles as trouble, nth (nth)}
	<Note kind="danger" title="{trouble.file.name || 'The sweep'} was not kept.">
		{trouble.text}.
		{#if trouble.offers.includes('S11')}
			<button class="button" onclick={() => take([trouble.file], 'S11')}>Take S11 from it</button>
		{/if}
	</Note>
{/each}
{#if typing}
	<TypedPoints
		{buildId}
		onclose={() => (typing = false)}
		onsweep={async (sweep) => {
			typing = false;
			await onsweeps([sweep]);
		}}
	/>
{/if}

<style>
	.zone {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		justify-content: space-between;
		gap: 12px;
		border: 2px dashed var(--control-edge);
		border-radius: var(--radius);
		padding: 18px 22px;
		background: var(--sheet);
	}
	.zone.large {
		padding: 56px 40px;
	}
	.over {
		border-color: var(--copper);
		background: var(--selected);
	}
	.what {
		flex: 1 1 260px;
	}
	.what span {
		display: block;
		color: var(--soft);
		font-size: var(--size-13);
	}
	.button:focus-within {
		outline: 3px solid var(--blueprint);
		outline-offset: 2px;
	}
	@media (max-width: 620px) {
		.zone,
		.zone.large {
			padding: 14px;
		}
	}
</style>
