<!-- @component
	The wire something is wound with: of the trade, or of one's drawer as it is now.
-->
<script lang="ts">
	import OwnPieces from '../drawer/OwnPieces.svelte';
	import type { Piece, Schemas, Trade } from '../lib/api/client';

	interface Props {
		/** Of the table, when none of one's own is taken. */
		wire: string;
		taken: Schemas['WireSnapshot'] | null;
		trade: Trade;
		own: Piece[];
		onset: (changes: { wire?: string; wire_piece: Schemas['WireSnapshot'] | null }) => void;
	}

	let { wire, taken, trade, own, onset }: Props = $props();

	const wires = $derived(own.filter((p) => p.held.kind === 'wire'));
	function choose(value: string): void {
		const mine = wires.find((w) => w.id === value);
		const values = mine?.held.kind === 'wire' ? mine.held.values : null;
		onset(
			mine && values
				? { wire_piece: { id: mine.id, revision: mine.revision, values } }
				: { wire: value, wire_piece: null }
		);
	}
</script>

<label class="named"
	>Wire
	<select
		aria-label="Wire"
		value={taken?.id ?? wire}
		onchange={(e) => choose(e.currentTarget.value)}
	>
		<OwnPieces pieces={wires} taken={taken?.id} />
		<optgroup label="Trade, nominal">
			{#each trade.wires as w (w.key)}<option value={w.key}>{w.name}</option>{/each}
		</optgroup>
	</select></label
>
