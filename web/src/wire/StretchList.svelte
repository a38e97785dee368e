<!-- @component
	What if I stretch it: what a little more of each length or coil moves the dip by. Asked for when it is opened.
-->
<script lang="ts">
	import { answer, api, type Target } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { length, quantity } from '../lib/units/format';
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
				? { antenna: work.antenna, target, feed_ohm: work.plan.feed_ohm ?? null }
				: null,
		(body) => answer(api.POST('/api/structures/stretches', { body })),
		{ keeps: true }
	);
	const more = (name: string, added: number) => {
		const unit = work.labels[name]?.unit;
		return unit === 'm' ? length(added, units.length) : quantity(added, unit === 'F' ? 'F' : 'H');
	};
</script>

<details bind:open>
	<summary>What if I stretch it</summary>
	{#if found.problem}<p class="told">{found.problem}</p>{/if}
	<ul class="told">
		{#each found.value ?? [] as each (each.name)}
			<li>
				{more(each.name, each.added)} more of “{work.labels[each.name]?.label ?? each.name}”:
				<span class="mono">{movesText(each.moves_hz)}</span>
			</li>
		{/each}
	</ul>
</details>

<style>
	ul {
		margin: 4px 0 0;
		padding-left: 18px;
	}
</style>
