<!-- @component
	A coil or a trap of one's drawer, as a sweep found it, in place of the planned one.
-->
<script lang="ts">
	import type { Piece } from '../lib/api/client';
	import { type Changes, madeOf, type Windable } from './wound';

	interface Props {
		element: Windable;
		own: Piece[];
		/** Middle of the band its value is meant at. */
		centerHz: number;
		onset: (changes: Changes) => void;
	}

	let { element, own, centerHz, onset }: Props = $props();

	const pieces = $derived(own.filter((p) => p.held.kind === element.kind));
	const loose = $derived(
		element.kind === 'trap'
			? { piece: null, coil_spread: 0.04, capacitance_spread: 0.05 }
			: { piece: null, spread: 0.04 }
	);
</script>

{#if pieces.length || element.piece}
	<label class="told"
		>As measured
		<select
			aria-label="As measured"
			value={element.piece?.id ?? ''}
			onchange={(e) => {
				const mine = pieces.find((p) => p.id === e.currentTarget.value);
				const changes = mine ? madeOf(mine, element, centerHz) : loose;
				if (changes) onset(changes);
			}}
		>
			<option value="">planned, not measured yet</option>
			{#each pieces as p (p.id)}<option value={p.id}>{p.held.name}</option>{/each}
			{#if element.piece && !pieces.some((p) => p.id === element.piece?.id)}
				<option value={element.piece.id}>one that is in the bin now</option>
			{/if}
		</select></label
	>
{/if}

<style>
	label {
		grid-template-columns: 72px minmax(0, 1fr);
		align-items: center;
		color: var(--soft);
	}
</style>
