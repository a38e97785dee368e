<!-- @component
	The ring something is wound on: of the trade or of one's drawer, its mix or one's own material, how many stacked.
-->
<script lang="ts">
	import OwnPieces from '../drawer/OwnPieces.svelte';
	import RingSizes from '../drawer/RingSizes.svelte';
	import type { Piece, Schemas, Trade } from '../lib/api/client';
	import NumberStepper from '../lib/controls/NumberStepper.svelte';

	type RingCore = Schemas['RingCore'];
	type Snapshot = Schemas['PieceSnapshot'] | null;

	interface Props {
		core: RingCore;
		/** The piece of the drawer it was taken from; null for the trade's. */
		pieceId: string | null;
		trade: Trade;
		own: Piece[];
		/** The piece is left as it is when it is left out. */
		onset: (core: RingCore, piece?: Snapshot) => void;
	}

	let { core, pieceId, trade, own, onset }: Props = $props();

	const cores = $derived(own.filter((p) => p.held.kind === 'core'));
	const materials = $derived(own.filter((p) => p.held.kind === 'material'));
	const kindOf = (size: string) => trade.sizes.find((s) => s.size === size)?.kind;

	function setCore(changes: Partial<RingCore>): void {
		const next = { ...core, al_h: null, ...changes };
		// A size of the other family comes with a mix of that family.
		if (kindOf(next.size) !== trade.mixes.find((m) => m.mix === next.mix)?.kind) {
			next.mix = kindOf(next.size) === 'powder' ? '2' : '43';
			next.material = null;
		}
		onset(next, null);
	}
	function chooseCore(value: string): void {
		const mine = cores.find((c) => c.id === value);
		if (mine?.held.kind === 'core') {
			const values = mine.held.values;
			onset(
				{ ...values, stack: core.stack ?? 1 },
				{ id: mine.id, revision: mine.revision, values: values as Record<string, unknown> }
			);
		} else setCore({ size: value });
	}
	function chooseMix(value: string): void {
		const mine = materials.find((m) => m.id === value);
		if (mine?.held.kind === 'material') {
			const values = mine.held.values;
			setCore({
				mix: values.like ?? core.mix,
				material: { id: mine.id, revision: mine.revision, values }
			});
		} else setCore({ mix: value, material: null });
	}
</script>

<label class="named"
	>Ring
	<select
		aria-label="Ring"
		value={pieceId ?? core.size}
		onchange={(e) => chooseCore(e.currentTarget.value)}
	>
		<OwnPieces pieces={cores} taken={pieceId} />
		<optgroup label="Trade sizes, nominal">
			<RingSizes sizes={trade.sizes} />
		</optgroup>
	</select></label
>
<div class="row">
	<label class="named inline"
		>Mix
		<select
			aria-label="Mix"
			value={core.material?.id ?? core.mix}
			onchange={(e) => chooseMix(e.currentTarget.value)}
		>
			<OwnPieces
				pieces={materials}
				taken={core.material?.id}
				label="As you measured it"
				gone="a material of yours"
			/>
			<optgroup label="Nominal">
				{#each trade.mixes.filter((m) => m.kind === kindOf(core.size)) as m (m.mix)}
					<option value={m.mix}>{m.mix}, {m.family}, µ {m.initial_permeability}</option>
				{/each}
			</optgroup>
		</select></label
	>
	<NumberStepper
		label="Rings stacked"
		value={core.stack ?? 1}
		most={6}
		onchange={(stack) => onset({ ...core, stack })}
	/>
</div>

<style>
	.row {
		gap: 6px 14px;
	}
</style>
