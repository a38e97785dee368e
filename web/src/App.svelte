<!-- @component
	The application: finds the page for the address.
-->
<script lang="ts">
	import BuildPage from './builds/BuildPage.svelte';
	import BuildsPage from './builds/BuildsPage.svelte';
	import { follow, router } from './lib/router/router.svelte';
	import { stages, type Stage } from './lib/shell/stages';
	import { units } from './lib/units/units.svelte';

	const parts = $derived(router.place.path.split('/').filter(Boolean));
	const stage = $derived(
		(stages.find((s) => s.desk && s.key === parts[2])?.key ?? 'sweep') as Stage
	);

	void units.load().catch(() => undefined);
</script>

<svelte:document onclick={follow} />

{#if parts.length === 0}
	<BuildsPage />
{:else if parts[0] === 'builds' && parts[1]}
	{#key parts[1]}
		<BuildPage buildId={parts[1]} {stage} />
	{/key}
{:else}
	<main class="lost">
		<h1>There is no page here</h1>
		<p><a href="/">To the shelf with your builds</a></p>
	</main>
{/if}

<style>
	.lost {
		padding: 40px;
	}
</style>
