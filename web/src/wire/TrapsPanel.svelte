<!-- @component
	What the traps of an antenna bear on each band, by the model and by the line estimate; and both schools of where to
	tune them.
-->
<script lang="ts">
	import { answer, api, type Schemas, type Target } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, megahertz, quantity, swr, watts } from '../lib/units/format';
	import type { AntennaPlan } from './plan.svelte';
	import StretchList from './StretchList.svelte';

	interface Props {
		work: AntennaPlan;
		target: Target;
	}

	let { work, target }: Props = $props();

	const found = latest(
		() =>
			work.antenna && !work.dragged
				? {
						antenna: work.antenna,
						target,
						others: work.others,
						power_w: work.powerW,
						feed_ohm: work.plan.feed_ohm ?? null
					}
				: null,
		(body) => answer(api.POST('/api/structures/traps', { body })),
		{ keeps: true }
	);
	const named = { inside: 'tuned inside its band', below: 'tuned just below its band' } as const;
	const now = $derived(work.antenna?.numbers['trap_hz'] ?? 0);
	const isNow = (hz: number) => Math.abs(hz / Math.max(now, 1) - 1) < 0.001;
	const acts = (on: Schemas['TrapOnOut']) =>
		on.ends ? 'holds the rest apart' : `acts as ${quantity(on.acts_as_h, 'H')} of coil`;
</script>

<h2>What a trap bears</h2>
{#if found.problem}<Note kind="danger">{found.problem}</Note>{/if}
{#if found.value}
	<div class:stale={found.loading} aria-busy={found.loading}>
		{#each found.value.on as on (on.label)}
			<p class="told">
				<strong>{on.label}</strong>, {acts(on)}:
				<span class="mono">{quantity(on.model.voltage_v, 'V')}</span> and
				<span class="mono">{quantity(on.model.current_a, 'A')}</span> peak; {watts(on.traps_w)} stay in
				the traps.
				<span class="soft"
					>Line estimate: {quantity(on.estimate.voltage_v, 'V')}, {quantity(
						on.estimate.current_a,
						'A'
					)}.</span
				>
			</p>
		{/each}
		{#if found.value.schools.length}
			<h3>Two schools</h3>
			{#each found.value.schools as school (school.school)}
				<div class="school" class:here={isNow(school.trap_hz)}>
					<p class="told">
						<strong>{named[school.school]}</strong>, {megahertz(school.trap_hz)} MHz
					</p>
					<table>
						<thead
							><tr
								><th scope="col">band</th><th scope="col">radiated</th><th scope="col">in traps</th
								><th scope="col">volts</th><th scope="col">SWR</th></tr
							></thead
						>
						<tbody>
							{#each school.on as on (on.label)}
								<tr
									><td>{on.label}</td><td class="mono">{watts(on.radiated_w)}</td><td class="mono"
										>{figures(on.traps_w ?? 0, 2)} W</td
									><td class="mono">{figures(on.model.voltage_v ?? 0, 3)}</td><td class="mono"
										>{swr(on.worst_swr)}</td
									></tr
								>
							{/each}
						</tbody>
					</table>
					{#if !isNow(school.trap_hz)}
						<button
							class="button"
							onclick={() => void work.attempt(() => work.keep({ antenna: school.antenna }))}
							>Take {named[school.school]}</button
						>
					{/if}
				</div>
			{/each}
			<p class="told soft">SWR is the worst over the band, on 50 Ω.</p>
		{:else}
			<p class="told">Choose a second band beside it: a trap parts two.</p>
		{/if}
	</div>
	<Note kind="danger"
		>A trap's ends carry hundreds of volts: parts that stand them, and no hand near while
		transmitting.</Note
	>
{:else if !found.problem}<p class="wait soft">…</p>{/if}
<StretchList {work} {target} />

<style>
	h3 {
		margin: 8px 0 2px;
		font-size: var(--size-14);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-12);
	}
	th {
		text-align: left;
		font-weight: 400;
		color: var(--soft);
	}
	td,
	th {
		padding: 1px 4px 1px 0;
		white-space: nowrap;
	}
	.school {
		border-top: 1px solid var(--line);
		padding: 6px 0;
	}
	.school.here {
		border-left: 3px solid var(--copper);
		padding-left: 8px;
	}
	.stale {
		opacity: 0.55;
	}
</style>
