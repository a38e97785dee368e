<!-- @component
	Every way to match, with parts that one can make: the search, its picture, a card a network.
-->
<script lang="ts">
	import { onDestroy, onMount } from 'svelte';

	import {
		answer,
		api,
		type Build,
		type Content,
		type SearchFound,
		type Way
	} from '../lib/api/client';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { percent, swr } from '../lib/units/format';
	import { sameMatch, withWay } from '../design/content';
	import FrontPicture from './FrontPicture.svelte';
	import { frameOf, type MatchSearch, type PartsFrom } from './search.svelte';
	import WayRow from './WayRow.svelte';
	import { idealText, worstOf } from './ways';

	interface Props {
		build: Build;
		content: Content;
		/** The search of this desk. */
		search: MatchSearch;
		/** Takes a way onto the rulers. */
		ontake: (content: Content) => void;
	}

	let { build, content, search, ontake }: Props = $props();

	let from = $state<PartsFrom>('sold');
	let rows = $state<HTMLElement>();
	/** Key of the one that is opened. */
	let opened = $state<string | null>(null);

	// Its process is loaded while one looks at the page. What is refused here would be refused there, and said then.
	onMount(() => void answer(api.POST('/api/searches/ready')).catch(() => undefined));
	onDestroy(() => search.end());

	const found = $derived(search.found);
	const progress = $derived(search.job?.progress);
	const share = $derived(progress && progress.of ? progress.done / progress.of : 0);
	const stale = $derived(
		search.job !== null && !search.running && search.askedFor !== frameOf(content, build.power_w)
	);
	const limits = $derived([...new Set(content.targets.map((t) => t.swr_limit))]);
	const limit = $derived(limits.length === 1 ? (limits[0] ?? null) : null);
	const here = $derived(
		[...(found?.front ?? []), ...(found?.others ?? [])].find((w) => sameMatch(w.content, content))
			?.key ?? null
	);
	const best = $derived(found?.front[0]);
	const worst = $derived(best ? worstOf(best, limit) : null);
	const counting = $derived(search.running);
	/** Only a search that came to its end can say what is not there. */
	const whole = $derived(search.job?.state === 'done');
	const tried = $derived(
		!progress || progress.looked < 1000
			? ''
			: progress.looked < 1e6
				? `${Math.round(progress.looked / 1000)} thousand networks judged`
				: `${(progress.looked / 1e6).toFixed(1)} million networks judged`
	);

	function take(way: Way): void {
		ontake(withWay(content, way.content));
	}

	/** A dot leads to its line. */
	function pick(way: Way): void {
		opened = way.key;
		const row = rows?.children[found?.front.findIndex((w) => w.key === way.key) ?? -1];
		row?.scrollIntoView({ block: 'nearest' });
		row?.querySelector<HTMLElement>('button')?.focus();
	}
</script>

