<!-- @component
	A sweep held against the planned antenna, by a press: what moved, how sure, and what it cannot tell.
-->
<script lang="ts">
	import { answer, api, type Schemas } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import FitSaid from './FitSaid.svelte';

	interface Props {
		sweepId: string;
	}

	let { sweepId }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	const antenna = $derived(build.wire?.antenna ?? null);
	/** What was asked: as the antenna stood when it was pressed. */
	let held = $state.raw<{ antenna: Schemas['WireAntenna']; sweep_id: string } | null>(null);
	const found = latest(
		() => (held?.sweep_id === sweepId ? held : null),
		(body) => answer(api.POST('/api/wire-fits', { body }))
	);
</script>

{#if antenna}
	<section class="sheet" aria-label="Against the plan">
		<h3 class="eyebrow">
			Against the plan <Help topic="wire-fit" name="the model against a sweep" />
		</h3>
		{#if found.problem}
			<Note kind="news">{found.problem}.</Note>
		{:else if found.loading}
			<p class="told soft" role="status">fitting the wires to it…</p>
		{:else if found.value}
			<FitSaid fit={found.value} />
			{#if found.value.values.length}
				<p class="told unprinted">
					<a href="/builds/{build.id}/wire?against={sweepId}">Take it as it hangs, on Wire</a>
				</p>
			{/if}
		{:else}
			<p class="told soft">Which of the planned numbers this sweep asks to be otherwise.</p>
			<button class="button" onclick={() => (held = { antenna, sweep_id: sweepId })}
				>What moved against the plan?</button
			>
		{/if}
	</section>
{/if}
