<!-- @component
	A build that begins with a wire still to be cut: its name, its bands, what kind of antenna.
-->
<script lang="ts">
	import { answer, api, type Band, type Build, problemText, type Schemas } from '../lib/api/client';
	import Dialog from '../lib/shell/Dialog.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { type Form, forms } from '../wire/forms';

	interface Props {
		onbuild: (build: Build) => void;
		onclose: () => void;
	}

	let { onbuild, onclose }: Props = $props();

	let bands = $state.raw<Band[]>([]);
	let chosen = $state.raw<string[]>([]);
	let form = $state<Form>('dipole');
	let name = $state('');
	let problem = $state<string | null>(null);
	void answer(api.GET('/api/tables/bands'))
		.then((table) => (bands = table.rows))
		.catch((why) => (problem = problemText(why)));

	const toggle = (key: string) =>
		(chosen = chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key]);

	async function make(): Promise<void> {
		const wanted = bands.filter((b) => chosen.includes(b.key));
		const targets = wanted.map(({ label, low_hz, high_hz }) => ({
			label,
			low_hz,
			high_hz,
			swr_limit: 2
		}));
		const kind = forms.find(({ key }) => key === form);
		const usual = `${kind?.name}, ${targets.map((t) => t.label).join(' and ')}`;
		try {
			const made = await answer(
				api.POST('/api/builds', {
					body: {
						name: name.trim() || usual.replace(/^./, (c) => c.toUpperCase()),
						targets,
						wire: { form, rule: kind?.rule } as Schemas['WirePlan']
					}
				})
			);
			onbuild(made);
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

<Dialog title="Plan a new wire" {onclose}>
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
	<form
		class="told"
		onsubmit={(event) => {
			event.preventDefault();
			void make();
		}}
	>
		<label class="told"
			>Antenna
			<select bind:value={form}>
				{#each forms as { key, name } (key)}<option value={key}>{name}</option>{/each}
			</select></label
		>
		<fieldset>
			<legend class="eyebrow">Bands</legend>
			<div class="row">
				{#each bands as band (band.key)}
					<button
						type="button"
						class="button"
						class:main={chosen.includes(band.key)}
						aria-pressed={chosen.includes(band.key)}
						onclick={() => toggle(band.key)}>{band.label}</button
					>
				{/each}
			</div>
		</fieldset>
		<label class="told"
			>Name
			<input
				class="written"
				bind:value={name}
				maxlength="120"
				placeholder="where it will hang"
			/></label
		>
		<p class="row">
			<button class="button main" disabled={chosen.length === 0}>How long to cut</button>
			{#if chosen.length === 0}<span class="soft">choose a band or more</span>{/if}
		</p>
	</form>
</Dialog>

<style>
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		display: grid;
		gap: 6px;
		min-width: 0;
	}
</style>
