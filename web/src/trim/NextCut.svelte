<!-- @component
	The next act in one figure: what to do, how much, where; done as said, or otherwise.
-->
<script lang="ts">
	import { length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import type { Trimming } from './trimming.svelte';
	import { actText, foldsText, stopText, whereText, whyText } from './words';

	interface Props {
		work: Trimming;
		/** Large, for gloves and sun. */
		outdoors?: boolean;
	}

	let { work, outdoors = false }: Props = $props();

	const trim = $derived(work.view);
	const next = $derived(trim?.next && trim.next.act !== 'none' ? trim.next : null);
	// The figure large, its unit beside it; feet and inches stay together.
	const figure = $derived(
		/^([\d.]+) (\w+)$/.exec(next ? length(next.per_leg_m, units.length) : '')?.slice(1) ?? [
			next ? length(next.per_leg_m, units.length) : ''
		]
	);
	const blocked = $derived(trim?.findings.some((f) => f.grave) ?? false);
</script>

{#if trim?.stop}
	<div class:outdoors>
		<p class="do">Stop. Good enough.</p>
		<p class="why">{stopText(trim)}</p>
		{#if next}
			<p class="why soft">
				Whoever goes on all the same: {actText(next.act).toLowerCase()}
				{length(next.per_leg_m, units.length)}
				{whereText(trim).replace('EACH', 'each')}.
			</p>
		{/if}
		{#if trim.without_folds}<p class="why soft">{foldsText(trim)}</p>{/if}
	</div>
{:else if trim && next}
	<div class:outdoors>
		<p class="do">{actText(next.act)}</p>
		<p class="amount">
			{figure[0]}{#if figure[1]}<span class="unit">{figure[1]}</span>{/if}
		</p>
		<p class="where">{whereText(trim)}</p>
		<p class="why">
			{#if next.act === 'fold'}Fold it back, don’t cut yet.{/if}
			{#if blocked}First settle what is said above.{/if}
			{whyText(trim, next, units.length)}
		</p>
	</div>
{/if}

<style>
	.amount {
		font-size: var(--size-46);
		font-weight: 700;
		line-height: 1.1;
	}
	.unit {
		font-size: 0.6em;
		margin-left: 0.25em;
	}
	.where {
		font-size: var(--size-17);
		font-weight: 700;
	}
	.why {
		margin-top: 6px;
		font-size: var(--size-13);
	}
	.outdoors .do,
	.outdoors .where {
		font-size: var(--size-24);
	}
	.outdoors .amount {
		font-size: 4.4rem;
	}
	.outdoors .why {
		font-size: var(--size-14);
	}
</style>
