<!-- @component
	How a match is wired: from the wire's post to the coax, which part goes through and which to the ground side.
-->
<script lang="ts">
	import type { Content } from '../lib/api/client';
	import { units } from '../lib/units/units.svelte';
	import { drawnOf } from './schematic';
	import Schematic from './Schematic.svelte';

	let { content }: { content: Content } = $props();

	const parts = $derived(drawnOf(content, units.length));
</script>

{#if parts.length > 0}
	<figure class="wiring">
		<Schematic {parts} />
		<figcaption>Ground: radials, counterpoise, or the other leg.</figcaption>
	</figure>
{/if}

<style>
	.wiring {
		margin: 4px 0 8px;
	}
	figcaption {
		color: var(--soft);
		font-size: var(--size-12);
	}
</style>
