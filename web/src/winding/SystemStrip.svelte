<!-- @component
	The antenna system as a strip: radio at the left, wire at the right, a ribbon as high as the watts in it.
-->
<script lang="ts">
	import { impedance, swr, watts } from '../lib/units/format';
	import type { stopsOf } from '../design/stations';

	interface Props {
		/** From the wire down to the radio, as the drop has them. */
		stops: ReturnType<typeof stopsOf>;
		powerW: number;
		/** Key of the stop that is worked on; none of them when what is wound stands beside. */
		here: string | null;
	}

	let { stops, powerW, here }: Props = $props();

	const row = $derived([...stops].reverse());
	const full = 26;
	const high = (w: number | null) => Math.max(2, (full * (w ?? 0)) / powerW);
	const lost = $derived(row.reduce((sum, s) => sum + Math.max(0, s.heat), 0));
</script>

<ol class="sheet" aria-label="The antenna system">
	{#each row as stop, i (stop.key)}
		<li class:here={stop.key === here} style:--height="{high(stop.watts)}px">
			{#if i > 0}<span class="ribbon" aria-hidden="true"></span>{/if}
			<span class="words">
				{#if stop.href}<a href={stop.href}>{stop.title}</a>{:else}<strong>{stop.title}</strong>{/if}
				<small class="mono"
					>{impedance(stop.resistance, stop.reactance)} · SWR {swr(stop.swr)}</small
				>
				{#if stop.heat >= 0.05}<small class="heat">{watts(stop.heat)} turns to heat here</small>
				{:else}<small class="soft">{stop.detail}</small>{/if}
			</span>
		</li>
	{/each}
	<li class="sum">
		<span class="words"
			><strong class="out">{watts(Math.max(0, powerW - lost))}</strong><small
				>of {watts(powerW)} into the wire</small
			></span
		>
	</li>
</ol>

<style>
	ol {
		list-style: none;
		display: flex;
		flex-wrap: wrap;
		gap: 4px 0;
		align-items: center;
		margin-bottom: 11px;
		padding: 6px 14px;
	}
	li {
		flex: 1 1 auto;
		display: flex;
		align-items: center;
		min-width: 0;
	}
	li.sum {
		flex: 0 0 auto;
	}
	.ribbon {
		flex: 1 1 24px;
		min-width: 20px;
		height: var(--height);
		background: linear-gradient(90deg, var(--copper), var(--verdigris));
		opacity: 0.75;
	}
	.words {
		padding: 2px 10px;
		font-size: var(--size-13);
	}
	.here .words {
		border: 2px solid var(--copper);
		border-radius: var(--radius);
		background: var(--selected);
	}
	small {
		display: block;
		font-size: var(--size-12);
	}
	a,
	strong {
		font-weight: 700;
		color: var(--ink);
	}
	.heat {
		color: var(--heat-ink);
	}
	.out {
		color: var(--verdigris);
		font-size: var(--size-17);
	}
</style>
