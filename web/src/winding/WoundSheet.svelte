<!-- @component
	The wound thing to wind from: its picture to scale, which wire goes where, how it is laid, and what joins.
-->
<script lang="ts">
	import Help from '../lib/help/Help.svelte';
	import { turns as turnsText } from '../lib/units/format';
	import CoilPicture from './CoilPicture.svelte';
	import Joins from './Joins.svelte';
	import RingPicture from './RingPicture.svelte';
	import {
		type Changes,
		coreName,
		coreOf,
		hue,
		passes,
		ratios,
		terminal,
		titleOf,
		type Windable,
		type Winding
	} from './wound';

	interface Props {
		buildId: string;
		designId: string;
		element: Windable;
		/** None while it is first laid. */
		winding: Winding | null;
		/** Changes the element. */
		onset: (changes: Changes) => void;
	}

	let { buildId, designId, element, winding, onset }: Props = $props();

	const title = $derived(titleOf(element));
	const core = $derived(coreOf(element));
	/** Legend: a wire, where it goes by both ends. */
	const legend = $derived.by(() => {
		const names = [...new Set(winding?.cuts.map((c) => c.wire) ?? [])];
		return names.map((wire) => ({
			wire,
			turns:
				(winding?.picture.kind === 'ring' &&
					winding.picture.turns.filter((t) => t.wires.includes(wire)).length) ||
				(winding?.turns.passes ?? 0),
			goes: (winding?.joins ?? [])
				.flatMap((j) => j.ends.filter((e) => e.wire === wire).map((e) => ({ e, at: j.at })))
				.map(({ e, at: place }) => ({ what: e.end, place: terminal(place) }))
		}));
	});
</script>

<section class="sheet">
	<div class="head">
		<h2>{title}</h2>
		<span class="told soft">
			{#if winding?.turns.primary && element.kind === 'transformer'}
				{#if ratios(winding.turns)}{ratios(winding.turns)}{/if}
			{:else if winding}{turnsText(winding.turns.passes)} turns{/if}
		</span>
	</div>
	{#if winding?.picture.kind === 'ring'}
		<p class="told">
			{core ? coreName(core) : ''}, {winding.made_of.wire}
		</p>
		<RingPicture {winding} />
		<p class="told soft">
			{#if winding.picture.rings > 1}Two rings alike, this one red and blue, the other copper and
				black.{/if}
			To scale, seen from the coax side; every pass goes in from the front. {passes(winding.turns)}.
		</p>
		<ul class="legend">
			{#each legend as row, nth (nth)}
				<li>
					<span class="dash" style:background="var(--{hue(row.wire)})"></span>
					<span
						>{row.wire === 'long' && legend.length > 1
							? `long wire, ${row.turns} turns; the first ${legend[1]?.turns} with the primary`
							: row.wire === 'primary'
								? `primary wire, ${row.turns} turns`
								: row.wire === 'long' && element.kind === 'choke'
									? `coax, ${row.turns} turns`
									: `${row.wire === 'ink' ? 'black' : row.wire} wire, ${row.turns} turns`}</span
					>
					<span class="goes"
						>{#each row.goes as g, i (i)}<span>{g.what} {g.place}</span>{/each}</span
					>
				</li>
			{/each}
		</ul>
	{:else if winding}
		<p class="told">{winding.made_of.wire}</p>
		<CoilPicture {winding} />
	{/if}
	<div class="row unprinted">
		{#if core && 'crossed' in element}
			<button
				class="button"
				class:main={element.crossed}
				aria-pressed={element.crossed}
				onclick={() => onset({ crossed: true })}>Cross over</button
			>
			<button
				class="button"
				class:main={!element.crossed}
				aria-pressed={!element.crossed}
				onclick={() => onset({ crossed: false })}>Straight round</button
			>
		{/if}
		{#if element.kind === 'transformer' && element.wiring === 'tapped'}
			<button
				class="button"
				aria-pressed={!element.primary_wire}
				class:main={!element.primary_wire}
				onclick={() => onset({ primary_wire: !element.primary_wire })}
				>{element.primary_wire ? 'Tap instead of a primary wire' : 'Tapped'}</button
			>
		{/if}
		{#if element.kind === 'transformer' && (element.primary_wire || element.wiring !== 'tapped')}
			<button
				class="button"
				class:main={element.twisted}
				aria-pressed={element.twisted}
				onclick={() => onset({ twisted: !element.twisted })}>Twisted</button
			>
		{/if}
		<a class="button" href="/builds/{buildId}/count?design={designId}&piece={element.key}"
			>Count with me</a
		>
		<button class="button" onclick={() => print()}>Print it</button>
	</div>
</section>
{#if winding && element.kind === 'transformer'}
	<section class="sheet">
		<h2>What joins where <Help topic="joins" name="the connection chart" /></h2>
		<Joins {winding} />
	</section>
{/if}

<style>
	.legend {
		list-style: none;
		padding: 0;
		margin: 8px 0;
		display: grid;
		gap: 4px;
		font-size: var(--size-13);
	}
	.legend li {
		display: grid;
		grid-template-columns: 26px 1fr auto;
		gap: 6px;
		align-items: start;
	}
	.dash {
		height: 6px;
		border-radius: 3px;
		margin-top: 6px;
	}
	.goes span {
		display: block;
		font: var(--size-12) var(--mono);
		text-align: right;
	}
	.row {
		margin-top: 8px;
	}
</style>
