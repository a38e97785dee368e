<!-- @component
	What decides: the least that goes up on any band, what would raise it most, what the meter says, what may be sent.
-->
<script lang="ts">
	import type { Content } from '../lib/api/client';
	import Help from '../lib/help/Help.svelte';
	import { quantity, watts } from '../lib/units/format';
	import { allowedText, type Bands, betterName, lossName, meterText, placeName } from './words';

	interface Props {
		bands: Bands;
		band: number;
		content: Content;
		powerW: number;
		/** Whether an edit can do this change. */
		ontake: (better: Bands['better'][number]) => void;
	}

	let { bands, band, content, powerW, ontake }: Props = $props();

	const least = $derived(bands.bands[bands.least]!);
	const shown = $derived(bands.bands[band]!);
	const number = $derived((least.up_w ?? 0).toFixed((least.up_w ?? 0) < 9.95 ? 1 : 0));
	/** What keeps most on that band. */
	const dearest = $derived([...least.losses].sort((a, b) => (b.watts ?? 0) - (a.watts ?? 0))[0]);
	const can = (b: Bands['better'][number]) => b.by !== 'tuner_antenna';
	const highest = $derived(
		[...bands.bands].sort((a, b) => (b.peak_voltage_v ?? 0) - (a.peak_voltage_v ?? 0))[0]!
	);
</script>

<section class="sheet verdict" aria-label="Verdict">
	<p class="eyebrow">
		The least that {least.radiated ? 'goes up' : 'goes into the wire'}{bands.bands.length > 1
			? ', on any band'
			: ''}
	</p>
	<p class="top">
		<span class="figure">{number} <small>W</small></span><Help
			topic="predict"
			name="where the watts go"
		/>
	</p>
	<p>
		of {watts(powerW)} on {least.label}{#if (least.up_high_w ?? 0) - (least.up_low_w ?? 0) >= 0.6},
			{(least.up_low_w ?? 0).toFixed(0)} to {(least.up_high_w ?? 0).toFixed(0)} nine times in ten{/if}.
		{#if dearest && (dearest.watts ?? 0) > 0.02 * powerW}
			The {lossName(dearest.kind)} keeps most, {watts(dearest.watts)}.
		{/if}
		{#if bands.better[0]}
			{betterName(bands.better[0], bands)} would make it
			<strong>{watts(bands.better[0].least_w)}</strong>.
		{:else}
			Nothing that is compared here raises it by a hundredth.
		{/if}
	</p>
	{#if !least.radiated}
		<p class="told">What the wire and the ground keep a sweep cannot tell.</p>
	{/if}
	{#if bands.better.length}
		<div class="row">
			{#each bands.better.slice(0, 3) as better (better.by + better.key)}
				{#if can(better)}
					<button class="button" onclick={() => ontake(better)}
						>{betterName(better, bands)}: {watts(better.least_w)}</button
					>
				{:else}
					<span class="told">{betterName(better, bands)}: {watts(better.least_w)}</span>
				{/if}
			{/each}
		</div>
	{/if}
</section>
<section class="sheet">
	<h2>What the meter will say</h2>
	<p>{meterText(shown, content)}</p>
</section>
<section class="sheet">
	<h2>What may be sent</h2>
	<p>{allowedText(bands, content)}</p>
	{#if bands.choke}
		<p class="told">What the choke takes hangs on the current outside the coax: not known here.</p>
	{/if}
</section>
<section class="sheet caution">
	<p>
		{quantity(highest.peak_voltage_v, 'V', 2)} peak at {placeName(highest.voltage_at, content)} on {highest.label},
		more at the far end of a wire: nobody touches it while you send. How near people may be is set
		by your licence's rules on fields, not by this page.
	</p>
</section>

<style>
	.verdict {
		border-top: 5px solid var(--tape);
		display: grid;
		gap: 6px;
	}
	.top {
		display: flex;
		justify-content: space-between;
		align-items: start;
	}
	.figure small {
		font-size: var(--size-24);
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		align-items: center;
	}
	h2 {
		margin-bottom: 4px;
	}
	.caution {
		background: var(--caution);
		border-left: 4px solid var(--enamel);
		font-size: var(--size-13);
	}
</style>
