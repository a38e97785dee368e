<!-- @component
	A reading without a file, as the instrument at hand gives it; and what it leaves open.
-->
<script lang="ts">
	import { answer, api, type Read, type Schemas } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, megahertz, swr } from '../lib/units/format';
	import type { Trimming } from './trimming.svelte';

	let { work }: { work: Trimming } = $props();

	type Kind = Exclude<Read['kind'], 'sweep' | undefined>;
	const kinds: [Kind, string][] = [
		['dip', 'the dip itself'],
		['swr', 'SWR at a frequency'],
		['edges', 'edges where SWR crosses a value'],
		['size', '|Z| and SWR'],
		['unsigned', 'R and X without a sign'],
		['power', 'forward and reflected power']
	];

	let meters = $state.raw<Schemas['MeterOut'][]>([]);
	void answer(api.GET('/api/tables/meters'))
		.then((rows) => (meters = rows))
		.catch(() => undefined);

	let kind = $state<Kind>('dip');
	let meter = $state('meter');
	let full = $state(true);
	let hz = $state<number | null>(null);
	let upper = $state<number | null>(null);
	let ratio = $state<number | null>(null);
	let first = $state<number | null>(null);
	let second = $state<number | null>(null);

	const asked = $derived(work.view?.dial?.ask ?? work.view?.dial?.ask_sign ?? null);
	const at = (value: number | null) => (value === null ? '' : `${megahertz(value)} MHz`);

	const reading = $derived.by((): Read | null => {
		if (kind === 'edges') {
			if (hz === null && upper === null) return null;
			return { kind, meter, swr: ratio ?? 2, low_hz: hz, high_hz: upper };
		}
		if (hz === null) return null;
		if (kind === 'dip') return { kind, meter, dip_hz: hz, swr: ratio };
		if (kind === 'power') {
			if (first === null || second === null) return null;
			const points = [{ frequency_hz: hz, forward_w: first, reflected_w: second }];
			return { kind, meter: 'power', full_scale_each: full, points };
		}
		if (kind === 'unsigned') {
			if (first === null || second === null) return null;
			const points = [{ frequency_hz: hz, resistance_ohm: first, size_reactance_ohm: second }];
			return { kind, meter, points };
		}
		if (ratio === null) return null;
		if (kind === 'swr') return { kind, meter, points: [{ frequency_hz: hz, swr: ratio }] };
		if (first === null) return null;
		return { kind, meter, points: [{ frequency_hz: hz, swr: ratio, size_ohm: first }] };
	});

	let form = $state<HTMLFormElement>();
	/** Pressed before all was there that such a reading needs. */
	let incomplete = $state(false);

	async function keep(): Promise<void> {
		const now = reading;
		incomplete = now === null;
		if (!now) {
			const fields = [...(form?.querySelectorAll<HTMLInputElement>('input[data-quantity]') ?? [])];
			fields.find((each) => each.value === '')?.focus();
			return;
		}
		if (await work.attempt(() => work.read(now))) {
			hz = upper = ratio = first = second = null;
		}
	}
</script>

<form
	bind:this={form}
	onsubmit={(event) => {
		event.preventDefault();
		void keep();
	}}
>
	<div class="row">
		<label class="told"
			>What it shows
			<select bind:value={kind}>
				{#each kinds as [key, name] (key)}<option value={key}>{name}</option>{/each}
			</select></label
		>
		{#if kind !== 'power'}
			<label class="told"
				>Read on
				<select bind:value={meter}>
					{#each meters.filter((m) => m.key !== 'power') as m (m.key)}<option value={m.key}
							>{m.label}</option
						>{/each}
				</select></label
			>
		{/if}
	</div>
	<div class="row">
		<QuantityField
			label={kind === 'dip' ? 'Dip at' : kind === 'edges' ? 'Lower edge' : 'At'}
			kind="frequency"
			shown={at(hz)}
			width={11}
			onsettle={(value) => void (hz = value)}
		/>
		{#if kind === 'edges'}
			<QuantityField
				label="Upper edge"
				kind="frequency"
				shown={at(upper)}
				width={11}
				onsettle={(value) => void (upper = value)}
			/>
		{/if}
		{#if kind === 'dip' || kind === 'swr' || kind === 'size' || kind === 'edges'}
			<QuantityField
				label={kind === 'edges' ? 'SWR at both' : 'SWR'}
				kind="ratio"
				shown={ratio === null ? (kind === 'edges' ? '2' : '') : swr(ratio)}
				width={5}
				onsettle={(value) => void (ratio = value)}
			/>
		{/if}
		{#if kind === 'size'}
			<QuantityField
				label="|Z|"
				kind="resistance"
				shown={first === null ? '' : `${figures(first)} Ω`}
				width={7}
				onsettle={(value) => void (first = value)}
			/>
		{/if}
		{#if kind === 'unsigned'}
			<QuantityField
				label="R"
				kind="resistance"
				shown={first === null ? '' : `${figures(first)} Ω`}
				width={7}
				onsettle={(value) => void (first = value)}
			/>
			<QuantityField
				label="X, either sign"
				kind="resistance"
				shown={second === null ? '' : `${figures(second)} Ω`}
				width={7}
				onsettle={(value) => void (second = value)}
			/>
		{/if}
		{#if kind === 'power'}
			<QuantityField
				label="Forward"
				kind="power"
				shown={first === null ? '' : `${figures(first)} W`}
				width={7}
				onsettle={(value) => void (first = value)}
			/>
			<QuantityField
				label="Reflected"
				kind="power"
				shown={second === null ? '' : `${figures(second)} W`}
				width={7}
				onsettle={(value) => void (second = value)}
			/>
		{/if}
	</div>
	{#if kind === 'power'}
		<label class="told check"
			><input type="checkbox" bind:checked={full} /> full scale was set anew at this frequency</label
		>
		<p class="soft told">Low power, listen first, and only where you may transmit.</p>
	{/if}
	{#if incomplete && reading === null}
		<p class="told bad" role="alert">Something is missing still: fill in what was read.</p>
	{/if}
	{#if kind === 'edges'}
		<p class="soft told">Leave out an edge that you did not reach: the dip lies beyond it.</p>
	{/if}
	<p class="row">
		<button class="button main" disabled={work.working}>Keep this reading</button>
		{#if asked}
			<button
				type="button"
				class="button"
				onclick={() => {
					hz = Number(asked.values.frequency_hz);
					if (kind === 'dip' || kind === 'edges') kind = 'swr';
				}}>Read at {megahertz(Number(asked.values.frequency_hz))} MHz next</button
			>
		{/if}
	</p>
</form>

<style>
	form {
		display: grid;
		gap: 8px;
	}
</style>
