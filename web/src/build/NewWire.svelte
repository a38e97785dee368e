<!-- @component
	A build that begins with a wire still to be cut: its name, its bands, what kind of antenna.
-->
<script lang="ts">
	import { answer, api, type Build, problemText, type Target } from '../lib/api/client';
	import Dialog from '../lib/shell/Dialog.svelte';
	import Note from '../lib/shell/Note.svelte';
	import BandChips from '../wire/BandChips.svelte';
	import { kinds, usualRule } from '../wire/kinds.svelte';

	interface Props {
		onbuild: (build: Build) => void;
		onclose: () => void;
	}

	let { onbuild, onclose }: Props = $props();

	let targets = $state.raw<Target[]>([]);
	let chosen = $state.raw<string[]>([]);
	let chosenKind = $state('dipole');
	kinds.load();
	const kind = $derived(kinds.get(chosenKind));
	let making = $state(false);
	let name = $state('');
	let problem = $state<string | null>(null);

	async function make(): Promise<void> {
		const first = targets[0];
		if (!kind || !first) return;
		const usual = `${kind.name}, ${targets.map((t) => t.label).join(' and ')}`;
		making = true;
		try {
			const antenna = await answer(
				api.POST('/api/structures/starts', {
					body: { antenna: kind.key, target: first, others: targets.slice(1) }
				})
			);
			const made = await answer(
				api.POST('/api/builds', {
					body: {
						name: name.trim() || usual.replace(/^./, (c) => c.toUpperCase()),
						targets,
						wire: {
							form: kind.form,
							rule: usualRule(kind),
							arrangement: kind.arrangement,
							antenna
						}
					}
				})
			);
			onbuild(made);
		} catch (why) {
			problem = problemText(why);
		} finally {
			making = false;
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
			<select aria-label="Antenna" bind:value={chosenKind}>
				{#each kinds.all as { key, name } (key)}<option value={key}>{name}</option>{/each}
			</select></label
		>
		{#if kind}<p class="soft">For {kind.purpose}. Fed by {kind.fed_by}.</p>{/if}
		<BandChips
			{chosen}
			onchange={(keys, found) => {
				chosen = keys;
				targets = found;
			}}
		/>
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
			<button class="button main" disabled={chosen.length === 0 || making}>How long to cut</button>
			{#if chosen.length === 0}<span class="soft">choose a band or more</span>{/if}
			{#if making}<span class="soft" role="status">bringing it to its band…</span>{/if}
		</p>
	</form>
</Dialog>
