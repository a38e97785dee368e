<!-- @component
	Where a curve was really sampled, when so rarely that what lies between is a guess.
-->
<script lang="ts">
	import { valueAt } from '../curve';
	import type { Plotted } from '../frame';

	interface Props {
		plot: Plotted;
		/** Frequencies of the samples, Hz. */
		atHz: (number | null)[];
		/** The curve through them. */
		hz: (number | null)[];
		values: (number | null)[];
		hue: 'blueprint' | 'copper';
		/** Value at the top edge, along which higher ones run; none when left out. */
		top?: number;
	}

	let { plot, atHz, hz, values, hue, top = Infinity }: Props = $props();
</script>

{#each atHz as at, i (i)}
	{@const value = at === null ? null : valueAt(hz, values, at)}
	{#if at !== null && value !== null}
		<circle class="dot {hue}" cx={plot.x(at)} cy={plot.y(Math.min(value, top))} r="3.5" />
	{/if}
{/each}

<style>
	.blueprint {
		fill: var(--blueprint);
	}
	.copper {
		fill: var(--copper);
	}
</style>
