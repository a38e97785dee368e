<!-- @component
	What a sweep says: where its dip is, what has to be known of it, and what to do next.
-->
<script lang="ts">
	import type { AcquisitionFinding, Schemas } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { megahertz, swr } from '../lib/units/format';
	import { dipText, say } from './words';

	interface Props {
		/** Where the SWR is lowest; null before a sweep. */
		dip: Schemas['Dip'] | null;
		findings: AcquisitionFinding[];
		/** Whether a sweep is under way, and whether it goes on until stopped. */
		running: boolean;
		live: boolean;
		/** Whether the range set is wider than the calibration. */
		wider: boolean;
		onsweep: () => void;
		onadjust: () => void;
		onstop: () => void;
		/** Sets another range, Hz. */
		onlook: (lowHz: number, highHz: number) => void;
	}

	let { dip, findings, running, live, wider, onsweep, onadjust, onstop, onlook }: Props = $props();

	const elsewhere = $derived(findings.find((f) => f.code === 'dip_elsewhere'));
</script>

{#if dip}
	<p>
		<span class="figure">{megahertz(dip.frequency_hz)}</span>
		<span class="of"
			>MHz, {swr(dip.swr)} : 1 there
			<span class="unseen">{dipText(dip.frequency_hz, dip.swr)}</span></span
		>
	</p>
{/if}
{#each findings as finding, nth (nth)}
	{#if finding.grave}<Note kind="danger">{say(finding)}</Note>
	{:else}<p class="told">{say(finding)}</p>{/if}
{/each}
{#if elsewhere}
	<p>
		<button
			class="button"
			onclick={() => onlook(Number(elsewhere.values.low_hz), Number(elsewhere.values.high_hz))}
			>Look there</button
		>
	</p>
{/if}
{#if wider}
	<p class="told">
		The range set is wider than the calibration: choose above the charts what to do.
	</p>
{/if}
<p class="row">
	<button class="button main" disabled={running || wider} onclick={onsweep}>Sweep and keep</button>
	{#if live}
		<button class="button" onclick={onstop}>Stop adjusting</button>
	{:else}
		<button class="button" disabled={running || wider} onclick={onadjust}
			>Keep sweeping while I adjust</button
		>
	{/if}
</p>
