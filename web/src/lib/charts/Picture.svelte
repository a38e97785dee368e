<!-- @component
	Round a drawing: two small buttons that save it as a file.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		/** What the drawing shows; names the file. */
		title: string;
		children: Snippet;
	}

	let { title, children }: Props = $props();

	let holder = $state<HTMLElement>();

	async function save(kind: 'svg' | 'png'): Promise<void> {
		const drawing = holder?.querySelector('svg');
		if (!drawing) return;
		const { takeOut } = await import('./takeOut');
		await takeOut(drawing, title, kind);
	}
</script>

<div class="picture" bind:this={holder}>
	{@render children()}
	<span class="out unprinted">
		<button aria-label="Save “{title}” as SVG" onclick={() => save('svg')}>SVG</button>
		<button aria-label="Save “{title}” as PNG" onclick={() => save('png')}>PNG</button>
	</span>
</div>

<style>
	.picture {
		position: relative;
		min-width: 0;
	}
	.out {
		position: absolute;
		right: 0;
		bottom: -3px;
		display: flex;
		opacity: 0;
	}
	.picture:hover .out,
	.out:focus-within {
		opacity: 1;
	}
	@media (hover: none) {
		.out {
			position: static;
			justify-content: flex-end;
			opacity: 1;
		}
	}
	button {
		border: 1px solid var(--line);
		background: var(--sheet);
		color: var(--soft);
		font-size: var(--size-12);
		padding: 0 5px;
		cursor: pointer;
	}
	@media (max-width: 620px), (pointer: coarse) {
		button {
			min-width: 44px;
			min-height: 44px;
		}
	}
</style>
