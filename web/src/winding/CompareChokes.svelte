<!-- @component
	This choke beside another one: resistance on every band.
-->
<script lang="ts">
	import { type Content } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { length, quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { withElement } from '../design/content';
	import ComparisonTable from './ComparisonTable.svelte';
	import { report } from './report';
	import type { Choke, Winding } from './wound';

	interface Props {
		content: Content;
		element: Choke;
		winding: Winding;
		/** The other one that is compared, for the chart. */
		onother: (other: { name: string; winding: Winding } | null) => void;
		onedit: (content: Content) => void;
	}

	let { content, element, winding, onother, onedit }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	let chosen = $state('');

	const choices = $derived.by(() => {
		const core = element.core;
		const list: { name: string; content: Content }[] = [];
		const add = (name: string, changes: Partial<Choke>) =>
			list.push({ name, content: withElement(content, element.key, changes) });
		for (const by of [2, -2]) {
			const turns = element.turns + by;
			if (turns > 1) add(`${turns} turns`, { turns });
		}
		if (!core) {
			add('on a ring, FT240-43', {
				core: { mix: '43', size: 'FT240', stack: 1, al_h: null, material: null },
				former_m: null
			});
			return list;
		}
		const stack = core.stack ?? 1;
		add(stack > 1 ? 'one ring' : 'two rings stacked', {
			core: { ...core, stack: stack > 1 ? 1 : 2 }
		});
		add(element.crossed ? 'straight round' : 'half and half', { crossed: !element.crossed });
		for (const mix of ['31', '43', '52', '61'])
			if (mix !== core.mix)
				add(`mix ${mix}`, { core: { ...core, mix, al_h: null, material: null }, piece: null });
		add('on air, a 66 mm tube', { core: null, former_m: 0.066, crossed: false });
		return list;
	});
	const choice = $derived(choices.find((c) => c.name === chosen));

	// The name comes with its winding: an old one never stands under a new name.
	const compared = latest(
		() => (choice ? { choice, key: element.key, power_w: build.power_w } : null),
		async ({ choice, ...of }) => ({
			...choice,
			winding: await report({ content: choice.content, ...of })
		})
	);
	const shown = $derived(compared.value);
	const other = $derived(shown?.winding ?? null);
	const problem = $derived(compared.problem);
	// The chart on another part of the desk shows the other one too.
	$effect(() => onother(shown));

	const rows = $derived([
		...(winding.choke?.bands ?? []).map((b) => {
			const here = b.resistance_ohm;
			const there = other?.choke?.bands.find((o) => o.label === b.label)?.resistance_ohm ?? 0;
			return {
				name: `${b.label}, resistive`,
				cells: [quantity(here, 'Ω'), quantity(there, 'Ω')],
				wins: here > 1.02 * there ? 0 : there > 1.02 * here ? 1 : null
			};
		}),
		{
			name: 'line to cut',
			cells: [winding, other].map((w) => length(w?.choke?.length_m ?? 0, units.length))
		}
	]);
</script>

<h3 class="eyebrow">Beside another one</h3>
<select aria-label="Compare with" bind:value={chosen}>
	<option value="">choose what to compare with</option>
	{#each choices as c, nth (nth)}<option value={c.name}>{c.name}</option>{/each}
</select>
{#if problem}<p class="told">{problem}.</p>{/if}
{#if shown}
	<ComparisonTable heads={['this', shown.name]} {rows} />
	<p class="told soft">What wins is marked ✓; the chart shows the other one dotted.</p>
	<button class="button" onclick={() => onedit(shown.content)}>Take {shown.name}</button>
{/if}

<style>
	select {
		width: 100%;
	}
</style>
