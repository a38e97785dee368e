<!-- @component
	Something went wrong outside of what is drawn: an answer that was none, a slip of ours. It is said, with a way on.
-->
<script lang="ts">
	import Note from './Note.svelte';

	let why = $state<string | null>(null);

	function note(what: unknown): void {
		why = (what instanceof Error ? what.message : String(what)).slice(0, 120);
	}
</script>

<svelte:window
	onunhandledrejection={(event) => note(event.reason)}
	onerror={(event) => note(event instanceof ErrorEvent ? (event.error ?? event.message) : event)}
/>

{#if why !== null}
	<div class="failed unprinted">
		<Note kind="danger" title="The last step did not work.">
			What was saved is safe, and what you typed still stands. Try it again; if it fails again, load
			the page anew.
			<p>
				<button class="button" data-free onclick={() => (why = null)}>Go on</button>
				<button class="button" data-free onclick={() => location.reload()}
					>Load the page anew</button
				>
			</p>
			<small>For whoever mends it: {why}</small>
		</Note>
	</div>
{/if}

<style>
	.failed {
		position: sticky;
		top: 0;
		z-index: 10;
	}
</style>
