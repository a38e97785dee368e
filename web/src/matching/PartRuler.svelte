<!-- @component
	One part of the match on its ruler, with what it is made of beside it.
-->
<script lang="ts">
	import { untrack } from 'svelte';

	import {
		answer,
		api,
		type Accessory,
		type Content,
		type Piece,
		type Element,
		type Prediction,
		type Schemas
	} from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import MeasuredPieces from '../drawer/MeasuredPieces.svelte';
	import PieceNote from '../drawer/PieceNote.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Ruler from '../lib/controls/Ruler.svelte';
	import { length, millimetres, quantity, tolerance, turns } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import {
		isBelow,
		isCoil,
		isOfLine,
		isWound,
		type Part,
		rulerRange,
		unitOf,
		valueOf,
		withElement,
		withValue
	} from '../design/content';

	import { partTitle } from '../design/words';
	import { pairText } from './words';

	interface Props {
		content: Content;
		part: Part;
		cables: Schemas['CableOut'][];
		wires: Schemas['WireOut'][];
		/** One's own drawer; null until it is known. */
		own: Piece[] | null;
		/** How the part is made at its present value; none while that is computed. */
		made: Prediction['made'][number] | undefined;
		/** Middle of the first target, Hz. */
		centerHz: number;
		/** Called when one begins and ceases to point at it. */
		onpoint: (pointed: boolean) => void;
		/** Called while dragged, and with `settled` when done. */
		onedit: (content: Content, settled: boolean) => void;
	}

	let { content, part, made, cables, wires, own, centerHz, onpoint, onedit }: Props = $props();

	let ruler = $state<Ruler>();
	let range = $state.raw(rulerRange(1e-6));
	let dragging = false;

	const value = $derived(valueOf(part));
	const unit = $derived(unitOf(part));
	const ofLine = $derived(isOfLine(part) ? part : null);
	/** Degrees of a metre of this line, at the centre. */
	const degrees = $derived(
		made && (made.kind === 'section' || made.kind === 'stub') ? made.degrees / made.length_m : 1
	);
	const shown = $derived(unit === 'm' ? length(value, units.length) : quantity(value, unit));
	const coil = $derived(isCoil(part) ? part : null);
	const stub = $derived(part.kind === 'coax_capacitor' ? part : null);
	const spread = $derived(isOfLine(part) ? 0 : (part.spread ?? 0));
	const measured = $derived(spread <= 0.0101);

	// The ruler stays while its value is dragged, and moves on when the value has left its middle.
	$effect(() => {
		if (dragging) return;
		const middle = (value - range.low) / (range.high - range.low);
		if (middle < 0.15 || middle > 0.85) range = rulerRange(value);
	});

	const madeOf = $derived(
		JSON.stringify(
			coil
				? [coil.former_m, coil.wire, coil.pitch_m]
				: (stub ?? ofLine)
					? [(stub ?? ofLine)?.cable]
					: []
		)
	);
	// Marks hang on what the part is made of, not on its value: asked for when that, or the ruler, changes.
	const marks = latest(
		() => {
			void madeOf;
			const { low, high } = range;
			// The value itself is not looked at: a drag would ask for the same marks at every move.
			const element = untrack(() =>
				withValue(content, part, (low + high) / 2).elements.find((e) => e.key === part.key)
			);
			if (!element || isBelow(element) || isWound(element)) return null;
			return { element, center_hz: centerHz, low, high };
		},
		(body) => answer(api.POST('/api/rulers', { body }))
	);
	const ticks = $derived(marks.value ?? []);

	const makes = $derived.by(() => {
		const every = ticks.length > 14 ? 4 : ticks.length > 9 ? 2 : 1;
		return ticks.map((t, nth) => {
			if (coil) {
				return { value: t.value, text: Math.round(t.make * 2) % every === 0 ? turns(t.make) : '' };
			}
			const shown = units.length === 'ft' ? t.make / 0.0254 : t.make * 100;
			const whole = Math.abs(t.make * 100 - Math.round(t.make * 100)) < 1e-6;
			// Long numbers stand in each other's way: of a line every so many are printed.
			const told = whole && (!ofLine || nth % Math.ceil(ticks.length / 6) === 0);
			return { value: t.value, text: told ? shown.toFixed(units.length === 'ft' ? 1 : 0) : '' };
		});
	});
	const title = $derived(partTitle(part));
	const above = $derived(
		coil
			? `turns above, µH below`
			: ofLine
				? `${units.length === 'ft' ? 'inches' : 'cm'} above, degrees below`
				: stub
					? `${units.length === 'ft' ? 'inches' : 'cm'} of coax above, pF below`
					: 'bought, pF below'
	);

	/** So many turns or metres, whatever they give. */
	async function make(amount: number): Promise<void> {
		const element = coil ?? stub ?? ofLine;
		if (!element) return;
		const { value: gives } = await answer(
			api.POST('/api/rulers/marks', { body: { element, center_hz: centerHz, make: amount } })
		);
		onedit(withValue(content, part, gives), true);
	}

	function change(changes: Partial<Element> | Partial<Accessory>): void {
		onedit(withElement(content, part.key, changes), true);
	}
</script>

<section
	aria-label="{title}, made and set"
	onpointerenter={() => onpoint(true)}
	onpointerleave={() => onpoint(false)}
	onfocusin={() => onpoint(true)}
	onfocusout={() => onpoint(false)}
