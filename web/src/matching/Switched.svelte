<!-- @component
	Where no single network serves all bands: the best one for each, to be switched.
-->
<script lang="ts">
	import { answer, api, type Candidate, type Content } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { percent, swr } from '../lib/units/format';
	import { shapeName } from '../design/content';

	interface Props {
		content: Content;
		powerW: number;
		/** Keeps a network as a design of its own, for its band alone. */
		ondesign: (band: string, network: Candidate) => void;
	}

	let { content, powerW, ondesign }: Props = $props();

	const found = latest(
		() => ({ content, power_w: powerW }),
		(body) => answer(api.POST('/api/matches/switched', { body })),
		{ keeps: true }
	);
</script>

<section class="sheet" aria-label="One network for each band">
	<h3 class="eyebrow">One network for each band, switched</h3>
	<p>
		No single L network of these serves {content.targets.map((t) => t.label).join(' and ')} together.
		Make one for each band, with a switch or a relay before and after, or plug in the one in use.
	</p>
	{#if found.problem}<p class="soft">{found.problem}.</p>{/if}
	{#each found.value ?? [] as { label, network }, nth (nth)}
		<p class="band">
			<strong>{label}</strong>
			{#if network.content}
				{shapeName(network)}: worst SWR <span class="mono">{swr(network.worst_swr)}</span>,
				<span class="mono">{percent(network.share ?? 0)}</span> of builds hold it.
				{#if network.few_hold}
					<span class="soft">Alone it is too sharp as well: take a part of the band.</span>
				{/if}
				<button class="button" onclick={() => ondesign(label, network)}
					>Design it for {label}</button
				>
			{:else}
				<span class="soft">{network.refused}</span>
			{/if}
		</p>
	{/each}
</section>

<style>
	.band {
		margin: 6px 0;
	}
	.soft {
		color: var(--soft);
	}
</style>
