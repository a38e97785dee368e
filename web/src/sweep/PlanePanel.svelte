<!-- @component
	The sweep moved through its line to the other plane, with the fan of what else it may be; dragged by its length.
-->
<script lang="ts">
	import {
		answer,
		api,
		type CableRow,
		problemText,
		type Schemas,
		type Sweep
	} from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { valueAt } from '../lib/charts/curve';
	import ImpedanceChart from '../lib/charts/ImpedanceChart.svelte';
	import SwrChart from '../lib/charts/SwrChart.svelte';
	import type { Frame } from '../lib/charts/frame';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { impedance, length, megahertz, swr } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { knownOver, measureThis, sharesText } from './plane';

	interface Props {
		sweep: Sweep;
		frame: Omit<Frame, 'height'>;
		/** Called after the moved sweep was kept. */
		onkept: (sweep: Sweep) => Promise<void>;
		onclose: () => void;
	}

	let { sweep, frame, onkept, onclose }: Props = $props();

	// Taken once, when the panel opens: from then on it is what is typed here.
	// svelte-ignore state_referenced_locally
	const own = sweep.setup?.line;
	// svelte-ignore state_referenced_locally
	let towards = $state<'antenna' | 'radio'>(
		sweep.setup?.plane === 'line_end' ? 'antenna' : 'radio'
	);
	let cable = $state(own?.cable ?? 'foam-6');
	let lengthM = $state(own?.length_m ?? 10);
	/** Where the slide stands in its middle: the length last typed. */
	// svelte-ignore state_referenced_locally
	let middleM = $state(lengthM);
	let velocity = $state<number | null>(null);
	let velocityKnown = $state(false);
	let cables = $state.raw<CableRow[]>([]);
	let refused = $state<string | null>(null);

	void answer(api.GET('/api/tables/cables'))
		.then((rows) => (cables = rows))
		.catch(() => undefined);

	const row = $derived(cables.find((c) => c.key === cable));
	const shownVelocity = $derived(velocity ?? row?.velocity_factor ?? 0.66);
	const asked = $derived({
		sweep_id: sweep.id,
		line: { cable, length_m: lengthM },
		towards,
		velocity_factor: velocity,
		doubt: { length: 0.005, ...(velocityKnown ? { velocity: 0.002 } : {}) },
		points: 201
	});

	// While the slide is dragged what comes in between is shown; what is typed or chosen overtakes it.
	const moving = new Latest(
		(body: Schemas['ShiftIn']) => answer(api.POST('/api/plane-shifts', { body })),
		{ keeps: true }
	);
	let dragged = false;
	$effect(() => {
		moving.show(asked, dragged);
		dragged = false;
	});
	const shift = $derived(moving.value);
	const problem = $derived(refused ?? moving.problem);

	const at = $derived(
		shift && {
			r: valueAt(shift.frequency_hz, shift.resistance_ohm, frame.markerHz),
			x: valueAt(shift.frequency_hz, shift.reactance_ohm, frame.markerHz),
			swr: valueAt(shift.frequency_hz, shift.swr, frame.markerHz)
		}
	);
	const known = $derived(shift ? knownOver(shift.frequency_hz, shift.known) : null);
	const where = $derived(towards === 'antenna' ? 'at the feedpoint' : 'at the radio');

	async function keep(): Promise<void> {
		try {
			const name = `${sweep.name.replace(/\.[^.]*$/, '')}, ${where}`;
			await onkept(await answer(api.POST('/api/plane-shifts/kept', { body: { ...asked, name } })));
			refused = null;
		} catch (why) {
			refused = problemText(why);
		}
	}
</script>

<section class="sheet" aria-label="The plane moved">
	<div class="head">
		<h2>“{sweep.name}” {where} <Help topic="plane" name="moving the plane" /></h2>
		<button class="plain" onclick={onclose}>close</button>
	</div>
	<div class="row">
		<label
			>Moved
			<select bind:value={towards}>
				<option value="antenna">up through the line, to the antenna</option>
				<option value="radio">down through the line, to the radio</option>
			</select></label
		>
		<label
			>Line
			<select
				aria-label="Line"
				bind:value={cable}
				onchange={() => {
					velocity = null;
				}}
			>
				{#each cables as c (c.key)}<option value={c.key}>{c.name}</option>{/each}
			</select></label
		>
		<QuantityField
			label="Length"
			kind="length"
			shown={length(lengthM, units.length)}
			width={9}
			onsettle={(m) => {
				lengthM = m;
				middleM = m;
			}}
		/>
		<input
			class="slide"
			type="range"
			aria-label="Length of the line, dragged"
			min={Math.max(0.05, middleM * 0.5)}
			max={middleM * 1.5 + 0.5}
			step="0.01"
			oninput={() => (dragged = true)}
			bind:value={lengthM}
		/>
		<QuantityField
			label="Velocity factor"
			kind="velocity"
			shown={shownVelocity.toFixed(3).replace(/0$/, '')}
			width={6}
			onsettle={(v) => {
				velocity = v;
			}}
		/>
		<label><input type="checkbox" bind:checked={velocityKnown} /> velocity measured to 0.2 %</label>
	</div>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if shift && at}
		<p class="told">
			<span class="mono"
				>{megahertz(frame.markerHz)} MHz: {impedance(at.r, at.x)}, SWR {swr(at.swr)}</span
			>
			<span class="line"
				>{shift.matched_loss_db.toFixed(2)} dB of matched loss in between. {sharesText(
					shift.shares
				)}</span
			>
		</p>
		{#if known !== 'all'}
			<Note kind="danger" title={known === 'none' ? 'Not known any more.' : 'Known in part only.'}>
				{known === 'none'
					? 'The band is wider than an eighth of the chart everywhere: through this line the other end cannot be told.'
					: 'At some frequencies the band is wider than an eighth of the chart.'}
				{measureThis(shift.worth_measuring)}
				{#if shift.worth_measuring === 'velocity'}<a href="/lines">Know your line</a>{/if}
			</Note>
		{/if}
		<ImpedanceChart frame={{ ...frame, height: 220 }} curves={shift} hue="copper" fan={shift.fan} />
		<SwrChart
			frame={{ ...frame, height: 190 }}
			antenna={{ frequency_hz: shift.frequency_hz, values: shift.swr }}
			antennaTitle="the wire {where}"
			fan={shift.fan
				? {
						hz: shift.frequency_hz as number[],
						low: shift.fan.low_swr,
						high: shift.fan.high_swr
					}
				: undefined}
			ceiling={shift.ceiling}
		/>
		<p class="row">
			<button class="button" disabled={known === 'none'} onclick={() => void keep()}
				>Keep it as a sweep of its own</button
			>
			<small class="soft">with its band, at every point of the sweep</small>
		</p>
	{/if}
</section>

<style>
	.head {
		display: flex;
		justify-content: space-between;
		gap: 10px;
	}
	.row {
		font-size: var(--size-13);
		margin: 6px 0;
	}
	label {
		color: var(--soft);
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	.line {
		display: block;
	}
	.slide {
		width: 150px;
		accent-color: var(--copper);
	}
</style>
