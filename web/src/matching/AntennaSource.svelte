<!-- @component
	What stands at the top of a design: a sweep, the wire as modelled, or a resistor; and what may take its place, with
	one press, or be laid over it.
-->
<script lang="ts">
	import type { Content } from '../lib/api/client';
	import { shortenedOf } from '../design/content';
	import { shorterText } from '../design/words';
	import { openBuild } from '../lib/build/buildState.svelte';
	import Note from '../lib/shell/Note.svelte';

	type Antenna = Content['antenna'];

	interface Props {
		content: Content;
		/** Puts another at the top; undo takes it back. */
		ontake: (antenna: Antenna) => void;
		/** Keys of what is laid over. */
		laid: string[];
		/** Lays the same design over with another at its top; null takes it off. */
		onlay: (key: string, name: string, antenna: Antenna | null) => void;
	}

	let { content, ontake, laid, onlay }: Props = $props();

	const page = openBuild();
	const build = $derived(page.build);
	const same = (a: Antenna, b: Antenna) =>
		a.kind === 'sweep' && b.kind === 'sweep'
			? a.sweep_id === b.sweep_id && (a.shortened ?? 1) === (b.shortened ?? 1)
			: JSON.stringify(a) === JSON.stringify(b);
	const sweeps = $derived(build.sweeps.filter((s) => s.carries === 'impedance'));
	const baseline = $derived(sweeps.find((s) => s.id === build.baseline_sweep_id) ?? sweeps.at(-1));
	const others = $derived(
		[
			...(baseline
				? [
						{
							key: 'top-sweep',
							name: `“${baseline.name}”`,
							why: 'what was measured',
							antenna: { kind: 'sweep', sweep_id: baseline.id } as Antenna
						}
					]
				: []),
			...(build.wire?.antenna
				? [
						{
							key: 'top-wire',
							name: 'the wire as modelled',
							why: 'as it is planned on the wire desk',
							antenna: build.wire.antenna as Antenna
						}
					]
				: [])
		].filter((o) => !same(o.antenna, content.antenna))
	);
	const here = $derived.by(() => {
		const top = content.antenna;
		if (top.kind === 'wire') return 'the wire as modelled';
		if (top.kind === 'resistor') return 'a resistor in place of the antenna';
		return `“${sweeps.find((s) => s.id === top.sweep_id)?.name ?? 'a sweep that is in the bin'}”`;
	});
</script>

{#snippet ways()}
	{#each others as other (other.key)}
		<span class="row">
			<button class="button" onclick={() => ontake(other.antenna)}>Use {other.name}</button>
			<span class="soft">{other.why}</span>
			<button
				class="plain"
				aria-pressed={laid.includes(other.key)}
				onclick={() =>
					onlay(other.key, other.name, laid.includes(other.key) ? null : other.antenna)}
				>{laid.includes(other.key) ? 'take off the charts' : 'lay it over'}</button
			>
		</span>
	{/each}
{/snippet}

{#if others.some((o) => o.key === 'top-sweep')}
	<Note kind="news">
		{content.antenna.kind === 'sweep'
			? shortenedOf(content) < 1 && content.antenna.sweep_id === baseline?.id
				? `This design takes the wire ${shorterText(shortenedOf(content))} than it was swept. Once it is cut, drop its new sweep.`
				: 'This design was made for another sweep than the one that the build now hangs on.'
			: `This design hangs on ${here}, and the wire has been swept since.`}
		{@render ways()}
	</Note>
{:else if others.length}
	<details class="sheet told">
		<summary>Hangs on {here}</summary>
		{@render ways()}
	</details>
{/if}

<style>
	summary {
		cursor: pointer;
	}
</style>
