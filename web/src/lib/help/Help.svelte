<!-- @component
	A small button beside a figure that opens what stands behind it.
-->
<script lang="ts">
	import Dialog from '../shell/Dialog.svelte';
	import type { Entry, Topic } from './help';

	let { topic, name }: { topic: Topic; /** What it explains, for screen readers. */ name: string } =
		$props();

	let entry = $state.raw<Entry | null>(null);

	async function open(): Promise<void> {
		// The words come when somebody asks for them: the first page does not carry them.
		entry = (await import('./help')).help[topic];
	}
</script>

<button class="help unprinted" data-free aria-label="About {name}" onclick={open}>?</button>
{#if entry}
	<Dialog title={entry.title} onclose={() => (entry = null)}>
		<dl>
			<dt>What it is</dt>
			<dd>{entry.what}</dd>
			<dt>How it is computed</dt>
			<dd>{entry.how}</dd>
			<dt>Source</dt>
			<dd>{entry.source}</dd>
			<dt>How sure</dt>
			<dd>{entry.sure}</dd>
		</dl>
	</Dialog>
{/if}

<style>
	.help {
		width: 24px;
		height: 24px;
		padding: 0;
		border-radius: 50%;
		border: 1px solid var(--control-edge);
		background: none;
		color: var(--soft);
		font-size: var(--size-12);
		line-height: 1;
		cursor: pointer;
	}
	/* As large as a finger, and drawn no larger. */
	@media (max-width: 620px), (pointer: coarse) {
		.help {
			position: relative;
		}
		.help::after {
			content: '';
			position: absolute;
			inset: -10px;
		}
	}
	dl {
		display: grid;
		gap: 2px;
		font-size: var(--size-14);
		font-weight: 400;
	}
	dt {
		font-weight: 700;
		margin-top: 8px;
	}
</style>
