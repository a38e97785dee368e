<!-- @component
	A place to drop a sweep file, or to choose one.
-->
<script lang="ts">
	import { dropSweep, Refused, type Sweep } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';

	interface Props {
		/** Called with the kept sweep. */
		onsweep: (sweep: Sweep) => void | Promise<void>;
		/** Large on an empty shelf; small when left out. */
		large?: boolean;
	}

	let { onsweep, large = false }: Props = $props();

	let over = $state(false);
	let busy = $state(false);
	let problem = $state<{ name: string; text: string } | null>(null);

	async function take(file: File | undefined): Promise<void> {
		if (!file) return;
		busy = true;
		problem = null;
		try {
			await onsweep(await dropSweep(file));
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			problem = { name: file.name, text: why.message };
		} finally {
			busy = false;
		}
	}
</script>

<div
	class="zone"
	class:over
	class:large
	role="group"
	aria-label="New build from a sweep"
	ondragover={(event) => {
		event.preventDefault();
		over = true;
	}}
	ondragleave={() => (over = false)}
	ondrop={(event) => {
		event.preventDefault();
		over = false;
		void take(event.dataTransfer?.files[0]);
	}}
>
	<p class="what">
		<strong>Drop the sweep of a wire here</strong>
		<span>A Touchstone file (.s1p) from your analyser: S, Z or Y, any unit, any reference.</span>
	</p>
	<label class="button main">
		{busy ? 'Reading…' : 'Choose a file'}
		<input
			type="file"
			class="unseen"
			disabled={busy}
			onchange={(event) => {
				void take(event.currentTarget.files?.[0]);
				event.currentTarget.value = '';
			}}
		/>
	</label>
</div>
{#if problem}
	<Note kind="danger" title="{problem.name} was not kept.">{problem.text}.</Note>
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
	.what span {
		display: block;
		color: var(--soft);
		font-size: var(--size-13);
	}
	.button:focus-within {
		outline: 3px solid var(--blueprint);
		outline-offset: 2px;
	}
</style>
