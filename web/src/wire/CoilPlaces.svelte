<!-- @component
	Where to put a loading coil: along the wire, what each place asks for and gives. A row taken puts the coil there.
-->
<script lang="ts">
	import { answer, api, type Target } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, length, percent, quantity, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import type { AntennaPlan } from './plan.svelte';
	import StretchList from './StretchList.svelte';

	interface Props {
		work: AntennaPlan;
		target: Target;
	}

	let { work, target }: Props = $props();

	const asked = $derived(
		work.antenna && !work.dragged
			? {
					antenna: work.antenna,
					target,
					power_w: work.powerW,
					feed_ohm: work.plan.feed_ohm ?? null
				}
			: null
	);
	const found = latest(
		() => asked,
		(body) => answer(api.POST('/api/structures/coil-places', { body })),
		{ keeps: true }
	);
	const here = $derived(work.antenna?.numbers['coil_at'] ?? 0.5);
	/** As it hangs: the end of the wire first. */
	const rows = $derived(
		[...(found.value?.places ?? [])]
			.map((place, i) => ({ ...place, most: i === found.value?.most }))
			.reverse()
	);
	const widest = $derived(Math.max(...rows.map((r) => r.radiated_w ?? 0), 1));

	function take(at: number, henry: number): void {
		void work.attempt(() =>
			work.change((now) => ({
				...now,
				numbers: { ...now.numbers, coil_at: at, inductance_h: henry }
			}))
		);
	}
</script>

<h2>Where to put the coil</h2>
{#if found.problem}<Note kind="danger">{found.problem}</Note>{/if}
{#if rows.length}
	<table class:stale={found.loading} aria-busy={found.loading}>
		<thead>
			<tr
				><th scope="col">up from the feed</th><th scope="col">radiated</th><th scope="col">coil</th
				><th scope="col">wide</th></tr
			>
		</thead>
		<tbody>
			{#each rows as row (row.coil_at)}
				{@const at = Math.abs(row.coil_at - here) < 0.005}
				<tr class:here={at} class:most={row.most}>
					<td>
						<button
							class="plain"
							aria-pressed={at}
							aria-label="coil {percent(row.coil_at)} up from the feed"
							onclick={() => take(row.coil_at, row.inductance_h)}>{percent(row.coil_at)}</button
						>
					</td>
					<td
						><span class="bar" style:width="{(46 * (row.radiated_w ?? 0)) / widest}px"></span>
						{watts(row.radiated_w)}</td
					>
					<td class="mono">{quantity(row.inductance_h, 'H')}</td>
					<td class="mono"
						>{row.width_hz === null ? '–' : `${figures(row.width_hz / 1e3, 2)} kHz`}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	{@const best = rows.find((r) => r.most)}
	{@const now = rows.find((r) => Math.abs(r.coil_at - here) < 0.005)}
	{#if best}
		<p class="told">
			Most goes up with it at {percent(best.coil_at)}, {length(best.above_m, units.length)} of wire above
			it: of {watts(work.powerW)}
			{watts(best.radiated_w)}; the coil keeps {watts(best.coil_w)} and bears {quantity(
				best.voltage_v,
				'V'
			)} peak.
			{#if now && !best.most && (best.radiated_w ?? 0) > 0}It stands elsewhere.{/if}
			{#if best.estimate_h}The line estimate says {quantity(best.estimate_h, 'H')} there.{/if}
		</p>
		<p class="told soft">
			Wide: up to {figures(found.value?.width_swr ?? 2, 2)} : 1 once it is matched in the middle. Further
			up it radiates better and asks for more coil, which is narrower; near the end the coil takes back
			what that gives.
		</p>
	{/if}
{:else if !found.problem}<p class="wait soft">…</p>{/if}
<StretchList {work} {target} />

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-12);
	}
	th {
		text-align: left;
		font-weight: 400;
		color: var(--soft);
		padding: 0 4px 2px 0;
		vertical-align: bottom;
	}
	td {
		padding: 1px 4px 1px 0;
		white-space: nowrap;
	}
	.bar {
		display: inline-block;
		height: 9px;
		background: var(--verdigris);
		border-radius: 2px;
	}
	.here td {
		background: var(--copper-wash);
	}
	.most .bar {
		outline: 2px solid var(--ink);
		outline-offset: -1px;
	}
	.plain {
		font: inherit;
		font-family: var(--mono);
		background: none;
		border: 0;
		text-decoration: underline dotted var(--soft);
		padding: 3px 6px;
		color: var(--ink);
		cursor: pointer;
	}
	.stale {
		opacity: 0.55;
	}
</style>
