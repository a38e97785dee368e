<!-- @component
	Which bands to hold, and with what SWR limit.
-->
<script lang="ts">
	import { answer, api, type Band, type Sweep, problemText, type Target } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { edgeMegahertz, swr } from '../lib/units/format';

	interface Props {
		/** The sweep that the targets must lie in; none while the wire is still to be swept. */
		sweep?: Sweep;
		/** Stretches of it without samples. */
		gaps?: { low_hz: number; high_hz: number }[];
	}

	let { sweep, gaps = [] }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	/** Keeps other targets. Throws `Refused` where they do not fit. */
	const onchange = (targets: Target[]) => page.change({ targets });

	let bands = $state.raw<Band[]>([]);
	void answer(api.GET('/api/tables/bands'))
		.then((table) => (bands = table.rows))
		.catch(() => undefined);

	let problem = $state<string | null>(null);
	const inside = $derived(
		bands.filter(
			(b) =>
				!sweep ||
				(b.low_hz >= sweep.low_hz &&
					b.high_hz <= sweep.high_hz &&
					gaps.every((gap) => b.high_hz <= gap.low_hz || b.low_hz >= gap.high_hz))
		)
	);
	const own = $derived(
		build.targets.filter((t) => !bands.some((b) => t.label.startsWith(b.label)))
	);

	// What a band offers: all of it, and each segment of it, as targets with names of their own.
	const offered = $derived(
		inside.map((b) => ({
			key: b.key,
			label: b.label,
			choices: [
				{ mode: '', label: b.label, low_hz: b.low_hz, high_hz: b.high_hz },
				...Object.entries(b.segments ?? {}).map(([mode, s]) => ({
					mode,
					label: `${b.label} ${mode}`,
					low_hz: s.low_hz,
					high_hz: s.high_hz
				}))
			]
		}))
	);
	type Choice = (typeof offered)[number]['choices'][number];

	async function keep(targets: Target[]): Promise<void> {
		try {
			await onchange(targets);
			problem = null;
		} catch (why) {
			problem = problemText(why);
		}
	}

	function toggle(choice: Choice): Promise<void> {
		const others = build.targets.filter((t) => t.label !== choice.label);
		if (others.length < build.targets.length) {
			return others.length ? keep(others) : Promise.resolve();
		}
		const { label, low_hz, high_hz } = choice;
		const made = { label, low_hz, high_hz, swr_limit: 2 };
		return keep([...build.targets, made].sort((a, b) => a.low_hz - b.low_hz));
	}

	/** Up or down in the list: values of parts are meant at the middle of the first one. */
	function first(label: string): Promise<void> {
		return keep(
			[...build.targets].sort((a, b) => Number(b.label === label) - Number(a.label === label))
		);
	}

	function addOwn(): Promise<void> {
		const present = build.targets[0];
		const middle = sweep
			? (sweep.low_hz + sweep.high_hz) / 2
			: ((present?.low_hz ?? 14e6) + (present?.high_hz ?? 14e6)) / 2;
		let n = 1;
		while (build.targets.some((t) => t.label === `own ${n}`)) n += 1;
		const made = {
			label: `own ${n}`,
			low_hz: middle * 0.995,
			high_hz: middle * 1.005,
			swr_limit: 2
		};
		return keep([...build.targets, made]);
	}

	function edit(label: string, change: Partial<Target>): Promise<void> {
		return onchange(build.targets.map((t) => (t.label === label ? { ...t, ...change } : t)));
	}
</script>

<fieldset>
	<legend class="eyebrow">Bands to hold</legend>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#each offered as band (band.key)}
		<div class="row">
			{#each band.choices as choice, nth (nth)}
				{@const on = build.targets.some((t) => t.label === choice.label)}
				<button
					class="button"
					class:main={on}
					aria-pressed={on}
					aria-label={choice.label}
					disabled={on && build.targets.length === 1}
					onclick={() => toggle(choice)}>{choice.mode || choice.label}</button
				>
			{/each}
		</div>
	{/each}
	{#each build.targets as target, i (i)}
		<div class="row target">
			<strong>{target.label}</strong>
			{#if i > 0}
				<button
					class="plain"
					aria-label="make it the main band: {target.label}"
					onclick={() => first(target.label)}>make it the main band</button
				>
			{:else if build.targets.length > 1}
				<span class="soft">first: parts are given at its middle</span>
			{/if}
			{#if build.targets.length > 1}
				<button
					class="plain"
					aria-label="drop {target.label}"
					onclick={() => keep(build.targets.filter((t) => t.label !== target.label))}>drop</button
				>
			{/if}
			<QuantityField
				label="from"
				kind="frequency"
				width={10}
				shown="{edgeMegahertz(target.low_hz)} MHz"
				onsettle={(low_hz) => edit(target.label, { low_hz })}
			/>
			<QuantityField
				label="to"
				kind="frequency"
				width={10}
				shown="{edgeMegahertz(target.high_hz)} MHz"
				onsettle={(high_hz) => edit(target.label, { high_hz })}
			/>
			<QuantityField
				label="limit"
				kind="ratio"
				width={5}
				shown={swr(target.swr_limit)}
				onsettle={(swr_limit) => edit(target.label, { swr_limit })}
			/>
		</div>
	{/each}
	{#if own.length === 0 && inside.length === 0}
		<p class="soft">No amateur band lies wholly inside this sweep; set the edges yourself.</p>
	{/if}
	<p class="row">
		<button class="button" onclick={addOwn}>Another frequency range</button>
		<a href="/bands">Edges of the bands</a>
	</p>
</fieldset>

<style>
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		display: grid;
		gap: 8px;
		min-width: 0;
	}
	legend {
		padding: 0;
	}
	.target {
		border-top: 1px solid var(--line);
		padding-top: 6px;
	}
	.soft {
		color: var(--soft);
		font-size: var(--size-13);
	}
	.button.main:disabled {
		color: var(--on-ink);
		border-color: var(--ink);
	}
</style>
