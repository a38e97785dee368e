<!-- @component
	The magnitude alone, as a needle shows it: which way is better, and nothing of why.
-->
<script lang="ts">
	import { figures, swr } from '../lib/units/format';

	interface Props {
		/** |Γ| in the middle of the band. */
		size: number;
		/** Before the last turn; null at the start. */
		before: number | null;
		matched: boolean;
	}

	let { size, before, matched }: Props = $props();

	const of = (g: number) => (g < 1 ? (1 + g) / (1 - g) : null);
	const shown = $derived(Math.min(1, size));
	const ratio = $derived(of(size));
	const loss = $derived(size > 0 ? -20 * Math.log10(size) : null);
	/** Told apart as far as the figure is. */
	const way = $derived(
		before === null || swr(of(before)) === swr(ratio) ? '' : size < before ? 'better' : 'worse'
	);
</script>

<div
	class="bar"
	role="img"
	aria-label="SWR {swr(ratio)}, return loss {loss === null ? 'endless' : figures(loss)} dB {way}"
>
	<div class="scale"><span style:width="{100 * shown}%" class:good={matched}></span></div>
	<div class="ticks mono">
		{#each [1.2, 1.5, 2, 3, 5, 10] as tick (tick)}
			<span style:left="{(100 * (tick - 1)) / (tick + 1)}%">{tick}</span>
		{/each}
	</div>
	<p>
		<span class="figure">{swr(ratio)}</span> : 1, return loss {loss === null ? '–' : figures(loss)} dB
		{#if way}<strong class={way}>{way}</strong>{/if}
	</p>
</div>

<style>
	.bar {
		display: grid;
		gap: 4px;
		padding: 40px 10px 20px;
	}
	.scale {
		height: 34px;
		border: 1px solid var(--control-edge);
		background: var(--paper);
	}
	.scale span {
		display: block;
		height: 100%;
		background: var(--copper);
	}
	.scale .good {
		background: var(--verdigris);
	}
	.ticks {
		position: relative;
		height: 20px;
		font-size: var(--size-12);
		color: var(--soft);
	}
	.ticks span {
		position: absolute;
		transform: translateX(-50%);
	}
	.better {
		color: var(--verdigris);
	}
	.worse {
		color: var(--enamel);
	}
</style>
