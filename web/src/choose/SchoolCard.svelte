<!-- @component
	One school as a card: drawn to scale, watts in the air per band with their doubt, SWR at the radio, what it takes,
	what goes wrong. One that does not fit stays, greyed, with what stands in its way.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import { distance, type LengthUnit, quantity, swr, watts } from '../lib/units/format';
	import SchoolDrawing from './SchoolDrawing.svelte';
	import { obstacleText, schoolWords } from './words';

	interface Props {
		card: Schemas['SchoolCardOut'];
		powerW: number;
		wideM: number;
		highM: number;
		unit: LengthUnit;
		chosen: boolean;
		best: boolean;
		onchoose: () => void;
	}

	let { card, powerW, wideM, highM, unit, chosen, best, onchoose }: Props = $props();

	const words = $derived(schoolWords[card.key]);
	const needText = (need: Schemas['NeedOut']): string => {
		const value = need.value ?? 0;
		const paid = need.price ? `, ${need.price}` : '';
		const held = need.have ? ` (in the drawer${paid})` : '';
		switch (need.what) {
			case 'wire':
				return `${distance(value, unit)} of wire${held}`;
			case 'coax':
				return `${distance(value, unit)} of coax${held}`;
			case 'unun':
				return `a ring ${need.ring}${held}`;
			case 'section':
				return `${distance(value, unit)} of 75 Ω coax`;
			case 'coil':
				return `${need.count > 1 ? `${need.count} coils` : 'a coil'} of ${quantity(value, 'H', 2)}${held}`;
			case 'trap':
				return `${need.count > 1 ? `${need.count} traps` : 'a trap'}${held}`;
			case 'radials':
				return `${need.count} radials`;
			case 'tuner':
				return 'a tuner';
		}
	};
	const bar = (w: number | null) => `${Math.min(100, (100 * (w ?? 0)) / powerW)}%`;
</script>

<article class="sheet" class:grey={card.obstacle} class:chosen aria-label={words.name}>
	<div class="head">
		<h3>{words.name}</h3>
		{#if best}<span class="told mark">best</span>{/if}
		{#if !card.obstacle}<span class="soft told size"
				>{distance(card.wire_m, unit)} of wire, {distance(card.height_m, unit)} high</span
			>{/if}
	</div>
	{#if card.obstacle}
		<p class="told">{obstacleText(card.obstacle, unit)}</p>
	{:else}
		<div class="body">
			<SchoolDrawing {card} {wideM} {highM} label="{words.name}, drawn to scale" />
			<table>
				<thead class="unseen"
					><tr
						><th scope="col">band</th><th scope="col">goes up</th><th scope="col">watts</th><th
							scope="col">SWR at the radio</th
						></tr
					></thead
				>
				<tbody>
					{#each card.bands as band (band.label)}
						<tr>
							<th scope="row">{band.label}</th>
							<td class="bars">
								<span class="track">
									<span class="bar" style:width={bar(band.up_w)}></span>
									{#if band.up_w !== null}<span
											class="doubt"
											style:left={bar(band.low_w)}
											style:width="calc({bar(band.high_w)} - {bar(band.low_w)})"
										></span>{/if}
								</span>
							</td>
							<td class="mono"
								>{band.up_w === null
									? '–'
									: `${Math.round(band.low_w ?? 0)} to ${Math.round(band.high_w ?? 0)} W`}</td
							>
							<td class="mono" class:good={band.holds} class:bad={!band.holds}
								>{swr(band.swr)}{band.tuner && band.up_w !== null ? ' t' : ''}</td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<p class="told">{card.needs.map(needText).join('; ')}.</p>
		<p class="told soft">{words.trouble}</p>
		<p class="row unprinted">
			<button class="button" class:main={chosen} aria-pressed={chosen} onclick={onchoose}
				>{chosen ? 'Looked at' : 'Look at this one'}</button
			>
			{#if !card.obstacle}<span class="soft told"
					>at least {watts(card.least_w)} of {watts(powerW)}</span
				>{/if}
		</p>
	{/if}
</article>

<style>
	article {
		min-width: 0;
		display: grid;
		gap: 6px;
		align-content: start;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 10px;
		align-items: baseline;
	}
	h3 {
		font-size: var(--size-14);
	}
	.size {
		margin-left: auto;
		font-size: var(--size-12);
	}
	.mark {
		background: var(--tape);
		color: var(--tape-ink);
		border-radius: 4px;
		padding: 0 6px;
		font-weight: 700;
	}
	.body {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 12px;
		align-items: center;
	}
	table {
		flex: 1;
		min-width: 210px;
		border-collapse: collapse;
		font-size: var(--size-12);
	}
	th {
		text-align: left;
		white-space: nowrap;
	}
	td,
	th {
		padding: 2px 6px 2px 0;
		white-space: nowrap;
	}
	.bars {
		width: 100%;
	}
	.track {
		display: block;
		position: relative;
		height: 12px;
		min-width: 50px;
		background: var(--tape-wash);
		border-radius: 3px;
	}
	.bar {
		position: absolute;
		inset: 0 auto 0 0;
		background: var(--verdigris);
		border-radius: 3px;
	}
	.doubt {
		position: absolute;
		top: 4px;
		height: 4px;
		background: var(--sheet);
		border: 1px solid var(--ink);
	}
	.good {
		color: var(--verdigris);
	}
	.bad {
		color: var(--enamel);
	}
	.chosen {
		border-color: var(--copper);
		background: var(--selected);
	}
	.grey {
		background: none;
		color: var(--soft);
	}
	.grey h3 {
		font-weight: 400;
	}
</style>
