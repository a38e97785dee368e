<!-- @component
	The log desk: everything that happened on one line of time, the newest first; the baseline, and any day of the past.
-->
<script lang="ts">
	import { problemText } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import TextField from '../lib/controls/TextField.svelte';
	import Note from '../lib/shell/Note.svelte';
	import AgainCard from './AgainCard.svelte';
	import ArchivePanel from './ArchivePanel.svelte';
	import BaselineCard from './BaselineCard.svelte';
	import { dayOf } from './curvesOf';
	import DoneCard from './DoneCard.svelte';
	import { LogBook } from './logBook.svelte';
	import LogLine from './LogLine.svelte';
	import { days, groups } from './logWords';
	import { whenSeen } from './seen';
	import TellForm from './TellForm.svelte';
	import ThenCard from './ThenCard.svelte';

	const page = openBuild();
	const build = $derived(page.build);
	const book = new LogBook(page.id);
	book.again();

	let against = $state<string | null>(null);
	let day = $state('');
	let problem = $state<string | null>(null);

	const bands = $derived(build.targets.map((t) => t.label));
	const found = $derived(days(book.items, new Date()));
	/** Sweeps of the bench lie in the log alone. */
	const bench = $derived(
		book.items.flatMap((i) =>
			i.sweep && i.build_id === build.id && i.sweep.carries === 'impedance' ? [i.sweep] : []
		)
	);
	const filtered = $derived(book.groups.length > 0 || book.text !== '');
	const range = $derived.by(() => {
		const sweep = build.sweeps.find((s) => s.id === build.baseline_sweep_id);
		const first = build.targets[0];
		return [sweep?.low_hz ?? first?.low_hz ?? 1e6, sweep?.high_hz ?? first?.high_hz ?? 3e7];
	});
	const markerHz = $derived(page.markerIn(range[0] ?? 1e6, range[1] ?? 3e7));
	const onmarker = (hz: number, settled: boolean) => page.mark(hz, settled);

	async function changed(): Promise<void> {
		book.again();
		await page.reload();
	}

	async function baseline(id: string): Promise<void> {
		try {
			problem = null;
			await page.change({ baseline_sweep_id: id });
			against = null;
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

{#if book.problem}<Note kind="danger">{book.problem}</Note>{/if}
{#if problem}<Note kind="danger">{problem}</Note>{/if}
{#if build.look_again}
	<Note kind="news" title="A year is over.">
		On {dayOf(build.look_again)} you wanted to look at it again: joints, box, coax, the pull on the ends;
		then sweep it against the baseline.
	</Note>
{/if}
<div class="desk">
	<div class="line">
		<TellForm buildId={build.id} {bands} onkept={changed} />
		<div class="filters unprinted">
			<div class="row" role="group" aria-label="What is shown">
				{#each groups as group (group.key)}
					<button
						class="button"
						class:main={book.groups.includes(group.key)}
						aria-pressed={book.groups.includes(group.key)}
						onclick={() => book.toggle(group.key)}>{group.name}</button
					>
				{/each}
			</div>
			<div class="row">
				<TextField
					label="Find"
					shown={book.text}
					placeholder="words in the log"
					onsettle={(text) => book.find(text)}
				/>
				<label
					><input
						type="checkbox"
						checked={book.everywhere}
						onchange={(e) => book.lookEverywhere(e.currentTarget.checked)}
					/> in all builds</label
				>
			</div>
		</div>
		<div class="days" class:sheet={found.length > 0}>
			{#each found as stretch (stretch.key)}
				<section aria-label={stretch.title}>
					<h2>
						{stretch.title}
						{#if !book.everywhere}
							<button
								class="plain unprinted"
								aria-label="{stretch.title}: as it was then"
								onclick={() => (day = stretch.key.replace(/-(\d)(?=-|$)/g, '-0$1'))}
								>as it was then</button
							>
						{/if}
					</h2>
					<ol>
						{#each stretch.items as item (item.what + item.id)}
							<LogLine
								{item}
								bands={item.build_id === build.id ? bands : []}
								baselineId={build.baseline_sweep_id}
								named={book.everywhere}
								onchange={changed}
								onagainst={item.build_id === build.id &&
								build.sweeps.some((s) => s.id === item.sweep?.id)
									? (id) => (against = id)
									: undefined}
							/>
						{/each}
					</ol>
				</section>
			{/each}
		</div>
		{#if found.length === 0 && book.loaded}
			<section class="sheet">
				{#if filtered}
					<p>Nothing in the log says so.</p>
				{:else}
					<h2>Nothing has happened yet</h2>
					<p>
						Sweeps, cuts, readings, bench checks and designs come here by themselves. Tell the rest:
						where it hangs, what you heard, a photograph of the open box.
					</p>
				{/if}
			</section>
		{/if}
		{#if book.more}
			{#key book.items.length}
				<p class="more" {@attach whenSeen(() => void book.further())}>
					<button class="button" onclick={() => book.further()}>Further back</button>
				</p>
			{/key}
		{/if}
	</div>
	<div class="right">
		<p class="unprinted">
			<a class="button" href="/builds/{build.id}/fault">Something is wrong: find the fault</a>
		</p>
		<BaselineCard {build} {against} {markerHz} {onmarker} onbaseline={baseline} />
		<ThenCard buildId={build.id} {day} onday={(d) => (day = d)} />
		<AgainCard {build} {bench} {markerHz} {onmarker} onkept={changed} />
		<ArchivePanel buildId={build.id} />
		<DoneCard {build} designs={page.designs} onbaseline={baseline} onkept={changed} />
	</div>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 340px;
		gap: 14px;
		align-items: start;
	}
	.line,
	.right {
		display: grid;
		gap: 11px;
		grid-template-columns: minmax(0, 1fr);
		align-content: start;
	}
	.filters {
		display: grid;
		gap: 8px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		align-items: center;
		font-size: var(--size-13);
	}
	ol {
		list-style: none;
		padding: 0;
		margin: 0;
	}
	h2 {
		display: flex;
		gap: 12px;
		align-items: baseline;
		font-size: var(--size-13);
		margin: 0;
	}
	section + section h2 {
		border-top: 1px solid var(--line);
		padding-top: 5px;
	}
	.more {
		text-align: center;
	}
	@media (max-width: 1050px) {
		.desk {
			grid-template-columns: minmax(0, 1fr);
		}
		.line,
		.right {
			display: contents;
		}
		/* To tell first, then what decides, then the line; the rest after it. */
		.line > :global(form) {
			order: 1;
		}
		.right > :global(.verdict) {
			order: 2;
		}
		.filters {
			order: 3;
		}
		.days,
		.more {
			order: 4;
		}
		.right > :global(:not(.verdict)) {
			order: 5;
		}
	}
	@media print {
		.desk {
			display: block;
		}
	}
</style>
