<!-- @component
	The sweep and match desks of a build that was not swept yet: the first step, and ways to take it.
-->
<script lang="ts">
	import { problemText, type Sweep } from '../lib/api/client';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Note from '../lib/shell/Note.svelte';
	import DropZone from '../sweep/DropZone.svelte';

	const page = openBuild();
	const build = $derived(page.build);

	const newest = $derived(build.sweeps.filter((s) => s.carries === 'impedance').at(-1));
	let problem = $state<string | null>(null);

	/** The first sweep is what the build is matched to, as far as its bands lie in it. */
	async function begin(sweeps: Sweep[]): Promise<void> {
		const first = sweeps[0];
		if (!first) return;
		try {
			await page.change({ baseline_sweep_id: first.id });
			problem = null;
		} catch (why) {
			problem = problemText(why);
		}
		await page.reload();
	}
</script>

<div class="page">
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
	<h2>{newest ? 'Matched to which sweep?' : 'Not swept yet'}</h2>
	{#if newest}
		<p>
			<button class="button main" onclick={() => begin([newest])}>Match to “{newest.name}”</button>
			the newest of {build.sweeps.length}
		</p>
	{/if}
	{#if build.chosen_design_id}
		<p>
			What is wound for it needs no sweep yet: <a href="/builds/{build.id}/wind"
				>to the winding desk</a
			>.
		</p>
	{/if}
	<p>
		Sweep the wire unmatched, at its feedpoint, as it hangs. With an SWR meter alone, trim it: the
		trim desk takes what a dial shows.
	</p>
	<p class="row">
		<a class="button main" href="/analyser?build={build.id}">Sweep it with the analyser</a>
		<a class="button" href="/builds/{build.id}/trim">Trim it by dial</a>
		<a class="button" href="/builds/{build.id}/wire">How long to cut</a>
	</p>
	<DropZone title="Or drop its sweep here" buildId={build.id} onsweeps={begin} />
</div>

<style>
	h2 {
		font-size: var(--size-24);
	}
</style>
