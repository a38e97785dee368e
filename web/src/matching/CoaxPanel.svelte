<!-- @component
	The same length of every coax in place of the present one: what each turns to heat, as bars, and what the radio reads.
-->
<script lang="ts">
	import { answer, api, type Content } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import Help from '../lib/help/Help.svelte';
	import { length, swr, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';

	interface Props {
		content: Content;
		lengthM: number;
		powerW: number;
		/** Takes another cable. */
		ontake: (cable: string) => void;
	}

	let { content, lengthM, powerW, ontake }: Props = $props();

	const feedlines = latest(
		() => ({ content, power_w: powerW }),
		(body) => answer(api.POST('/api/feedlines', { body }))
	);
	const rows = $derived(feedlines.value ?? []);
	const most = $derived(Math.max(...rows.map((r) => r.loss_w ?? 0), 1e-9));
	const here = $derived(rows.find((r) => r.here));
	const best = $derived(rows[0]);
</script>

{#if rows.length}
	<section class="sheet" aria-label="Another coax">
		<h2>
			{length(lengthM, units.length)} of another coax <Help topic="coax" name="another coax" />
		</h2>
		{#if here && best && best.cable !== here.cable}
			<p>
				{best.name} would leave {watts((here.loss_w ?? 0) - (best.loss_w ?? 0))} more for the wire than
				yours; the radio would read {swr(best.radio_swr)} instead of {swr(here.radio_swr)}.
			</p>
		{:else if here}
			<p>Yours loses least of those in the table.</p>
		{/if}
		<table>
			<thead class="unseen"
				><tr><th>Coax</th><th>Heat</th><th>SWR at the radio</th><th>Take it</th></tr></thead
			>
			<tbody>
				{#each rows as row (row.cable)}
					<tr class:here={row.here}>
						<td>{row.name}</td>
						<td class="bar"
							><span style:width="{(100 * (row.loss_w ?? 0)) / most}%"></span><b class="mono"
								>{watts(row.loss_w)}</b
							></td
						>
						<td class="mono">{swr(row.radio_swr)}</td>
						<td
							>{#if !row.here}<button
									class="plain"
									aria-label="Take {row.name}"
									onclick={() => ontake(row.cable)}>take</button
								>{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</section>
{/if}

<style>
	p {
		font-size: var(--size-13);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-13);
		margin-top: 4px;
	}
	td {
		padding: 2px 6px;
	}
	.here {
		background: var(--selected);
		font-weight: 600;
	}
	.bar {
		width: 45%;
	}
	.bar span {
		display: inline-block;
		height: 11px;
		background: var(--heat);
		margin-right: 6px;
		max-width: 65%;
	}
</style>
