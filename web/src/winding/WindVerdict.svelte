<!-- @component
	The figure that decides about a winding: what is lost, how warm it gets, what another one would win, what to know.
-->
<script lang="ts">
	import type { Content, Design } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { quantity, swr, tolerance, turns as turnsText, watts } from '../lib/units/format';
	import AccessoryVerdict from './AccessoryVerdict.svelte';
	import Compare from './Compare.svelte';
	import CompareChokes from './CompareChokes.svelte';
	import HeatGauge from './HeatGauge.svelte';
	import { finding, lossRange, type Windable, type Winding } from './wound';

	interface Props {
		content: Content;
		element: Windable;
		/** None while it is first laid. */
		winding: Winding | null;
		/** Other designs of the build, to compare with. */
		designs: Design[];
		/** The other one that is compared, for the chart. */
		onother: (other: { name: string; winding: Winding } | null) => void;
		onedit: (content: Content) => void;
	}

	let { content, element, winding, designs, onother, onedit }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);

	const loss = $derived(winding ? lossRange(winding.heat) : null);
	const remarks = $derived(
		(winding?.findings ?? [])
			.filter((f) => f.code !== 'winding_voltage')
			.map((f) => finding(f))
			.filter((t) => t !== null)
	);
	const voltage = $derived(winding?.findings.find((f) => f.code === 'winding_voltage'));
	const box = $derived(winding?.fit.boxes.filter((b) => b.fits) ?? []);
</script>

<section class="sheet verdict" aria-label="Verdict" aria-live="polite">
	{#if winding && loss?.worst}
		{#if winding.choke || winding.trap}
			<AccessoryVerdict {winding} antenna={content.antenna} />
		{:else if winding.kind === 'coil' || winding.kind === 'ring_coil'}
			{@const turns = winding.turns.passes}
			<p><span class="figure">{turnsText(turns)}</span> turns</p>
			<p class="told">
				{#if winding.stretch}
					Squeezing and spreading reaches {quantity(winding.stretch.low_h, 'H')} to {quantity(
						winding.stretch.high_h,
						'H'
					)} without another turn.
				{/if}
				{#if winding.made_of.measured}
					Known to {tolerance(winding.made_of.tolerance)}, as you measured it.
				{/if}
				{watts(loss.worst.core_w + loss.worst.copper_w)} of {watts(build.power_w)} are lost in it on
				{loss.worst.label}.
			</p>
		{:else}
			<p>
				<span class="figure">{loss.worst.loss_db.toFixed(1)} dB</span>
				<span class="of"
					>lost on {loss.worst.label}{loss.best
						? `, ${loss.best.loss_db.toFixed(1)} on ${loss.best.label}`
						: ''}</span
				>
			</p>
			<p class="told">
				{#each winding.heat as h, i (i)}{i ? ', ' : 'SWR '}{swr(h.swr)} on {h.label}{/each}. Mix {winding
					.made_of.mix} is known to {tolerance(winding.made_of.tolerance)}{winding.made_of.measured
					? ', as you measured it.'
					: '.'}
				{#if !winding.made_of.measured}
					<a href="/drawer?measure">Characterise yours</a>: the loss then comes from your core.
				{/if}
			</p>
		{/if}
	{:else}
		<p>Laying the turns…</p>
	{/if}
</section>
{#if winding}
	{#if winding.kind !== 'choke' || winding.choke?.bands.some((b) => b.loss_w !== null)}
		<section class="sheet">
			<HeatGauge {winding} powerW={build.power_w} mode={build.mode} />
		</section>
	{/if}
	{#if element.kind === 'choke'}
		<section class="sheet unprinted">
			<CompareChokes {content} {element} {winding} {onother} {onedit} />
		</section>
	{/if}
	{#if element.kind === 'transformer'}
		<section class="sheet unprinted">
			<Compare {content} {element} {winding} {designs} {onother} {onedit} />
		</section>
	{/if}
	{#if remarks.length}
		<section class="sheet">
			<h3 class="eyebrow">Know this</h3>
			{#each remarks as text, i (i)}<p class="told">{text}</p>{/each}
		</section>
	{/if}
	<section class="sheet told">
		<h3 class="eyebrow">Goes into</h3>
		{#if box.length}
			{box.map((b) => b.name).join(', ')}
		{:else}none of the boxes of the <a href="/drawer?kind=box">drawer</a>: it is too large{/if}
	</section>
	{#if voltage}
		<Note kind="danger" title="RF burn.">{finding(voltage)}</Note>
	{/if}
	<Note kind="danger">
		Cores and resistors get hot; let them cool before touching. Solder and enamel fumes: air. Never
		adjust while transmitting; local rules and qualified people come before this page.
	</Note>
{/if}

<style>
	.verdict {
		display: grid;
		gap: 6px;
	}
	.told + .told {
		margin-top: 6px;
	}
</style>
