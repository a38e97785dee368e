<!-- @component
	Says that a piece a part was made of has changed in the drawer since, or lies in the bin; nothing otherwise.
-->
<script lang="ts">
	import type { Piece } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { type Made, madeOf } from './pieceUse';

	interface Props {
		element: Made;
		/** What the piece is called in the sentence, as in “core”. */
		what: string;
		/** The drawer; null until it is known. */
		own: Piece[] | null;
		/** Middle of the band its value is meant at. */
		centerHz: number;
		onset: (changes: Partial<Made>) => void;
	}

	let { element, what, own, centerHz, onset }: Props = $props();

	const taken = $derived(element.piece ?? null);
	const present = $derived(own?.find((p) => p.id === taken?.id));
	const now = $derived(
		present && present.revision !== taken?.revision ? madeOf(present, element, centerHz) : null
	);
</script>

{#if taken && own && !present}
	<Note kind="news"
		>The {what} of this design lies in the bin now. The design keeps it as it was taken.</Note
	>
{:else if present && present.revision !== taken?.revision}
	<Note kind="news"
		>“{present.held.name}” changed in the drawer since this design took it.
		{#if now}<button class="button" onclick={() => onset(now)}>Take it as it is now</button
			>{/if}</Note
	>
{/if}
