<!-- @component
	The sweeps of a build: which one is shown, which are laid over, which the match hangs on; names, files, bin.
-->
<script lang="ts">
	import DropZone from './DropZone.svelte';
	import { answer, api, problemText, type Sweep } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import NameField from '../lib/controls/NameField.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { megahertz } from '../lib/units/format';

	interface Props {
		/** The sweep shown. */
		shownId: string;
		/** Those laid over it. */
		overIds: string[];
		onshow: (id: string) => void;
		onover: (ids: string[]) => void;
	}

	let { shownId, overIds, onshow, onover }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	let problem = $state<string | null>(null);
	let binned = $state.raw<Sweep | null>(null);

	async function tryTo(act: () => Promise<unknown>): Promise<void> {
		try {
			await act();
			problem = null;
		} catch (why) {
			problem = problemText(why);
		}
	}

	/** A sweep of which nobody said whether the match was in: asked before a match is put on it. */
	let askedOf = $state<string | null>(null);

	async function use(sweep: Sweep): Promise<void> {
		if (build.chosen_design_id !== null && !sweep.setup) {
			askedOf = sweep.id;
			return;
		}
		askedOf = null;
		await page.change({ baseline_sweep_id: sweep.id });
	}

	/** Keeps what was swept, as one says now. */
	async function taken(sweep: Sweep, plane: 'feedpoint' | 'matched'): Promise<void> {
		await answer(
			api.PATCH('/api/sweeps/{sweep_id}', {
				params: { path: { sweep_id: sweep.id } },
				body: { revision: sweep.revision, plane }
			})
		);
		askedOf = null;
		if (plane === 'feedpoint') await page.change({ baseline_sweep_id: sweep.id });
		await page.reload();
	}

	async function rename(sweep: Sweep, name: string): Promise<void> {
		await answer(
			api.PATCH('/api/sweeps/{sweep_id}', {
				params: { path: { sweep_id: sweep.id } },
				body: { revision: sweep.revision, name }
			})
		);
		await page.reload();
	}

	async function bin(sweep: Sweep): Promise<void> {
		await answer(
			api.DELETE('/api/sweeps/{sweep_id}', {
				params: { path: { sweep_id: sweep.id }, query: { revision: sweep.revision } }
			})
		);
		binned = sweep;
		await page.reload();
	}

	async function restore(sweep: Sweep): Promise<void> {
		const path = { sweep_id: sweep.id };
		await answer(api.POST('/api/sweeps/{sweep_id}/restore', { params: { path } }));
		binned = null;
		await page.reload();
	}
</script>

<section class="sheet" aria-label="Sweeps of this build">
	<h2>Sweeps of this build</h2>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if binned}
		{@const gone = binned}
		<Note kind="news">
			“{gone.name}” is in the bin.
			<button class="button" onclick={() => tryTo(() => restore(gone))}>Take it back</button>
		</Note>
	{/if}
	<ul>
		{#each build.sweeps as sweep (sweep.id)}
			{@const baseline = sweep.id === build.baseline_sweep_id}
			<li class:here={sweep.id === shownId}>
				<span class="which">
					<label
						><input
							type="radio"
							name="shown"
							checked={sweep.id === shownId}
							onchange={() => onshow(sweep.id)}
						/>
						show<span class="unseen"> {sweep.name}</span></label
					>
					<label
						><input
							type="checkbox"
							disabled={sweep.id === shownId}
							checked={overIds.includes(sweep.id)}
							onchange={(event) =>
								onover(
									event.currentTarget.checked
										? [...overIds, sweep.id]
										: overIds.filter((id) => id !== sweep.id)
								)}
						/>
						lay over<span class="unseen">: {sweep.name}</span></label
					>
				</span>
				<span class="words">
					<NameField what="sweep" name={sweep.name} level={3} onrename={(n) => rename(sweep, n)} />
					<small class="soft"
						>{sweep.source === 'typed' ? 'typed, ' : ''}{sweep.carries === 'swr'
							? 'SWR alone, '
							: ''}{sweep.calibration_id
							? 'corrected, '
							: sweep.source === 'analyser' || sweep.source === 'simulated'
								? 'not corrected, '
								: ''}{sweep.points} points, {megahertz(sweep.low_hz)} to {megahertz(sweep.high_hz)} MHz
						{#if sweep.setup?.plane === 'matched'}· with the match in place{/if}
						{#if baseline}· <strong>used for the match</strong>{/if}</small
					>
					{#each sweep.remarks as remark, nth (nth)}<small class="soft">{remark}</small>{/each}
				</span>
				{#if askedOf === sweep.id}
					<span class="asked">
						<Note kind="news" title="Was the match in place when “{sweep.name}” was swept?">
							<span class="row">
								<button class="button" onclick={() => tryTo(() => taken(sweep, 'feedpoint'))}
									>No: the wire alone</button
								>
								<button class="button" onclick={() => tryTo(() => taken(sweep, 'matched'))}
									>Yes: with the match</button
								>
								<button class="button" onclick={() => (askedOf = null)}>Leave it</button>
							</span>
						</Note>
					</span>
				{/if}
				<span class="row unprinted">
					{#if sweep.carries === 'impedance'}
						<a href="/api/sweeps/{sweep.id}/export?as=s1p" download>s1p</a>
					{/if}
					<a href="/api/sweeps/{sweep.id}/export?as=csv" download>csv</a>
					<a href="/api/sweeps/{sweep.id}/original" download>as it came</a>
					{#if !baseline}
						{#if sweep.carries === 'impedance' && sweep.setup?.plane !== 'matched'}
							<button
								class="button"
								aria-label="use for the match: {sweep.name}"
								onclick={() => tryTo(() => use(sweep))}>use for the match</button
							>
						{/if}
						<button
							class="button"
							aria-label="Put {sweep.name} in the bin"
							onclick={() => tryTo(() => bin(sweep))}>bin</button
						>
					{/if}
				</span>
			</li>
		{/each}
	</ul>
	<DropZone
		title="Add a sweep of this antenna"
		buildId={build.id}
		onsweeps={async (kept) => {
			await page.reload();
			onover([...overIds, ...kept.map((s) => s.id)]);
		}}
	/>
</section>

<style>
	section {
		display: grid;
		gap: 8px;
	}
	ul {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 4px;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 14px;
		padding: 4px 8px;
		border-radius: 6px;
	}
	.here {
		background: var(--selected);
		box-shadow: inset 4px 0 0 var(--blueprint);
	}
	.which {
		display: grid;
		font-size: var(--size-13);
	}
	.words {
		flex: 1 1 220px;
		min-width: 0;
	}
	small {
		display: block;
		font-size: var(--size-12);
	}
</style>
