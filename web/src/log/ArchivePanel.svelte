<!-- @component
	A build, or everything, out as one open file; and from such a file in again, as something new.
-->
<script lang="ts">
	import { problemText } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { takeIn, takeOut } from './archive';

	interface Props {
		/** Of the build that goes out; everything when null. */
		buildId: string | null;
		/** Called after something came in; nothing is taken in where it is left out. */
		ontaken?: () => void;
	}

	let { buildId, ontaken }: Props = $props();

	let positions = $state(false);
	let share = $state<number | null>(null);
	let what = $state('');
	let problem = $state<string | null>(null);
	let news = $state<string | null>(null);
	let stop: AbortController | null = null;

	async function attempt(going: string, act: () => Promise<string>): Promise<void> {
		what = going;
		share = 0;
		problem = news = null;
		try {
			news = await act();
		} catch (why) {
			if (stop?.signal.aborted) news = 'Stopped; nothing of it was kept.';
			else problem = problemText(why);
		} finally {
			share = null;
			stop = null;
		}
	}

	const out = () =>
		attempt('Taking it out', async () => {
			await takeOut(buildId, positions, (s) => (share = s));
			return 'Written. The browser has the file.';
		});

	const take = (file: File) =>
		attempt(`Taking “${file.name}” in`, async () => {
			stop = new AbortController();
			const found = await takeIn(file, (s) => (share = s), stop.signal);
			ontaken?.();
			const names = found.builds.map((b) => `“${b.name}”`).join(', ');
			return `${names || 'No build'} came in: ${found.sweeps} sweeps, ${found.designs} designs, ${found.entries} entries, ${found.photographs} photographs.`;
		});
</script>

<details class="sheet unprinted">
	<summary><h2>{buildId ? 'Take this build out' : 'Backup, and archives of builds'}</h2></summary>
	<p class="told soft">
		{buildId
			? 'Everything of it in one open file: sweeps as they came, every state of its designs, log, photographs.'
			: 'Everything that is kept here in one open file; a file takes builds in again, here or on another computer, as new ones.'}
	</p>
	<p class="told">
		<label
			><input type="checkbox" bind:checked={positions} /> photographs may say where they were taken</label
		>
	</p>
	<div class="row">
		<button class="button" disabled={share !== null} onclick={out}
			>{buildId ? 'Save as a file' : 'Back up everything'}</button
		>
		{#if ontaken}
			<label class="button">
				Take an archive in
				<input
					type="file"
					class="unseen"
					accept=".zip"
					disabled={share !== null}
					onchange={(event) => {
						const [file] = event.currentTarget.files ?? [];
						if (file) void take(file);
						event.currentTarget.value = '';
					}}
				/>
			</label>
		{/if}
	</div>
	{#if share !== null}
		<p class="row told">
			{what}: <progress max="1" value={share} aria-label={what}></progress>
			{Math.round(100 * share)} %
			{#if what.startsWith('Taking “')}
				<button class="button" onclick={() => stop?.abort()}>Stop</button>
			{/if}
		</p>
	{/if}
	{#if problem}<Note kind="danger" title="Nothing was taken in.">{problem}</Note>{/if}
	{#if news}<Note kind="news">{news}</Note>{/if}
</details>

<style>
	h2 {
		display: inline;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
		margin: 6px 0;
	}
	progress {
		accent-color: var(--verdigris);
	}
</style>
