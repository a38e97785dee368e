<!-- @component
	What to cut before one starts: a bar to scale for every wire, with its length.
-->
<script lang="ts">
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { acrossText, hue, type Winding, wireName } from './wound';

	let { winding }: { winding: Winding } = $props();

	const most = $derived(Math.max(...winding.cuts.map((c) => c.cut_m)));
	const first = $derived(winding.cuts[0]);
	const many = $derived(winding.cuts.length > 2);
</script>

<ul>
	{#each winding.cuts as cut, nth (nth)}
		<li>
			<span
				class="bar"
				style:background="var(--{hue(cut.wire)})"
				style:width="{(64 * cut.cut_m) / most}%"
			></span>
			<b class="mono">{length(cut.cut_m, units.length)}</b>
			<span class="what"
				>{winding.kind === 'transformer' || winding.choke?.pair_ohm
					? wireName(cut.wire)
					: winding.choke || winding.trap?.coax_m
						? 'coax'
						: 'wire'}{many ? '' : `, ${winding.made_of.wire}`}</span
			>
		</li>
	{/each}
	{#each winding.across as part, nth (nth)}
		<li><b>and a {acrossText(part)[0]}</b></li>
	{/each}
</ul>
{#if first}
	<p class="told">
		{many ? `${winding.made_of.wire}. ` : ''}{length(first.turn_m, units.length)} a turn, plus {length(
			first.tails_m,
			units.length
		)} for both tails{first.spare_turns ? ', and a turn to spare' : ''}.
		{#if winding.fit.free_deg !== null}
			The last turn leaves {Math.round(winding.fit.free_deg ?? 0)}° of the hole free.
		{/if}
	</p>
{/if}

<style>
	ul {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 6px;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0 10px;
	}
	.bar {
		height: 7px;
		border-radius: 4px;
	}
	.what {
		flex-basis: 100%;
		font-size: var(--size-13);
		font-weight: 600;
	}
	p {
		margin-top: 6px;
		color: var(--soft);
	}
</style>
