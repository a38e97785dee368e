<!-- @component
	The bench as it stands: what is screwed on above, the plane, the test lead, the analyser below.
-->
<script lang="ts">
	import type { Analyser, Calibration } from '../lib/api/client';
	import { megahertz } from '../lib/units/format';
	import { ageText } from './words';

	interface Props {
		analyser: Analyser;
		/** The calibration in use; null for none. */
		calibration: Calibration | null;
		/** Puts something on, where the bench is a simulated one. */
		onscrew: (thing: string) => void;
		/** Whether a sweep is under way. */
		running: boolean;
	}

	let { analyser, calibration, onscrew, running }: Props = $props();
</script>

<section class="bench" aria-label="The bench">
	<div class="card" class:real={analyser.connected}>
		<strong>At the plane</strong>
		{#if analyser.bench.length}
			<label class="told"
				><span class="unseen">What is screwed on</span>
				<select
					value={analyser.thing}
					disabled={running}
					onchange={(event) => onscrew(event.currentTarget.value)}
				>
					{#each analyser.bench as thing (thing.key)}
						<option value={thing.key}>{thing.label}</option>
					{/each}
				</select></label
			>
			<small class="soft">A simulated bench: choose what your hand would screw on.</small>
		{:else}
			<small class="soft">What you screwed on: a standard, a test piece, or the antenna.</small>
		{/if}
	</div>
	<svg class="wire" viewBox="0 0 60 56" width="60" height="56" aria-hidden="true">
		<line x1="30" y1="0" x2="30" y2="56" />
	</svg>
	<div class="plane" class:there={calibration?.complete}>
		<span>plane</span>
		{#if calibration?.complete}
			<small
				>{calibration.plane}: “{calibration.name}”, {megahertz(calibration.low_hz)} to {megahertz(
					calibration.high_hz
				)} MHz,
				{ageText(calibration.age_h)}</small
			>
		{:else}
			<small>not calibrated: the figures are those at the analyser’s own socket, more or less</small
			>
		{/if}
	</div>
	<svg class="lead" viewBox="0 0 60 96" width="60" height="96" aria-hidden="true">
		<path d="M30,0C30,30 8,30 8,48S52,64 30,96" />
	</svg>
	<div class="card" class:real={analyser.connected}>
		<strong>Analyser</strong>
		{#if analyser.connected}
			<small>{analyser.kind === 'simulated' ? 'simulated' : analyser.identity}</small>
			<small class="mono"
				>{analyser.address}<br />{megahertz(analyser.low_hz ?? 0)} to {megahertz(
					analyser.high_hz ?? 0
				)} MHz</small
			>
		{:else}
			<small class="soft">not connected</small>
		{/if}
	</div>
</section>

<style>
	.bench {
		display: flex;
		flex-direction: column;
		align-items: stretch;
		align-self: start;
	}
	.card {
		background: var(--sheet);
		border: 1px dashed var(--control-edge);
		border-radius: var(--radius);
		padding: 9px 12px;
		display: grid;
		gap: 4px;
	}
	.card.real {
		border: 1px solid var(--line);
	}
	small {
		font-size: var(--size-12);
		overflow-wrap: anywhere;
	}
	svg {
		margin-left: 22px;
	}
	.wire {
		stroke: var(--copper);
		stroke-width: 2;
	}
	.lead {
		fill: none;
		stroke: var(--soft);
		stroke-width: 5;
		stroke-linecap: round;
	}
	.plane {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 10px;
		align-items: center;
		border-top: 3px dashed var(--control-edge);
		padding: 5px 0;
		color: var(--soft);
	}
	.plane.there {
		border-top: 5px solid var(--tape);
		color: var(--ink);
	}
	.plane span {
		background: var(--tape-wash);
		border-radius: 4px;
		padding: 1px 7px;
		font-size: var(--size-12);
		font-weight: 700;
		color: var(--ink);
	}
	select {
		width: 100%;
	}
</style>