{#snippet row(way: Way, number?: number)}
	<WayRow
		{way}
		{number}
		targets={content.targets}
		{limit}
		here={way.key === here}
		{counting}
		open={way.key === opened}
		onopen={() => (opened = opened === way.key ? null : way.key)}
		ontake={() => take(way)}
	/>
{/snippet}

<svelte:window onpagehide={() => search.end()} />

{#snippet apart(found: SearchFound)}
	{#if found.give_up}
		Give up {found.give_up.label}, and one network comes to {percent(
			found.give_up.ideal.excess ?? 0
		)} of the limits of the rest{found.give_up.ideal.holds ? ', which holds' : ''}: {idealText(
			found.give_up.ideal
		)}.
	{/if}
	{#if found.switched}
		Two networks and a switch: {idealText(found.switched.first_ideal)} for {found.switched.first.join(
			', '
		)} ({percent(found.switched.first_ideal.excess ?? 0)} of its limit), and {idealText(
			found.switched.second_ideal
		)} for {found.switched.second.join(', ')} ({percent(found.switched.second_ideal.excess ?? 0)}).
	{/if}
{/snippet}

<section class="sheet ways" aria-label="Ways to match">
	<div class="row">
		<h2>Every way to match <Help topic="ways" name="the ways to match" /></h2>
		<span class="row">
			<label
				>from
				<select aria-label="Parts from" bind:value={from} disabled={search.running}>
					<option value="sold">my drawer and what is sold</option>
					<option value="drawer">my drawer only</option>
				</select></label
			>
			{#if search.running}
				<button class="button" onclick={() => void search.stop()}>Stop</button>
			{:else}
				<button class="button main" onclick={() => void search.start(content, build, from)}
					>{found ? 'Search again' : 'Search'}</button
				>
			{/if}
		</span>
	</div>
	{#if search.running}
		<div class="going">
			<progress value={share} max="1" aria-label="How far the search is"></progress>
			<span role="status">
				{search.job?.state === 'queued' && search.job.place
					? `${search.job.place}. in the queue`
					: progress?.stage === 'yield'
						? 'counting builds'
						: tried || 'finding the best values'}
			</span>
		</div>
	{/if}
	{#if search.problem}<Note kind="danger">{search.problem}.</Note>{/if}
	{#if !found && !search.running}
		<p class="soft">
			Networks of one to three parts, ununs, sections and stubs of coax: each with turns you can
			count, capacitors you can buy and coax cut to the centimetre, judged over the whole band. You
			pick from the best compromises.
		</p>
	{/if}
	{#if stale}
		<Note kind="news">This was found for another wire, band or power. Search again.</Note>
	{/if}
	{#if found}
		{#if found.nothing_mine}
			<Note kind="news">
				Your drawer holds nothing to match with: no former, capacitor, coax or ring. These would be
				made of what is sold; each card says what to buy.
			</Note>
		{/if}
		{#if search.job?.state === 'stopped' && !search.running}
			<Note kind="news" title="The search ended early.">
				{found.front.length
					? 'Below is what it had found by then; what was not tried yet may be better.'
					: 'It had found nothing yet.'} Search again for all of it.
			</Note>
		{/if}
		{#if best && !found.holds && whole}
			<Note kind="danger" title="Nothing holds.">
				The best that can be made reaches {swr(worst)}{limit === null
					? ''
					: `, above ${Number(limit.toFixed(2))}`}.
				{#if found.over_rating}Parts that would hold cannot stand the power: less power, or parts
					rated for more.{/if}
				{@render apart(found)}
			</Note>
		{/if}
		{#if !found.front.length && whole}
			<Note kind="danger" title="Nothing can be made.">
				{#if found.over_rating}
					{found.over_rating.toLocaleString('en')} networks would match, but a part of each would not
					stand the power. Send less, or take parts rated for more.
				{:else if found.too_lossy}
					What would match loses more than a fifth of the power.
				{:else}
					None of these parts brings this wire near 50 Ω.
				{/if}
				{#if found.ideals[0]}With parts of any value: {idealText(found.ideals[0])}.{/if}
				{@render apart(found)}
			</Note>
		{/if}
		{#if found.front.length}
			<FrontPicture front={found.front} others={found.others} {limit} {here} onpick={pick} />
			<div bind:this={rows}>
				{#each found.front as way, nth (way.key)}
					{@render row(way, nth + 1)}
				{/each}
			</div>
			{#if found.others.length && !search.running}
				<h3 class="eyebrow">Beaten by those, and the best of their kind</h3>
				{#each found.others as way (way.key)}{@render row(way)}{/each}
			{/if}
			{#if !search.running}
				<p class="soft">
					{tried}.
					{#if found.over_rating}{found.over_rating.toLocaleString('en')} were left out because a part
						would not stand {build.power_w} W.{/if}
					{#if found.too_lossy}{found.too_lossy.toLocaleString('en')} because they lose more than a fifth
						of the power.{/if}
				</p>
			{/if}
		{/if}
	{/if}
</section>

<style>
	h2 {
		font-size: var(--size-14);
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
		justify-content: space-between;
	}
	select {
		max-width: 240px;
	}
	.going {
		display: flex;
		gap: 10px;
		align-items: center;
		margin: 6px 0;
		font-size: var(--size-13);
		color: var(--soft);
	}
	progress {
		flex: 1;
		accent-color: var(--copper);
		height: 10px;
	}
	.soft {
		color: var(--soft);
		font-size: var(--size-13);
		margin-top: 6px;
	}
</style>
