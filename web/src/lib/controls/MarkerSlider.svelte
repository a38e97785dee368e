<!-- @component
	The shared marker as a slider: arrows move it by a fiftieth of the band, with shift by a tenth.
-->
<script lang="ts">
	import { megahertz } from '../units/format';

	interface Props {
		lowHz: number;
		highHz: number;
		markerHz: number;
		/** Size of a step, Hz; ten steps with shift. */
		stepHz: number;
		/** What to read out with the frequency, as in "SWR 1.53 with the match". */
		says: string;
		onmarker: (hz: number, settled: boolean) => void;
	}

	let { lowHz, highHz, markerHz, stepHz, says, onmarker }: Props = $props();

	function keyed(event: KeyboardEvent): void {
		const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
		const to =
			way !== undefined
				? markerHz + way * stepHz * (event.shiftKey ? 5 : 1)
				: event.key === 'Home'
					? lowHz
					: event.key === 'End'
						? highHz
						: null;
		if (to === null) return;
		event.preventDefault();
		onmarker(Math.min(highHz, Math.max(lowHz, to)), true);
	}
</script>

<div
	class="slider mono"
	role="slider"
	tabindex="0"
	aria-label="Marker frequency"
	aria-valuemin={lowHz / 1e6}
	aria-valuemax={highHz / 1e6}
	aria-valuenow={markerHz / 1e6}
	aria-valuetext="{megahertz(markerHz)} MHz, {says}"
	onkeydown={keyed}
>
	▼ {megahertz(markerHz)} MHz
</div>

<style>
	.slider {
		display: inline-block;
		padding: 1px 8px;
		border-radius: 6px;
		border: 1px solid var(--control-edge);
		font-size: var(--size-13);
		white-space: nowrap;
		cursor: ew-resize;
	}
	@media (max-width: 620px), (pointer: coarse) {
		.slider {
			line-height: 42px;
		}
	}
</style>