>
	<div class="row head">
		<h3>{title}<small>{above}</small></h3>
		<QuantityField
			label={title}
			quiet
			kind={coil ? 'inductance' : ofLine ? 'length' : 'capacitance'}
			{shown}
			width={8}
			onsettle={(to) => onedit(withValue(content, part, to), true)}
		/>
	</div>
	<div class="row">
		<button class="button" aria-label="{title}: one step less" onclick={() => ruler?.step(-1)}
			>−</button
		>
		<div class="wide">
			<Ruler
				bind:this={ruler}
				label="{title}, {coil ? 'microhenry' : ofLine ? 'degrees' : 'picofarad'}"
				{value}
				valueText={shown}
				low={range.low}
				high={range.high}
				{makes}
				perUnit={coil ? 1e6 : ofLine ? degrees : 1e12}
				unit={coil ? 'µH' : ofLine ? '°' : 'pF'}
				hue={coil ? 'copper' : 'verdigris'}
				onchange={(to, settled) => {
					dragging = !settled;
					onedit(withValue(content, part, to), settled);
				}}
			/>
		</div>
		<button class="button" aria-label="{title}: one step more" onclick={() => ruler?.step(1)}
			>+</button
		>
	</div>
	<div class="row made">
		{#if coil}
			<QuantityField
				label="turns"
				kind="turns"
				width={4}
				shown={made?.kind === 'coil' ? made.turns_exact.toFixed(1) : '…'}
				onsettle={make}
			/>
			<QuantityField
				label="on"
				kind="wire"
				width={6}
				shown={millimetres(coil.former_m)}
				onsettle={(former_m) => change({ former_m })}
			/>
			<select
				aria-label="Wire"
				value={coil.wire}
				onchange={(event) => change({ wire: event.currentTarget.value })}
			>
				{#each wires as wire (wire.key)}<option value={wire.key}>{wire.name}</option>{/each}
			</select>
			<QuantityField
				label="every"
				kind="wire"
				width={8}
				shown={coil.pitch_m === null || coil.pitch_m === undefined
					? 'touching'
					: millimetres(coil.pitch_m)}
				onsettle={(pitch_m) => change({ pitch_m })}
			/>
			{#if coil.pitch_m}
				<button class="plain" onclick={() => change({ pitch_m: null })}>touching</button>
			{/if}
		{:else if ofLine}
			<label
				>of
				<select
					aria-label="{title}, cable"
					value={ofLine.piece ? '' : ofLine.cable}
					onchange={(event) => change({ cable: event.currentTarget.value, piece: null })}
				>
					{#if ofLine.piece}<option value="">{String(ofLine.piece.values.name)}, your own</option
						>{/if}
					{#each cables.filter((c) => !c.piece) as cable (cable.key)}
						<option value={cable.key}>{cable.name}</option>
					{/each}
				</select></label
			>
			{#each cables.filter((c) => c.piece) as mine (mine.key)}
				{#if mine.piece?.id !== ofLine.piece?.id}
					<button class="plain" onclick={() => change({ piece: mine.piece })}
						>take your own {mine.name}</button
					>
				{/if}
			{/each}
			{#if ofLine.kind === 'section'}
				<label class="check">
					<input
						type="checkbox"
						checked={ofLine.pieces === 2}
						onchange={(event) => change({ pieces: event.currentTarget.checked ? 2 : 1 })}
					/>
					two side by side
				</label>
			{:else}
				<label class="check">
					<input
						type="checkbox"
						checked={ofLine.end === 'shorted'}
						onchange={(event) => change({ end: event.currentTarget.checked ? 'shorted' : 'open' })}
					/>
					shorted at its far end
				</label>
			{/if}
		{:else if part.kind === 'capacitor' && part.pair}
			<span class="soft">{pairText(content, part.key)}</span>
		{:else if stub}
			<QuantityField
				label="cut"
				kind="length"
				width={7}
				shown={made?.kind === 'coax_capacitor' ? length(made.coax_m ?? 0, units.length) : '…'}
				onsettle={make}
			/>
			<label
				>of
				<select
					value={stub.cable}
					onchange={(event) => change({ cable: event.currentTarget.value })}
				>
					{#each cables.filter((c) => c.coax && !c.piece) as cable (cable.key)}
						<option value={cable.key}>{cable.name}</option>
					{/each}
				</select></label
			>
		{/if}
		{#if part.kind === 'coil' || part.kind === 'capacitor'}
			<MeasuredPieces element={part} own={own ?? []} {centerHz} of={title} onset={change} />
		{/if}
		{#if part.piece && !ofLine}
			<span class="soft">{tolerance(spread)}</span>
		{:else if !ofLine}
			<label class="check">
				<input
					type="checkbox"
					checked={measured}
					onchange={(event) =>
						change({ spread: event.currentTarget.checked ? 0.01 : coil || stub ? 0.04 : 0.05 })}
				/>
				measured, ±1 %
			</label>
		{/if}
	</div>
	{#if !ofLine}<PieceNote
			element={part}
			what={title.toLowerCase()}
			{own}
			{centerHz}
			onset={change}
		/>{/if}
</section>

<style>
	section {
		display: grid;
		gap: 2px;
		min-width: 0;
	}
	h3 {
		font-size: var(--size-13);
	}
	small {
		margin-left: 6px;
		font-weight: 400;
		font-size: var(--size-12);
		color: var(--soft);
	}
	.row {
		display: flex;
		align-items: center;
		gap: 8px;
		flex-wrap: wrap;
	}
	.row > .wide {
		flex: 1 1 160px;
		min-width: 0;
	}
	.row > .button {
		padding: 4px 9px;
	}
	.head {
		justify-content: space-between;
		flex-wrap: nowrap;
	}
	.made {
		gap: 4px 8px;
		font-size: var(--size-13);
	}
	select {
		max-width: 150px;
	}
	.check {
		display: inline-flex;
		gap: 5px;
		align-items: center;
	}
	@media (max-width: 620px) {
		.row > .wide {
			flex-basis: 70%;
		}
	}
</style>
