<!-- @component
	This winding beside another one: what each wins, band by band.
-->
<script lang="ts">
	import { type Content, type Design, type Element } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { figures, swr } from '../lib/units/format';
	import { withElement, woundName } from '../design/content';
	import ComparisonTable from './ComparisonTable.svelte';
	import { report } from './report';
	import { hottest, type Transformer, type Winding } from './wound';

	interface Props {
		content: Content;
		element: Transformer;
		winding: Winding;
		/** Other designs of the build, to compare with what they wind. */
		designs: Design[];
		/** The other one, as soon as it is known, for the chart. */
		onother: (other: { name: string; winding: Winding } | null) => void;
		onedit: (content: Content) => void;
	}

	let { content, element, winding, designs, onother, onedit }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	let chosen = $state('');

	interface Choice {
		key: string;
		/** Its element there. */
		piece?: string;
		name: string;
		content: Content;
	}
	const changed = (changes: Partial<Transformer>, ohm?: number): Content => {
		const made = withElement(content, element.key, changes as Partial<Element>);
		return ohm && content.antenna.kind === 'resistor'
			? { ...made, antenna: { ...content.antenna, resistance_ohm: ohm } }
			: made;
	};
	const choices = $derived.by((): Choice[] => {
		const m = element.primary_turns;
		const n = element.secondary_turns;
		const list: Choice[] = [];
		const add = (key: string, name: string, changes: Partial<Transformer>, ohm?: number) =>
			list.push({ key, name, content: changed(changes, ohm) });
		const core = element.core;
		if (element.wiring === 'tapped' || element.wiring === 'separate') {
			const ratio = n / m;
			add('more', `${m + 1} in ${Math.round(ratio * (m + 1))}`, {
				primary_turns: m + 1,
				secondary_turns: Math.round(ratio * (m + 1))
			});
			if (m > 1)
				add('fewer', `${m - 1} in ${Math.round(ratio * (m - 1))}`, {
					primary_turns: m - 1,
					secondary_turns: Math.round(ratio * (m - 1))
				});
			for (const [turns, ohm, name] of [
				[7, 2450, '49 : 1 on 2.45 kΩ'],
				[8, 3200, '64 : 1 on 3.2 kΩ'],
				[7.5, 2812, '56 : 1 on 2.8 kΩ']
			] as const) {
				if (Math.abs(ratio - turns) > 0.1 && Number.isInteger(turns * 2))
					add(name, name, { primary_turns: 2, secondary_turns: 2 * turns }, ohm);
			}
		} else {
			add('more', `${m + 2} turns`, {
				primary_turns: m + 2,
				secondary_turns: ((m + 2) * n) / m
			});
		}
		const stack = core.stack ?? 1;
		add('stack', stack > 1 ? 'one ring' : 'two rings stacked', {
			core: { ...core, stack: stack > 1 ? 1 : 2 }
		});
		for (const mix of ['43', '52', '61', '31'])
			if (mix !== core.mix)
				add(`mix${mix}`, `mix ${mix}`, { core: { ...core, mix, al_h: null }, piece: null });
		for (const size of ['FT114', 'FT140', 'FT240'])
			if (size !== core.size && core.size.startsWith('F'))
				add(`size${size}`, `on ${size}`, { core: { ...core, size, al_h: null }, piece: null });
		for (const d of designs) {
			const there = d.revision.content.elements.find((e) => e.kind === 'transformer');
			if (there)
				list.push({ key: d.id, piece: there.key, name: d.name, content: d.revision.content });
		}
		add('crossed', element.crossed ? 'straight round' : 'crossed over', {
			crossed: !element.crossed
		});
		return list;
	});
	const choice = $derived(choices.find((c) => c.key === chosen));

	// The name comes with its winding: an old one never stands under a new name.
	const compared = latest(
		() => (choice ? { choice, key: choice.piece ?? element.key, power_w: build.power_w } : null),
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

	/** The column of the lower value; none where they are alike. */
	const lower = (a: number, b: number, by: number) => (a < b - by ? 0 : b < a - by ? 1 : null);
	const metres = (w: Winding) => w.cuts.reduce((sum, c) => sum + c.cut_m, 0);
	const warm = (w: Winding) => hottest(w.heat, build.mode)?.rise.rise_c ?? 0;
	const rows = $derived.by(() => {
		const there = other;
		if (!there) return [];
		return [
			...winding.heat.flatMap((here) => {
				const o = there.heat.find((x) => x.label === here.label);
				if (!o) return [];
				return [
					{
						name: `${here.label}, lost`,
						cells: [`${here.loss_db.toFixed(2)} dB`, `${o.loss_db.toFixed(2)} dB`],
						wins: lower(here.loss_db, o.loss_db, 0.02)
					},
					{
						name: `${here.label}, SWR`,
						cells: [swr(here.swr), swr(o.swr)],
						wins: lower(here.swr ?? 99, o.swr ?? 99, 0.02)
					}
				];
			}),
			{
				name: 'warms by',
				cells: [`${figures(warm(winding), 2)} °C`, `${figures(warm(there), 2)} °C`],
				wins: lower(warm(winding), warm(there), 0.5)
			},
			{
				name: 'wire',
				cells: [`${figures(metres(winding))} m`, `${figures(metres(there))} m`]
			}
		];
	});
</script>

<h3 class="eyebrow">Beside another one</h3>
<select aria-label="Compare with" bind:value={chosen}>
	<option value="">choose what to compare with</option>
	{#each choices as c (c.key)}<option value={c.key}>{c.name}</option>{/each}
</select>
{#if problem}<p class="told">{problem}.</p>{/if}
{#if shown}
	<ComparisonTable heads={['this', shown.name]} {rows} />
	<p class="told soft">
		What wins is marked ✓; the chart shows it dotted, {woundName(element)} dashed.
	</p>
	<!-- Another design is opened at “What is wound”, not laid over this one. -->
	{#if !shown.piece}
		<button class="button" onclick={() => onedit(shown.content)}>Take {shown.name}</button>
	{/if}
{/if}

<style>
	select {
		width: 100%;
	}
</style>
