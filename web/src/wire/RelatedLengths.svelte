<!-- @component
	Sums beside the wire: what fits here, a proven design scaled, and what goes with it (section, radials, counterpoise).
-->
<script lang="ts">
	import { answer, api, type CableRow, type Schemas } from '../lib/api/client';
	import { latest, Latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, length, megahertz, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Schools from './Schools.svelte';

	interface Props {
		/** Where the wire is wanted, Hz. */
		frequencyHz: number;
	}

	let { frequencyHz }: Props = $props();

	// To the decimetre: the rules behind it know no more.
	const about = (m: number) => length(Math.round(10 * m) / 10, units.length);
	let span = $state<number | null>(null);
	let pole = $state<number | null>(null);
	const fitting = new Latest(
		(body: Schemas['RoomIn']) => answer(api.POST('/api/lengths/fitting', { body })),
		{ keeps: true }
	);
	/** Asked by the field that was settled, which tells a refusal. */
	const fit = () =>
		span === null && pole === null
			? undefined
			: fitting.ask({ span_m: span, pole_m: pole, covered: false });
	const fits = $derived(fitting.value ?? []);

	let proven = $state<number | null>(null);
	let wanted = $state<number | null>(null);
	let piece = $state<number | null>(null);
	const scaling = new Latest(
		(body: Schemas['ScaledIn']) => answer(api.POST('/api/lengths/scaling', { body })),
		{ keeps: true }
	);
	const scale = () =>
		proven === null || piece === null
			? undefined
			: scaling.ask({
					lengths_m: [piece],
					proven_hz: proven,
					wanted_hz: wanted ?? frequencyHz,
					unit: units.length
				});
	const scaled = $derived(
		scaling.value && { length_m: scaling.value.lengths_m[0] ?? 0, ratio: scaling.value.ratio }
	);

	type Form = Schemas['PartsIn']['form'];
	const forms: [Form, string][] = [
		['section', 'a quarter-wave section of coax'],
		['radial', 'radials'],
		['counterpoise', 'a counterpoise']
	];
	let form = $state<Form>('section');
	let cable = $state('foam-7-75');
	/** By hand: of a section its velocity factor, and what the antenna shows above it, Ω. */
	let velocity = $state<number | null>(null);
	let antenna = $state(100);
	let cables = $state.raw<CableRow[]>([]);
	void answer(api.GET('/api/tables/cables'))
		.then((rows) => (cables = rows))
		.catch(() => undefined);
	const found = latest(
		() => ({
			form,
			cable,
			velocity_factor: velocity,
			antenna_ohm: antenna,
			frequency_hz: frequencyHz
		}),
		(body) => answer(api.POST('/api/lengths/parts', { body })),
		{ keeps: true }
	);
	const parts = $derived(found.value);
	const section = $derived(parts?.section ?? null);
</script>

{#if found.problem}<Note kind="danger">{found.problem}</Note>{/if}
<details>
	<summary>What fits here?</summary>
	<div class="row">
		<QuantityField
			label="Span between supports"
			kind="length"
			shown={span === null ? '' : length(span, units.length)}
			onsettle={(m) => {
				span = m;
				return fit();
			}}
		/>
		<QuantityField
			label="Pole"
			kind="length"
			shown={pole === null ? '' : length(pole, units.length)}
			onsettle={(m) => {
				pole = m;
				return fit();
			}}
		/>
	</div>
	{#if fits.length}
		<ul>
			{#each fits as shape (shape.key)}
				<li>
					{shape.label}:
					{#if shape.lowest}<strong>{shape.lowest.label}</strong>, {about(shape.lowest.left_m)} to spare{:else}no
						band fits{/if}{#if shape.next}; {shape.next.label} lacks {about(
							-shape.next.left_m
						)}{/if}.
				</li>
			{/each}
		</ul>
		<p class="soft told">
			{length(0.3, units.length)} of rope at each end of a span; a pole stands
			{length(0.2, units.length)} shorter than its name.
		</p>
	{:else}
		<p class="soft told">
			A span, a pole, or both: the lowest band that each shape of antenna reaches.
		</p>
	{/if}
</details>
<details>
	<summary>Scale a proven design</summary>
	<div class="row">
		<QuantityField
			label="Proven at"
			kind="frequency"
			shown={proven === null ? '' : `${megahertz(proven)} MHz`}
			width={11}
			onsettle={(hz) => {
				proven = hz;
				return scale();
			}}
		/>
		<QuantityField
			label="Wanted at"
			kind="frequency"
			shown="{megahertz(wanted ?? frequencyHz)} MHz"
			width={11}
			onsettle={(hz) => {
				wanted = hz;
				return scale();
			}}
		/>
		<QuantityField
			label="A length of it"
			kind="length"
			shown={piece === null ? '' : length(piece, units.length)}
			onsettle={(m) => {
				piece = m;
				return scale();
			}}
		/>
	</div>
	{#if scaled}
		<p>
			<strong class="mono">{length(scaled.length_m, units.length)}</strong>
			<span class="soft"
				>all lengths by {figures(scaled.ratio, 4)}, diameters too if it is to be exact</span
			>
		</p>
	{:else}
		<p class="soft told">Every length goes by the ratio of the frequencies.</p>
	{/if}
</details>
<details>
	<summary>What goes with it</summary>
	<div class="row">
		<select aria-label="Part" bind:value={form}>
			{#each forms as [key, name] (key)}<option value={key}>{name}</option>{/each}
		</select>
		{#if form === 'section'}
			<select aria-label="Cable" bind:value={cable} onchange={() => (velocity = null)}>
				{#each cables as row (row.key)}<option value={row.key}>{row.name}</option>{/each}
			</select>
			<QuantityField
				label="Velocity factor"
				kind="velocity"
				width={6}
				shown={section ? figures(section.velocity_factor, 3) : ''}
				onsettle={(factor) => {
					velocity = factor;
				}}
			/>
			<QuantityField
				label="Antenna's R"
				kind="resistance"
				width={7}
				shown="{figures(antenna)} Ω"
				onsettle={(ohm) => {
					antenna = ohm;
				}}
			/>
		{/if}
		<span class="soft told">at {megahertz(frequencyHz)} MHz</span>
	</div>
	{#if parts}
		<Schools schools={parts.schools} />
		{#if section}
			<p class="told">
				Velocity factor {figures(section.velocity_factor, 3)}{section.measured
					? velocity === null
						? ', measured'
						: ', as typed'
					: `, by the class of cable, ± ${figures(100 * section.velocity_tolerance, 2)} %: foam and solid differ.`}
				{#if !section.measured}<a href="/lines">Measure your own</a>{/if}
			</p>
			<p>
				<strong class="mono">{figures(antenna)} Ω becomes {figures(section.through_ohm)} Ω</strong>
				<span class="soft"
					>SWR {swr(section.without_swr)} without the section, {swr(section.through_swr)} below it</span
				>
			</p>
		{/if}
	{/if}
</details>

<style>
	details {
		border-top: 1px solid var(--line);
		padding: 8px 0 4px;
		display: block;
	}
	summary {
		cursor: pointer;
		font-weight: 600;
	}
	details > :global(* + *) {
		margin-top: 8px;
	}
	ul {
		padding-left: 18px;
		font-size: var(--size-13);
	}
</style>
