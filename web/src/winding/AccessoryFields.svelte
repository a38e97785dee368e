<!-- @component
	What a choke or a trap is made of; every change is drawn at once.
-->
<script lang="ts">
	import { type CableRow, type Content, type Piece, type Trade } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { megahertz, millimetres, quantity } from '../lib/units/format';
	import Core from './Core.svelte';
	import MeasuredPieces from '../drawer/MeasuredPieces.svelte';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';
	import WireChooser from './WireChooser.svelte';
	import { pairWire } from './presets';
	import type { Changes, Choke, WireTrap } from './wound';

	interface Props {
		content: Content;
		element: Choke | WireTrap;
		trade: Trade;
		own: Piece[];
		onset: (changes: Changes) => void;
	}

	let { content, element, trade, own, onset }: Props = $props();

	const coaxes = $derived(trade.cables.filter((c: CableRow) => c.coax && c.outer_m));
	const middle = (t: Content['targets'][number]) => (t.low_hz + t.high_hz) / 2;
	/** Two wires side by side in place of coax. */
	const pair = 'a pair';
	function chooseCable(key: string): void {
		const row = coaxes.find((c) => c.key === key);
		if (row?.outer_m)
			onset({
				cable: key,
				outer_m: row.outer_m,
				...(element.kind === 'choke' ? { wire: null, wire_piece: null } : {})
			});
		else if (key === pair) onset({ cable: null, outer_m: null, wire: pairWire });
	}
	function onAir(air: boolean): void {
		onset(
			air
				? { core: null, former_m: 0.066, crossed: false }
				: {
						core: { mix: '43', size: 'FT240', stack: 1, al_h: null, material: null },
						former_m: null
					}
		);
	}
</script>

<div class="fields">
	{#if element.kind === 'choke'}
		<div class="row">
			<NumberStepper
				label="Turns"
				most={60}
				value={element.turns}
				onchange={(turns) => onset({ turns })}
			/>
			<QuantityField
				label={element.cable ? 'current outside' : 'common current'}
				kind="current"
				width={8}
				shown={element.current_a === null || element.current_a === undefined
					? 'unknown'
					: quantity(element.current_a, 'A')}
				onsettle={(current_a) => onset({ current_a })}
			/>
		</div>
		<label class="named"
			>Wound of
			<select
				aria-label="Wound of"
				value={element.cable ?? pair}
				onchange={(e) => chooseCable(e.currentTarget.value)}
			>
				<option value={pair}>two wires side by side</option>
				<optgroup label="Coax">
					{#each coaxes as c (c.key)}<option value={c.key}>{c.name}</option>{/each}
				</optgroup>
			</select></label
		>
		{#if !element.cable}
			<WireChooser
				wire={element.wire ?? pairWire}
				taken={element.wire_piece ?? null}
				{trade}
				{own}
				{onset}
			/>
		{/if}
		{#if element.core}
			<Core
				core={element.core}
				pieceId={element.piece?.id ?? null}
				{trade}
				{own}
				onset={(core, piece) => onset(piece === undefined ? { core } : { core, piece })}
			/>
		{:else}
			<QuantityField
				label="on a tube of"
				kind="wire"
				width={8}
				shown={millimetres(element.former_m ?? 0.066)}
				onsettle={(former_m) => onset({ former_m })}
			/>
		{/if}
		<p>
			<button class="plain" onclick={() => onAir(element.core !== null)}
				>{element.core ? 'Wind it on a tube instead' : 'Wind it on a ring instead'}</button
			>
		</p>
	{:else}
		<div class="row">
			<label class="named inline"
				>Stops
				<select
					aria-label="Stops"
					value={String(element.high_hz)}
					onchange={(e) => {
						const high_hz = Number(e.currentTarget.value);
						onset({ high_hz, tuned_hz: Math.round(0.97 * high_hz) });
					}}
				>
					{#each content.targets as t, nth (nth)}<option value={String(middle(t))}>{t.label}</option
						>{/each}
				</select></label
			>
			<label class="named inline"
				>lets through
				<select
					aria-label="Lets through"
					value={String(element.low_hz)}
					onchange={(e) => onset({ low_hz: Number(e.currentTarget.value) })}
				>
					{#each content.targets as t, nth (nth)}<option value={String(middle(t))}>{t.label}</option
						>{/each}
				</select></label
			>
		</div>
		<div class="row">
			<QuantityField
				label="Tuned to"
				kind="frequency"
				width={11}
				shown="{megahertz(element.tuned_hz)} MHz"
				onsettle={(tuned_hz) => onset({ tuned_hz })}
			/>
			<button
				class="button"
				class:main={Math.abs(element.tuned_hz / element.high_hz - 1) < 0.005}
				onclick={() => onset({ tuned_hz: element.high_hz })}>In the band</button
			>
			<button
				class="button"
				class:main={Math.abs(element.tuned_hz / element.high_hz - 0.97) < 0.005}
				onclick={() => onset({ tuned_hz: Math.round(0.97 * element.high_hz) })}
				>Just below it</button
			>
		</div>
		<div class="row">
			{#if element.cable}
				<label class="named inline"
					>Coax
					<select
						aria-label="Coax"
						value={element.cable}
						onchange={(e) => chooseCable(e.currentTarget.value)}
					>
						{#each coaxes as c (c.key)}<option value={c.key}>{c.name}</option>{/each}
					</select></label
				>
			{:else}
				<QuantityField
					label="Capacitor"
					kind="capacitance"
					width={8}
					shown={quantity(element.capacitance_f, 'F')}
					onsettle={(capacitance_f) => onset({ capacitance_f })}
				/>
			{/if}
			<QuantityField
				label="on"
				kind="wire"
				width={7}
				shown={millimetres(element.former_m ?? 0.032)}
				onsettle={(former_m) => onset({ former_m })}
			/>
			<QuantityField
				label="housing adds"
				kind="stray capacitance"
				width={7}
				shown={quantity(element.housing_f ?? 0, 'F')}
				onsettle={(housing_f) => onset({ housing_f })}
			/>
		</div>
		<MeasuredPieces {element} {own} centerHz={element.high_hz} {onset} />
		{#if !element.cable}
			<WireChooser
				wire={element.wire ?? 'cu-1.6'}
				taken={element.wire_piece ?? null}
				{trade}
				{own}
				{onset}
			/>
		{/if}
		<p>
			<button
				class="plain"
				onclick={() =>
					onset(
						element.cable ? { cable: null } : { cable: 'pe-5', outer_m: 5e-3, former_m: 0.032 }
					)}
				>{element.cable ? 'Of a coil and a capacitor instead' : 'Wind it of coax instead'}</button
			>
		</p>
	{/if}
</div>

<style>
	.fields {
		display: grid;
		gap: 8px;
	}
	.row {
		gap: 6px 14px;
	}
</style>
