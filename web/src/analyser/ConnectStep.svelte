<!-- @component
	Connecting: the simulated analyser at one press, or one at an address, by a profile.
-->
<script lang="ts">
	import type { Analyser } from '../lib/api/client';

	interface Props {
		analyser: Analyser;
		onconnect: (kind: 'none' | 'simulated' | 'address', address?: string, profile?: string) => void;
	}

	let { analyser, onconnect }: Props = $props();

	let address = $state('');
	let profile = $state('plain');
	const again = $derived(analyser.kind === 'simulated' && analyser.simulated === 'stopped');
</script>

{#if analyser.connected}
	<p>{analyser.identity} answers at <span class="mono">{analyser.address}</span>.</p>
	<p><button class="button" onclick={() => onconnect('none')}>Disconnect</button></p>
{:else}
	{#if analyser.simulated !== 'absent'}
		<p class="told">
			No hardware at hand? The simulated one has a bench of invented antennas, a lead, noise, drift
			and wind, and speaks as a real one does.
		</p>
		<p>
			<button class="button main" onclick={() => onconnect('simulated')}
				>{again ? 'Start the simulated analyser again' : 'Connect the simulated analyser'}</button
			>
		</p>
	{/if}
	<form
		class="told"
		onsubmit={(event) => {
			event.preventDefault();
			onconnect('address', address, profile);
		}}
	>
		<label
			>One on your network, host:port, or at a serial port of the computer
			<input
				list="serial-ports"
				class="mono written"
				bind:value={address}
				placeholder="192.0.2.7:5025"
				autocomplete="off"
				spellcheck="false"
			/></label
		>
		<datalist id="serial-ports">
			{#each analyser.serial_ports as port (port)}<option value={port}></option>{/each}
		</datalist>
		<label
			>It speaks
			<select bind:value={profile}>
				{#each analyser.profiles as row (row.key)}<option value={row.key}>{row.label}</option
					>{/each}
			</select></label
		>
		<button class="button" disabled={!address.trim()}>Connect</button>
	</form>
{/if}

<style>
	form {
		margin-top: 12px;
	}
	label {
		display: grid;
		gap: 2px;
		color: var(--soft);
	}
	button {
		justify-self: start;
	}
</style>
