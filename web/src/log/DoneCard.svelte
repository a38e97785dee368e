<!-- @component
	What one asks when done: good enough, which design it was built by, the baseline, what to look at later. Offered once.
-->
<script lang="ts">
	import {
		answer,
		api,
		type Build,
		type Design,
		type EntryData,
		problemText
	} from '../lib/api/client';
	import { utcOffsetMin } from '../trim/words';
	import { dayOf } from './curvesOf';

	interface Props {
		build: Build;
		designs: Design[];
		onbaseline: (sweepId: string) => void;
		onkept: () => void;
	}

	let { build, designs, onbaseline, onkept }: Props = $props();

	let problem = $state<string | null>(null);
	const chosen = $derived(designs.find((d) => d.id === build.chosen_design_id) ?? designs[0]);
	const newest = $derived(
		[...build.sweeps].sort((a, b) => b.swept_at.localeCompare(a.swept_at))[0]
	);

	async function tell(data: EntryData): Promise<void> {
		try {
			problem = null;
			await answer(
				api.POST('/api/builds/{build_id}/entries', {
					params: { path: { build_id: build.id } },
					body: { data, text: '', utc_offset_min: utcOffsetMin() }
				})
			);
			onkept();
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

<details class="sheet unprinted" open={build.hung && !build.done}>
	<summary><h2>When it is done</h2></summary>
	<ul>
		<li>
			{#if build.done}Good enough: said.{:else}
				<button class="button" onclick={() => tell({ kind: 'done' })}>It is good enough</button>
			{/if}
		</li>
		{#if chosen}
			<li>
				<button
					class="button"
					onclick={() =>
						tell({ kind: 'built', design_id: chosen.id, number: chosen.revision.number })}
					>Built by “{chosen.name}”, state {chosen.revision.number}</button
				>
			</li>
		{/if}
		{#if newest && newest.id !== build.baseline_sweep_id}
			<li>
				<button class="button" onclick={() => onbaseline(newest.id)}
					>Make “{newest.name}” of {dayOf(newest.swept_at)} the baseline</button
				>
			</li>
		{/if}
		<li class="row">
			<button class="button" onclick={() => tell({ kind: 'remind', when: 'after_storm' })}
				>Look at it after a storm</button
			>
			<button class="button" onclick={() => tell({ kind: 'remind', when: 'in_a_year' })}
				>In a year</button
			>
		</li>
	</ul>
	<p class="told soft">
		Then look at: joints and green contacts, water in box and coax, the drip hole, chafed cord, the
		pull on the ends; and sweep it against the baseline.
	</p>
	{#if problem}<p class="problem">{problem}</p>{/if}
</details>

<style>
	h2 {
		display: inline;
	}
	ul {
		list-style: none;
		padding: 0;
		margin: 8px 0;
		display: grid;
		gap: 6px;
	}
</style>
