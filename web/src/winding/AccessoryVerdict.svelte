<!-- @component
	What decides about a choke or a trap: its bands at a glance, what it bears, the two schools of a trap, how it is checked.
-->
<script lang="ts">
	import { answer, api, type Content, type Schemas } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import { figures, length, megahertz, quantity, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import ComparisonTable from './ComparisonTable.svelte';
	import type { Winding } from './wound';

	interface Props {
		winding: Winding;
		/** What the design hangs below: of a planned wire with traps the model tells what they bear. */
		antenna: Content['antenna'];
	}

	let { winding, antenna }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	const choke = $derived(winding.choke);
	const trap = $derived(winding.trap);
	type Rated = Schemas['RatedOut'];
	const order: Rated['rating'][] = ['too little', 'reactive', 'enough', 'good', 'awkward places'];
	const worst = $derived(
		[...(choke?.bands ?? [])].sort(
			(a, b) =>
				order.indexOf(a.rating) - order.indexOf(b.rating) || a.resistance_ohm - b.resistance_ohm
		)[0]
	);
	const most = $derived(Math.max(5000, ...(choke?.bands ?? []).map((b) => b.resistance_ohm)));
	const words: Record<Rated['rating'], string> = {
		'too little': 'too little',
		reactive: 'reactive',
		enough: 'enough',
		good: 'good',
		'awkward places': 'good in awkward places too'
	};
	const lower = $derived(trap?.bands[1]);
	const upper = $derived(trap?.bands[0]);
	/** The planned wire with its traps as they are wound here. */
	const modelled = latest(
		() => {
			const first = build.targets[0];
			return trap && first && antenna.kind === 'wire' && antenna.numbers['trap_hz'] !== undefined
				? {
						antenna: {
							...antenna,
							numbers: {
								...antenna.numbers,
								trap_hz: trap.resonance_hz,
								trap_f: trap.capacitance_f
							}
						},
						target: first,
						others: build.targets.slice(1),
						power_w: build.power_w
					}
				: null;
		},
		(body) => answer(api.POST('/api/structures/traps', { body }))
	);
	const borne = $derived(modelled.value?.on ?? []);
	const highestV = $derived(
		borne.length
			? Math.max(...borne.map((on) => on.model.voltage_v ?? 0))
			: Math.max(upper?.voltage_v ?? 0, lower?.voltage_v ?? 0)
	);
	const m = (value: number | null) => (value === null ? '–' : length(value, units.length));
	const schools = $derived.by(() => {
		if (!trap || !upper || !lower) return [];
		const row = (name: string, text: (s: Schemas['SchoolOut']) => string) => ({
			name,
			cells: trap.schools.map(text)
		});
		return [
			row('tuned to, MHz', (s) => megahertz(s.tuned_hz)),
			row('volts, peak', (s) => (s.voltage_v === null ? '–' : figures(s.voltage_v))),
			row(`lost on ${upper.label}`, (s) => (s.loss_w === null ? '–' : watts(2 * s.loss_w))),
			row(`lost on ${lower.label}`, (s) =>
				s.lower_share === null ? '–' : `${figures(100 * s.lower_share, 2)} %`
			),
			row('beyond it', (s) => m(s.outer_m))
		];
	});
</script>

{#if choke && worst}
	<p>
		<span class="figure">{quantity(worst.resistance_ohm, 'Ω')}</span>
		<span class="of">resistive on {worst.label}, its weakest band: {words[worst.rating]}</span>
	</p>
	<ul class="bars" aria-label="Bands">
		{#each choke.bands as b, nth (nth)}
			<li>
				<span>{b.label}</span>
				<span class="bar"
					><i
						class={b.rating.replace(' ', '-')}
						style:width="{(100 * Math.min(b.resistance_ohm, most)) / most}%"
					></i></span
				>
				<span class="mono">{quantity(b.resistance_ohm, 'Ω')}</span>
				<small class="soft"
					>{words[b.rating]}{Math.abs(b.reactance_ohm) > b.resistance_ohm
						? `, with ${quantity(Math.abs(b.reactance_ohm), 'Ω')} ${b.reactance_ohm < 0 ? 'capacitive' : 'inductive'}`
						: ''}{b.loss_w !== null
						? `; ${watts(b.loss_w)}, ${figures(b.voltage_v ?? 0)} V peak`
						: b.highest_a !== null
							? `; stays within 40 °C up to ${quantity(b.highest_a, 'A', 2)} in speech`
							: ''}</small
				>
			</li>
		{/each}
	</ul>
	<p class="told soft">
		500 Ω resistive is the least, thousands where a wire's end is fed (common practice).
		{#if choke.pair_ohm}
			Twice {length(choke.length_m, units.length)} of wire; as a line the pair is about {figures(
				choke.pair_ohm,
				2
			)} Ω.
		{:else}
			{length(choke.length_m, units.length)} of coax, bent to {length(
				choke.bend_m ?? 0,
				units.length
			)}.
		{/if}
	</p>
{:else if trap && upper && lower}
	<p>
		<span class="figure">{figures(highestV)} V</span>
		<span class="of"
			>peak across it at {watts(build.power_w)}, by {borne.length
				? 'the model of the wire'
				: 'the line estimate'}</span
		>
	</p>
	{#if borne.length}
		<p class="told">
			{borne
				.map(
					(on) =>
						`On ${on.label} ${figures(on.model.voltage_v ?? 0)} V and ${quantity(on.model.current_a, 'A', 2)} peak, ${figures(on.traps_w ?? 0, 2)} W in the traps (line estimate ${figures(on.estimate.voltage_v ?? 0)} V).`
				)
				.join(' ')}
		</p>
	{/if}
	<p class="told">
		{quantity(trap.inductance_h, 'H')} and {quantity(trap.capacitance_f, 'F')} trap {megahertz(
			trap.resonance_hz
		)} MHz; housed, {megahertz(trap.housed_hz)} MHz. On {lower.label} it acts as {quantity(
			lower.acts_as_h,
			'H'
		)}, carries {figures(lower.current_a)} A peak, and the traps take {figures(
			100 * lower.lost_share,
			2
		)} %; on {upper.label}
		{figures(100 * upper.lost_share, 2)} %.
	</p>
	<p class="told">
		Each leg: <b class="mono">{m(trap.inner_m)}</b> to the trap,
		<b class="mono">{m(trap.outer_m)}</b> beyond it, by the line estimate.
	</p>
	<ComparisonTable heads={trap.schools.map((s) => s.name)} rows={schools} />
	<p class="told soft">
		Two schools: in the band, or just below it. Below it bears less there and loads the lower band
		more.
	</p>
{/if}

<style>
	.bars {
		list-style: none;
		padding: 0;
		margin: 6px 0;
		display: grid;
		gap: 6px;
		font-size: var(--size-13);
	}
	.bars li {
		display: grid;
		grid-template-columns: 40px 1fr auto;
		gap: 0 8px;
		align-items: center;
	}
	small {
		grid-column: 2 / -1;
		font-size: var(--size-12);
	}
	.bar {
		height: 10px;
		border-radius: 5px;
		background: var(--line);
		overflow: hidden;
	}
	.bar i {
		display: block;
		height: 100%;
		background: var(--verdigris);
	}
	.bar .enough {
		background: var(--tape);
	}
	.bar .reactive,
	.bar .too-little {
		background: var(--enamel);
	}
	.told + .told {
		margin-top: 6px;
	}
</style>
