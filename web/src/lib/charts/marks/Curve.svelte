<!-- @component
	A curve over frequency; a value that is not there breaks it.
-->
<script lang="ts">
	import { path } from '../curve';
	import type { Hue, Plotted } from '../frame';

	interface Props {
		plot: Plotted;
		/** What it shows, for whoever looks for it in the drawing. */
		of: string;
		/** Frequencies in Hz, ascending, and a value each. */
		hz: (number | null)[];
		values: (number | null)[];
		hue: Hue;
		/** In pixels; 2 when left out. */
		width?: number;
		/** Dash pattern; solid when left out. */
		dash?: string;
		/** Sampled so rarely that what lies between is a guess. */
		unsure?: boolean;
		/** An earlier one, left to compare with. */
		faint?: boolean;
	}

	let {
		plot,
		of,
		hz,
		values,
		hue,
		width = 2,
		dash,
		unsure = false,
		faint = false
	}: Props = $props();
</script>

<path
	class="{of} {hue}"
	class:unsure
	class:faint
	stroke-width={unsure ? 1 : width}
	stroke-dasharray={unsure ? '2 4' : dash}
	d={path(hz, values, plot.x, plot.y)}
/>

<style>
	path {
		fill: none;
	}
	.faint {
		opacity: 0.55;
	}
	.blueprint {
		stroke: var(--blueprint);
	}
	.copper {
		stroke: var(--copper);
	}
	.heat {
		stroke: var(--heat);
	}
	.verdigris {
		stroke: var(--verdigris);
	}
	.ink {
		stroke: var(--ink);
	}
	.soft {
		stroke: var(--soft);
	}
</style>
