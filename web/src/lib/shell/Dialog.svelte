<!-- @component
	A window over the page: Escape and a click beside it close it, and the focus goes back where it was.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		title: string;
		onclose: () => void;
		children: Snippet;
	}

	let { title, onclose, children }: Props = $props();

	function show(dialog: HTMLDialogElement): void {
		dialog.showModal();
		// To be read first, and Close is near: unless a field asks for the focus.
		if (!dialog.querySelector('[autofocus], input')) dialog.querySelector('h2')?.focus();
	}
	const id = `dialog-${Math.random().toString(36).slice(2)}`;

	let ended = false;
	/** At once: the browser's own event comes later, and by then the next window may have been asked for. */
	function end(dialog: HTMLDialogElement): void {
		if (ended) return;
		ended = true;
		dialog.close();
		onclose();
	}
</script>

<dialog
	use:show
	aria-labelledby={id}
	oncancel={(event) => {
		if (event.target !== event.currentTarget) return;
		event.preventDefault();
		end(event.currentTarget);
	}}
	onclose={(event) => end(event.currentTarget)}
	onclick={(event) => event.target === event.currentTarget && end(event.currentTarget)}
>
	<div class="head">
		<h2 {id} tabindex="-1">{title}</h2>
		<button class="button" onclick={(event) => end(event.currentTarget.closest('dialog')!)}
			>Close</button
		>
	</div>
	{@render children()}
</dialog>

<style>
	.head {
		display: flex;
		justify-content: space-between;
		align-items: start;
		gap: 16px;
		margin-bottom: 8px;
	}
</style>
