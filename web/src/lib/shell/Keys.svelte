<!-- @component
	The keys, in a list.
-->
<script lang="ts">
	import Dialog from './Dialog.svelte';
	import { view } from './view.svelte';

	let { onclose }: { onclose: () => void } = $props();

	const keys = [
		['?', 'this list'],
		['/ or Ctrl K', 'find a build, a part, a desk'],
		['1 … 8', 'along the tape: 2 Sweep, 3 Match'],
		['← →', 'on the marker: a step; with Shift a larger one'],
		['← →', 'on a ruler: half a turn, or half a centimetre; with Shift a tenth of it'],
		['Home, End', 'on the marker: to the edge of the sweep'],
		['m', 'to the marker'],
		['a, s, d held', 'on the match desk: which way the first, second, third part moves the band'],
		['Ctrl Z, Ctrl Shift Z', 'undo and redo a design'],
		['Ctrl V', 'on the shelf or the sweep desk: paste a sweep'],
		['Enter', 'in a field: take what is typed; Esc: back to what it was']
	];
</script>

<Dialog title="Keys" {onclose}>
	<dl>
		{#each keys as [key, what] (what)}
			<dt class="mono">{key}</dt>
			<dd>{what}</dd>
		{/each}
	</dl>
	<label>
		<input
			type="checkbox"
			checked={view.keys}
			onchange={(event) => view.switchKeys(event.currentTarget.checked)}
		/>
		single keys act (they rest while a field has the focus)
	</label>
</Dialog>

<style>
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 6px 18px;
		margin-bottom: 14px;
	}
	dt {
		font-weight: 600;
	}
</style>
