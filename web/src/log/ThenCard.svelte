<!-- @component
	What it was like then: the sweep, the design and the lengths of any day.
-->
<script lang="ts">
	import { answer, api } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { units } from '../lib/units/units.svelte';
	import { legsText, stateText, sweptText } from './logWords';
	import SmallCurve from './SmallCurve.svelte';

	interface Props {
		buildId: string;
		/** The day, as a date field has it; empty asks nothing. */
		day: string;
		onday: (day: string) => void;
	}

	let { buildId, day, onday }: Props = $props();

	const then = latest(
		// To the end of that day, where one is.
		() => (day ? { at: new Date(`${day}T23:59:59`).toISOString() } : null),
		({ at }) =>
			answer(
				api.GET('/api/builds/{build_id}/then', {
					params: { path: { build_id: buildId }, query: { at } }
				})
			)
	);
	const found = $derived(then.value);
</script>

<section class="sheet">
	<h2>What was it like then?</h2>
	<p class="told">
		<label
			>On <input
				type="date"
				class="written"
				value={day}
				onchange={(e) => onday(e.currentTarget.value)}
			/></label
		>
	</p>
	{#if then.problem}<p class="problem">{then.problem}</p>{/if}
	{#if day && found}
		<dl>
			<dt>Wire</dt>
			<dd>{legsText(found, units.length)}</dd>
			<dt>Design</dt>
			<dd>
				{#if found.state}
					{stateText(found.state)}
					<a
						href="/builds/{buildId}/build?design={found.state.design_id}&revision={found.state
							.number}">its build sheet</a
					>
				{:else}none yet{/if}
			</dd>
			<dt>Sweep</dt>
			<dd>
				{#if found.sweep}
					<SmallCurve sweepId={found.sweep.id} name={found.sweep.name} />
					{sweptText(found.sweep)}
				{:else}none yet{/if}
			</dd>
		</dl>
	{/if}
</section>

<style>
	dl {
		display: grid;
		grid-template-columns: 56px minmax(0, 1fr);
		gap: 4px 8px;
		font-size: var(--size-13);
		margin: 6px 0 0;
	}
	dt {
		color: var(--soft);
	}
	dd {
		margin: 0;
	}
</style>
