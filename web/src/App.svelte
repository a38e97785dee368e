<!-- @component
	The application: finds the page for the address, says when nothing answers, and opens the windows over the page.
-->
<script lang="ts">
	import BandsPage from './bands/BandsPage.svelte';
	import BuildPage from './build/BuildPage.svelte';
	import BuildsPage from './build/BuildsPage.svelte';
	import { atHome } from './lib/api/client';
	import { server } from './lib/api/server.svelte';
	import { follow, router } from './lib/router/router.svelte';
	import LazyPage from './lib/shell/LazyPage.svelte';
	import Boundary from './lib/shell/Boundary.svelte';
	import Failed from './lib/shell/Failed.svelte';
	import Held from './lib/shell/Held.svelte';
	import Keys from './lib/shell/Keys.svelte';
	import { panels } from './lib/shell/panels.svelte';
	import QuickFind from './find/QuickFind.svelte';
	import { stages, type Stage } from './lib/shell/stages';
	import { singleKey, view } from './lib/shell/view.svelte';
	import { units } from './lib/units/units.svelte';

	const parts = $derived(router.place.path.split('/').filter(Boolean));
	const stage = $derived(
		(stages.find((s) => s.desk && s.key === (parts[2] === 'fault' ? 'log' : parts[2]))?.key ??
			'sweep') as Stage
	);

	/** A page that failed is left with its address; the desks of one build share what the build holds. */
	const pageName = $derived(
		[...parts.slice(0, 2), ...parts.slice(2).filter((p) => p === 'outdoors' || p === 'count')].join(
			'/'
		)
	);

	view.apply();
	void units.load().catch(() => undefined);
	// What a closed page left to be sent, and on a phone what works without the network.
	void import('./lib/api/outbox.svelte').catch(() => undefined);
	if (!atHome && isSecureContext && 'serviceWorker' in navigator) {
		void navigator.serviceWorker.register('/sw.js').catch(() => undefined);
	}

	function keyed(event: KeyboardEvent): void {
		const find = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k';
		if (find || (singleKey(event) && event.key === '/')) {
			event.preventDefault();
			panels.open('find');
		} else if (singleKey(event) && event.key === '?') {
			panels.open('keys');
		} else if (singleKey(event) && event.key === 'm') {
			document.querySelector<HTMLElement>('[role=slider][aria-label="Marker frequency"]')?.focus();
		}
	}
</script>

<svelte:document onclick={follow} />
<svelte:window onkeydown={keyed} />

<Held />
<Failed />
{#if server.gone}
	<div class="gone" role="alert">
		{server.gone} What you change meanwhile is kept and sent when it is back.
	</div>
{/if}
{#key pageName}
	<Boundary>
		{#if parts.length === 0}
			<BuildsPage />
		{:else if parts[0] === 'bands'}
			<BandsPage />
		{:else if parts[0] === 'analyser'}
			<LazyPage page={() => import('./analyser/MeasurePage.svelte')} given={{}} />
		{:else if parts[0] === 'lines'}
			<LazyPage page={() => import('./line/LinesPage.svelte')} given={{}} />
		{:else if parts[0] === 'tuner'}
			<LazyPage page={() => import('./tuner/TunerPage.svelte')} given={{}} />
		{:else if parts[0] === 'sums'}
			<LazyPage page={() => import('./line/SumsPage.svelte')} given={{}} />
		{:else if parts[0] === 'choose'}
			<LazyPage page={() => import('./choose/ChoosePage.svelte')} given={{}} />
		{:else if parts[0] === 'any-length'}
			<LazyPage page={() => import('./choose/AnyLengthPage.svelte')} given={{}} />
		{:else if parts[0] === 'drawer'}
			<LazyPage page={() => import('./drawer/DrawerPage.svelte')} given={{}} />
		{:else if parts[0] === 'devices'}
			<LazyPage page={() => import('./reach/DevicesPage.svelte')} given={{}} />
		{:else if parts[0] === 'bin'}
			<LazyPage page={() => import('./build/BinPage.svelte')} given={{}} />
		{:else if parts[0] === 'builds' && parts[1] && parts[2] === 'outdoors'}
			{#key parts[1]}
				<LazyPage page={() => import('./trim/OutdoorsPage.svelte')} given={{ buildId: parts[1] }} />
			{/key}
		{:else if parts[0] === 'builds' && parts[1] && parts[2] === 'count'}
			<LazyPage page={() => import('./winding/CountPage.svelte')} given={{ buildId: parts[1] }} />
		{:else if parts[0] === 'builds' && parts[1]}
			{#key parts[1]}
				<BuildPage buildId={parts[1]} {stage} fault={parts[2] === 'fault'} />
			{/key}
		{:else}
			<main class="lost">
				<h1>There is no page here</h1>
				<p><a href="/">To the shelf with your builds</a></p>
			</main>
		{/if}
	</Boundary>
{/key}
{#if panels.shown === 'find'}
	<QuickFind onclose={() => panels.close()} />
{:else if panels.shown === 'keys'}
	<Keys onclose={() => panels.close()} />
{/if}

<style>
	.lost {
		padding: 40px;
	}
	.gone {
		position: sticky;
		top: 0;
		z-index: 9;
		background: var(--enamel);
		color: var(--sheet);
		padding: 8px 18px;
	}
</style>
