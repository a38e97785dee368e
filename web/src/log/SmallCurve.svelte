<!-- @component
	A sweep in small: its SWR over frequency, fetched when it comes into view.
-->
<script lang="ts">
	import { answer, api, Refused } from '../lib/api/client';
	import { path } from '../lib/charts/curve';
	import { whenSeen } from './seen';

	let { sweepId, name }: { sweepId: string; name: string } = $props();

	let line = $state('');
	const width = 150;
	const height = 34;
	const top = 10;

	async function draw(): Promise<void> {
		try {
			const found = await answer(
				api.GET('/api/sweeps/{sweep_id}/curves', {
					params: { path: { sweep_id: sweepId }, query: { points: 80 } }
				})
			);
			const f = found.frequency_hz as number[];
			const low = f[0] ?? 0;
			const span = (f[f.length - 1] ?? 1) - low || 1;
			const held = found.swr.map((v) => (v === null ? top : Math.min(v, top)));
			line = path(
				f,
				held,
				(hz) => 1 + ((width - 2) * (hz - low)) / span,
				(v) => height - 2 - ((height - 4) * Math.log(v)) / Math.log(top)
			);
		} catch (why) {
			// A sweep that went to the bin meanwhile has no curve here.
			if (!(why instanceof Refused)) throw why;
		}
	}
</script>

<svg
	{@attach whenSeen(() => void draw())}
	{width}
	{height}
	viewBox="0 0 {width} {height}"
	role="img"
	aria-label="SWR of {name}, 1 to 10"
>
	<line x1="0" x2={width} y1={height - 2} y2={height - 2} />
	<path d={line} />
</svg>

<style>
	line {
		stroke: var(--line);
	}
	path {
		fill: none;
		stroke: var(--blueprint);
		stroke-width: 1.8;
	}
</style>
