<!-- @component
	A coil, a capacitor or a trap of one's drawer in place of the planned one; and whether it changed since it was taken.
-->
<script lang="ts">
	import type { Piece } from '../lib/api/client';
	import { type Made, madeOf, planned } from './pieceUse';

	interface Props {
		element: Made;
		own: Piece[];
		/** Middle of the band its value is meant at. */
		centerHz: number;
		/** Which part, where a page has several. */
		of?: string;
		onset: (changes: Partial<Made>) => void;
	}

	let { element, own, centerHz, of, onset }: Props = $props();

	// A capacitor may be a bought one that nobody measured.
	const name = $derived(element.kind === 'capacitor' ? 'In your drawer' : 'As measured');
	const pieces = $derived(own.filter((p) => p.held.kind === element.kind));
</script>

{#if pieces.length || element.piece}
	<label class="named"
		>{name}
		<select
			aria-label={of ? `${of}, ${name.toLowerCase()}` : name}
			value={element.piece?.id ?? ''}
			onchange={(e) => {
				const mine = pieces.find((p) => p.id === e.currentTarget.value);
				const changes = mine ? madeOf(mine, element, centerHz) : planned(element);
				if (changes) onset(changes);
			}}
		>
			<option value=""
				>{element.kind === 'capacitor'
					? 'planned, not in hand yet'
					: 'planned, not measured yet'}</option
			>
			{#each pieces as p (p.id)}<option value={p.id}>{p.held.name}</option>{/each}
			{#if element.piece && !pieces.some((p) => p.id === element.piece?.id)}
				<option value={element.piece.id}>one that is in the bin now</option>
			{/if}
		</select></label
	>
{/if}
