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
</script>

<dialog
	use:show
	aria-labelledby={id}
	{onclose}
	onclick={(event) => event.target === event.currentTarget && event.currentTarget.close()}
>
	<div class="head">
		<h2 {id} tabindex="-1">{title}</h2>
		<button class="button" onclick={(event) => event.currentTarget.closest('dialog')?.close()}
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
