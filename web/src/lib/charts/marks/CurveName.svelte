<!-- @component
	A name written beside its curve, readable over whatever it crosses.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	import type { Hue } from '../frame';

	interface Props {
		/** Where it stands, in pixels of the chart. */
		x: number;
		y: number;
		hue: Extract<Hue, 'blueprint' | 'copper' | 'heat' | 'ink' | 'soft'>;
		/** Which end of the text stands there; its start when left out. */
		anchor?: 'start' | 'end';
		children: Snippet;
	}

	let { x, y, hue, anchor = 'start', children }: Props = $props();
</script>

<text class={hue} {x} {y} text-anchor={anchor}>{@render children()}</text>

<style>
	text {
		font-size: var(--size-12);
		font-weight: 600;
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.blueprint {
		fill: var(--blueprint);
	}
	.copper {
		fill: var(--copper-ink);
	}
	.heat {
		fill: var(--heat-ink);
	}
	.ink {
		fill: var(--ink);
		font-weight: 400;
	}
	.soft {
		fill: var(--soft);
		font-weight: 400;
	}
</style>
