<!-- @component
	Where a curve may lie: the stretch between a low and a high edge; endless edges run along the top.
-->
<script lang="ts">
	import { band } from '../curve';
	import type { Hue, Plotted } from '../frame';

	interface Props {
		plot: Plotted;
		/** Frequencies in Hz, ascending, and two edges each. */
		hz: number[];
		low: (number | null)[];
		high: (number | null)[];
		/** Value at the top edge of the chart. */
		top: number;
		/** Whose doubt it is. */
		hue: Extract<Hue, 'blueprint' | 'copper' | 'soft'>;
	}

	let { plot, hz, low, high, top, hue }: Props = $props();
</script>

<path class="fan {hue}" d={band(hz, low, high, plot.x, plot.y, top)} />

<style>
	/* What lies behind it, lines and bands, stays to be seen. */
	path {
		stroke: none;
		opacity: 0.8;
	}
	.blueprint {
		fill: var(--blueprint-wash);
	}
	.copper {
		fill: var(--copper-wash);
	}
	.soft {
		fill: var(--line);
		opacity: 0.7;
	}
</style>
