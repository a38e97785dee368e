<!-- @component
	Cables of one's own: what they are, and the bin.
-->
<script lang="ts">
	import { answer, api, type Schemas } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { figures, megahertz } from '../lib/units/format';

	interface Props {
		own: Schemas['PieceOut'][];
		/** Runs what may be refused, and says so. */
		attempt: (act: () => Promise<unknown>) => Promise<void>;
		/** Called after one came or went. */
		onchange: () => Promise<void>;
	}

	let { own, attempt, onchange }: Props = $props();

	const cables = $derived(
		own.flatMap((piece) =>
			piece.held.kind === 'cable'
				? [{ piece, name: piece.held.name, values: piece.held.values }]
				: []
		)
	);
	let binned = $state.raw<Schemas['PieceOut'] | null>(null);

	async function bin(piece: Schemas['PieceOut']): Promise<void> {
		await attempt(async () => {
			await answer(
				api.DELETE('/api/pieces/{piece_id}', {
					params: { path: { piece_id: piece.id }, query: { revision: piece.revision } }
				})
			);
			binned = piece;
			await onchange();
		});
	}
	async function restore(piece: Schemas['PieceOut']): Promise<void> {
		await attempt(async () => {
			const path = { piece_id: piece.id };
			await answer(api.POST('/api/pieces/{piece_id}/restore', { params: { path } }));
			binned = null;
			await onchange();
		});
	}
</script>

<section class="sheet" aria-label="Your own cables">
	<h2>Your own cables</h2>
	{#if binned}
		{@const gone = binned}
		<Note kind="news"
			>“{gone.held.name}” is in the bin. Designs that use it keep what it was.
			<button class="button" onclick={() => void restore(gone)}>Take it back</button></Note
		>
	{/if}
	{#if cables.length}
		<ul class="own">
			{#each cables as { piece, name, values } (piece.id)}
				<li>
					<strong>{name}</strong>
					<span class="mono"
						>{figures(values.impedance_ohm)} Ω, VF {values.velocity_factor.toFixed(3)}, {figures(
							values.loss_sqrt * Math.sqrt(14) + values.loss_linear * 14
						)} dB/100 m at 14 MHz</span
					>
					<small class="soft"
						>{piece.provenance}, {megahertz(values.low_hz)} to {megahertz(values.high_hz)} MHz</small
					>
					<button class="plain" aria-label="Put {name} in the bin" onclick={() => void bin(piece)}
						>bin</button
					>
				</li>
			{/each}
		</ul>
	{:else}
		<p class="soft told">None yet: those of the table are used, with their tolerances.</p>
	{/if}
</section>

<style>
	ul {
		padding: 0;
		list-style: none;
		display: grid;
		gap: 12px;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
		align-items: baseline;
		font-size: var(--size-13);
	}
</style>
