<!-- @component
	Which bands to hold, and with what SWR limit.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Build,
		type Schemas,
		type Sweep,
		type Target
	} from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { megahertz, swr } from '../lib/units/format';

	interface Props {
		build: Build;
		/** The sweep that the targets must lie in. */
		sweep: Sweep;
		/** Keeps other targets. Throws `Refused` where they do not fit. */
		onchange: (targets: Target[]) => Promise<void>;
	}

	let { build, sweep, onchange }: Props = $props();

	let bands = $state.raw<Schemas['BandOut'][]>([]);
	void answer(api.GET('/api/tables/bands'))
		.then((rows) => (bands = rows))
		.catch(() => undefined);

	const inside = $derived(
		bands.filter((b) => b.low_hz >= sweep.low_hz && b.high_hz <= sweep.high_hz)
	);
	const own = $derived(build.targets.filter((t) => !bands.some((b) => b.label === t.label)));

	function toggle(band: Schemas['BandOut']): Promise<void> {
		const others = build.targets.filter((t) => t.label !== band.label);
		if (others.length < build.targets.length) {
			return others.length ? onchange(others) : Promise.resolve();
		}
		const made = { label: band.label, low_hz: band.low_hz, high_hz: band.high_hz, swr_limit: 2 };
		return onchange([...build.targets, made].sort((a, b) => a.low_hz - b.low_hz));
	}

	function edit(label: string, change: Partial<Target>): Promise<void> {
		return onchange(build.targets.map((t) => (t.label === label ? { ...t, ...change } : t)));
	}
</script>

<fieldset>
	<legend class="eyebrow">Bands to hold</legend>
	{#if inside.length}
		<div class="bands">
			{#each inside as band (band.key)}
				{@const on = build.targets.some((t) => t.label === band.label)}
				<button
					class="button"
					class:main={on}
					aria-pressed={on}
					disabled={on && build.targets.length === 1}
					onclick={() => toggle(band)}>{band.label}</button
				>
			{/each}
		</div>
	{/if}
	{#each build.targets as target (target.label)}
		<div class="row">
			<strong>{target.label}</strong>
			<QuantityField
				label="from"
				kind="frequency"
				width={10}
				shown="{megahertz(target.low_hz)} MHz"
				onsettle={(low_hz) => edit(target.label, { low_hz })}
			/>
			<QuantityField
				label="to"
				kind="frequency"
				width={10}
				shown="{megahertz(target.high_hz)} MHz"
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
	.bands,
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
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
