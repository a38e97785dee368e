<!-- @component
	Schools of what an end-fed wire is fed against, side by side on the model: what each does to the dip, to the current on
	the coax, to a hand near it; and where a choke helps. Asked for when it is opened.
-->
<script lang="ts">
	import { answer, api, type Schemas, type Target } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { distance, megahertz, quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import type { AntennaPlan } from './plan.svelte';
	import { movesText } from './words';

	interface Props {
		work: AntennaPlan;
		target: Target;
	}

	let { work, target }: Props = $props();
	let open = $state(false);

	const found = latest(
		() =>
			open && work.antenna && !work.dragged
				? {
						antenna: work.antenna,
						target,
						power_w: work.powerW,
						feed_ohm: work.plan.feed_ohm ?? null
					}
				: null,
		(body) => answer(api.POST('/api/structures/return-paths', { body })),
		{ keeps: true }
	);
	const named: Record<Schemas['ReturnPathOut']['school'], string> = {
		twentieth: 'a twentieth of a wave',
		quarter: 'a quarter-wave',
		beside: 'a short one beside the wire',
		shield: 'the shield, then a choke',
		nothing: 'the shield, no choke'
	};
	const best = $derived(
		(found.value?.choke ?? []).reduce<Schemas['ChokePlaceOut'] | null>(
			(a, b) => (a === null || (b.coax_a ?? Infinity) < (a.coax_a ?? Infinity) ? b : a),
			null
		)
	);
	const first = $derived(found.value?.choke[0]);
</script>

<details bind:open>
	<summary>Schools side by side</summary>
	{#if found.problem}<p class="told">{found.problem}</p>{/if}
	{#if open && found.loading && !found.value}<p class="told soft" role="status">
			solving each with its coax…
		</p>{/if}
	{#if found.value}
		<ul class="told" class:stale={found.loading}>
			{#each found.value.paths as path (path.school)}
				<li>
					<strong>{named[path.school]}</strong>{path.choke_m !== null && path.school === 'shield'
						? ` ${distance(path.choke_m, units.length)} down`
						: ''}:
					{path.dip_hz === null
						? 'no dip near here'
						: `dip ${megahertz(path.dip_hz)} MHz, ${quantity(path.resistance_ohm, 'Ω', 2)}`};
					<span class="mono">{quantity(path.coax_a, 'A', 2)}</span> on the coax{#if path.hand_moves_hz !== null};
						a hand at its foot: {movesText(path.hand_moves_hz)}{/if}.
				</li>
			{/each}
		</ul>
		{#if best && first}
			<p class="told">
				A choke on the shield helps most {distance(best.at_m, units.length)} down: {quantity(
					best.coax_a,
					'A',
					2
				)} beyond it, against {quantity(first.coax_a, 'A', 2)} at {distance(
					first.at_m,
					units.length
				)}.
			</p>
		{/if}
		<p class="told soft">
			Coax drawn down from the feed and 8 m away over the ground; a choke of 2.5 kΩ, with a
			counterpoise at the feed. Elsewhere it lies elsewhere: take the order, not the last figure.
		</p>
	{/if}
</details>

<style>
	ul {
		margin: 4px 0;
		padding-left: 16px;
	}
	li + li {
		margin-top: 3px;
	}
	.stale {
		opacity: 0.6;
	}
</style>
