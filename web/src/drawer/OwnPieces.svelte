<!-- @component
	Pieces of one's own to choose from, the one that was taken among them though it lies in the bin.
-->
<script lang="ts">
	import type { Piece } from '../lib/api/client';

	interface Props {
		pieces: Piece[];
		/** Id of the piece that was taken; none when left out. */
		taken?: string | null;
		/** What they are called together; “In your drawer” when left out. */
		label?: string;
		/** What the taken one is called once it is gone from the drawer. */
		gone?: string;
	}

	let {
		pieces,
		taken = null,
		label = 'In your drawer',
		gone = 'one that is in the bin now'
	}: Props = $props();
</script>

{#if pieces.length}
	<optgroup {label}>
		{#each pieces as mine (mine.id)}<option value={mine.id}>{mine.held.name}</option>{/each}
	</optgroup>
{/if}
{#if taken && !pieces.some((p) => p.id === taken)}
	<option value={taken}>{gone}</option>
{/if}
