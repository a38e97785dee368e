<!-- @component
	Phones and other computers: who is let in, how one more is, and which analysers they may be pointed at.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import { answer, api, problemText } from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { router } from '../lib/router/router.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import PairCard from './PairCard.svelte';
	import { ago } from './words';

	const reached = new Latest(() => answer(api.GET('/api/devices')), { keeps: true });
	let refused = $state<string | null>(null);
	let added = $state('');
	let now = $state(new Date());

	const reach = $derived(reached.value);
	const to = $derived(router.place.query.get('to') ?? '/');
	const here = $derived(reach?.devices.find((d) => d.here) ?? null);
	reached.show(null);

	const looking = setInterval(() => {
		now = new Date();
		if (reach?.lan && reach.owner && !reached.loading) reached.show(null);
	}, 5000);
	onDestroy(() => clearInterval(looking));

	async function attempt(act: () => Promise<unknown>): Promise<boolean> {
		refused = null;
		try {
			await act();
			return true;
		} catch (why) {
			refused = problemText(why);
			return false;
		} finally {
			reached.show(null);
		}
	}

	async function sendAway(id: string): Promise<void> {
		const path = { device_id: id };
		const gone = await attempt(() =>
			answer(api.DELETE('/api/devices/{device_id}', { params: { path } }))
		);
		// This very device has left: the next thing it asks shows the form.
		if (gone && here?.id === id) location.assign('/');
	}

	const allow = (addresses: string[]) =>
		attempt(() => answer(api.PUT('/api/devices/analysers', { body: { addresses } })));

	async function add(): Promise<void> {
		const address = added.trim();
		if (address && (await allow([...(reach?.analysers ?? []), address]))) added = '';
	}
</script>

<svelte:head><title>Devices · Yielding Coil</title></svelte:head>

<Header />
<main class="page">
	<h1>Devices</h1>
	{#if refused ?? reached.problem}<Note kind="danger">{refused ?? reached.problem}</Note>{/if}
	{#if reach && !reach.owner}
		<section class="sheet">
			<h2>This device is “{here?.name}”</h2>
			<p>
				It may do all that is done at the desk, but for three things, which are done on the computer
				that runs the application: pair others, send others away, and say which analysers may be
				connected from here.
			</p>
			{#if here}
				<button class="button" onclick={() => sendAway(here.id)}>Leave: forget this device</button>
			{/if}
		</section>
	{:else if reach && !reach.lan}
		<section class="sheet">
			<h2>Only this computer is served</h2>
			<p>To take the outdoors view into the garden on a phone, start the application anew with</p>
			<table>
				<tbody>
					<tr>
						<th scope="row" class="mono">./start --https</th>
						<td>
							Encrypted. A phone that trusts the certificate made here also works where the network
							does not reach, and keeps the application on its home screen.
						</td>
					</tr>
					<tr>
						<th scope="row" class="mono">./start --lan</th>
						<td>
							Not encrypted: others on the same network could read along. Without the network a page
							goes on only as long as it stays open.
						</td>
					</tr>
				</tbody>
			</table>
			<p>Either way nobody gets in but devices that you pair here.</p>
		</section>
	{:else if reach}
		<div class="cards">
			<PairCard {to} onpaired={() => reached.show(null)} />
			<section class="sheet">
				<h2>Let in</h2>
				{#if reach.devices.length === 0}<p>None yet, beside this computer.</p>{/if}
				<ul>
					{#each reach.devices as device (device.id)}
						<li>
							<div>
								<strong>{device.name}</strong>{device.owner ? ', an owner’s' : ''}
								<div class="soft">
									last here {ago(device.last_seen_at, now)}, paired {ago(device.paired_at, now)}
								</div>
							</div>
							<button
								class="button"
								aria-label="Send away {device.name}"
								onclick={() => sendAway(device.id)}>Send away</button
							>
						</li>
					{/each}
				</ul>
				<p class="soft">Who is sent away is out at once, and can be paired again.</p>
			</section>
			<section class="sheet">
				<h2>Analysers they may connect to</h2>
				<p class="soft">
					A paired device cannot point this computer at anything else on your network. The simulated
					one is always allowed.
				</p>
				<ul>
					{#each reach.analysers as address (address)}
						<li>
							<span class="mono">{address}</span>
							<button
								class="button"
								aria-label="Remove {address}"
								onclick={() => allow(reach.analysers.filter((a) => a !== address))}>Remove</button
							>
						</li>
					{/each}
				</ul>
				<form
					onsubmit={(event) => {
						event.preventDefault();
						void add();
					}}
				>
					<label
						>host:port, or a serial port
						<input
							class="mono written"
							bind:value={added}
							placeholder="192.0.2.7:5025"
							autocomplete="off"
							spellcheck="false"
							maxlength="120"
						/></label
					>
					<button class="button">Allow it</button>
				</form>
			</section>
			<section class="sheet">
				<h2>Where it is reached</h2>
				<ul>
					{#each reach.addresses as address (address)}<li class="mono">{address}</li>{/each}
				</ul>
				<p class="soft">
					{reach.secure
						? 'Encrypted. A device that trusts the certificate also works without the network; its pairing page offers it.'
						: 'Not encrypted: others on the same network could read along. ./start --https encrypts, and lets a phone work without the network.'}
				</p>
			</section>
		</div>
	{:else if !reached.problem}
		<p class="soft">Looking…</p>
	{/if}
</main>

<style>
	.cards {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(100%, 420px), 1fr));
		gap: 14px;
	}
	section {
		display: grid;
		gap: 10px;
		align-content: start;
		justify-items: start;
	}
	h2 {
		font-size: var(--size-17);
	}
	ul {
		list-style: none;
		padding: 0;
		margin: 0;
		width: 100%;
		display: grid;
		gap: 8px;
	}
	li {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 12px;
		overflow-wrap: anywhere;
	}
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 12px;
		align-items: end;
	}
	label {
		display: grid;
		gap: 2px;
		color: var(--soft);
	}
	table {
		border-collapse: collapse;
	}
	th,
	td {
		text-align: left;
		vertical-align: top;
		padding: 6px 14px 6px 0;
	}
	th {
		white-space: nowrap;
	}
</style>
