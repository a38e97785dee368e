<!-- @component
	A page that is fetched when somebody goes there; the first page does not carry it.
-->
<script lang="ts" generics="Props extends Record<string, unknown>">
	import type { Component } from 'svelte';

	import { busy } from '../api/client';
	import Note from './Note.svelte';

	interface Own {
		/** Fetches the page. */
		page: () => Promise<{ default: Component<Props> }>;
		/** What it is given. */
		given: Props;
	}

	let { page, given }: Own = $props();

	async function fetched(): Promise<Component<Props>> {
		busy(1);
		try {
			return (await page()).default;
		} finally {
			busy(-1);
		}
	}
</script>

{#await fetched() then Page}
	<Page {...given} />
{:catch}
	<Note kind="danger">
		This page could not be fetched: the application does not answer. Start it again with ./start,
		then load the page anew.
	</Note>
{/await}
