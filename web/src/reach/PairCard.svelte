<!-- @component
	A code for a new device: to be typed there, or looked at by its camera, while it lasts.
-->
<script lang="ts">
	import { onDestroy } from 'svelte';

	import { answer, api, problemText, type Schemas } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { left } from './words';

	interface Props {
		/** Where the device goes when it is paired. */
		to: string;
		/** Called when a device has used the code. */
		onpaired: () => void;
	}

	let { to, onpaired }: Props = $props();

	let made = $state.raw<Schemas['PairingOut'] | null>(null);
	let chosen = $state(0);
	let now = $state(new Date());
	let paired = $state(false);
	let problem = $state<string | null>(null);

	const rest = $derived(made && left(made.expires_at, now));
	const link = $derived(made?.links[chosen] ?? null);
	const address = $derived(link && new URL(link).origin);

	async function begin(): Promise<void> {
		problem = null;
		paired = false;
		try {
			made = await answer(api.POST('/api/pairings', { body: { to } }));
			chosen = 0;
			now = new Date();
		} catch (why) {
			problem = problemText(why);
		}
	}

	/** Asked quietly: while nothing answers, the next time will tell. */
	async function look(): Promise<void> {
		now = new Date();
		if (!made || paired || rest === null) return;
		const asked = made.id;
		const path = { pairing_id: asked };
		const got = await api.GET('/api/pairings/{pairing_id}', { params: { path } }).catch(() => null);
		if (made?.id !== asked || !got?.data?.device_id) return;
		paired = true;
		onpaired();
	}
	const looking = setInterval(() => void look(), 1000);
	onDestroy(() => clearInterval(looking));
</script>

<section class="sheet">
	<h2>Pair a device</h2>
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
	{#if made && paired}
		<p role="status"><strong>It is paired.</strong> Its code is used up.</p>
		<button class="button" onclick={begin}>Pair one more</button>
	{:else if made && rest}
		<div class="code">
			{#if made.pictures[chosen]}
				<img
					src={made.pictures[chosen]}
					alt="The same as a QR code: look at it with the camera of the device"
				/>
			{/if}
			<div>
				<p class="soft">Look at the picture with the device’s camera; or open</p>
				<p class="mono">{address}</p>
				<p class="soft">in its browser and type</p>
				<p class="mono large">{made.code}</p>
				<p class="soft">One device, once; <span class="mono">{rest}</span> min left</p>
				{#if made.links.length > 1}
					<label
						>Address
						<select bind:value={chosen}>
							{#each made.links as each, i (each)}<option value={i}>{new URL(each).host}</option
								>{/each}
						</select></label
					>
				{/if}
			</div>
		</div>
		<button class="button" onclick={begin}>Another code</button>
	{:else}
		<p>
			{made
				? 'That code is over: nobody used it within five minutes.'
				: 'A phone in the garden, or another computer. It is let in by a code shown here, and stays paired until you send it away.'}
		</p>
		<button class="button main" onclick={begin}>{made ? 'A new code' : 'Pair a device'}</button>
	{/if}
</section>

<style>
	section {
		display: grid;
		gap: 12px;
		justify-items: start;
		align-content: start;
	}
	.code {
		display: flex;
		gap: 16px 24px;
		align-items: center;
	}
	@media (max-width: 560px) {
		.code {
			flex-wrap: wrap;
		}
	}
	.code > div {
		display: grid;
		gap: 6px;
	}
	h2 {
		font-size: var(--size-17);
	}
	img {
		width: 220px;
		height: 220px;
		flex: none;
		background: white;
		border: 1px solid var(--line);
		border-radius: 6px;
	}
	.large {
		font-size: var(--size-24);
		font-weight: 600;
		letter-spacing: 0.06em;
	}
	label {
		display: grid;
		gap: 2px;
		color: var(--soft);
	}
</style>
