<!-- @component
	What is screwed on to the simulated bench; nothing where the analyser is a real one.
-->
<script lang="ts">
	import type { AnalyserSession } from './analyserSession.svelte';

	let { bench }: { bench: AnalyserSession } = $props();
</script>

{#if bench.analyser?.kind === 'simulated' && bench.analyser.connected}
	<label class="told soft"
		>On the simulated bench is
		<select
			aria-label="On the simulated bench is"
			value={bench.analyser.thing}
			onchange={(event) => {
				const thing = event.currentTarget.value;
				void bench.attempt(() => bench.screwOn(thing));
			}}
		>
			{#each bench.analyser.bench as thing (thing.key)}<option value={thing.key}
					>{thing.label}</option
				>{/each}
		</select></label
	>
{/if}
