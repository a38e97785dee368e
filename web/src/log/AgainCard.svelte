<!-- @component
	Checked again: the same winding swept twice, something done to it between; what moved, by how much, whether it matters.
-->
<script lang="ts">
	import { answer, api, type Build, problemText, type Sweep } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import TextField from '../lib/controls/TextField.svelte';
	import Help from '../lib/help/Help.svelte';
	import { utcOffsetMin } from '../trim/words';
	import { curvesOf, dayOf } from './curvesOf';
	import { movedText } from './logWords';
	import TwoSweeps from './TwoSweeps.svelte';

	interface Props {
		build: Build;
		/** Sweeps of the bench that lie in the log, beside those of the build. */
		bench: { id: string; name: string; swept_at: string }[];
		markerHz: number;
		onmarker: (hz: number, settled: boolean) => void;
		onkept: () => void;
	}

	let { build, bench, markerHz, onmarker, onkept }: Props = $props();

	const sweeps = $derived(
		[...build.sweeps.filter((s: Sweep) => s.carries === 'impedance'), ...bench]
			.filter((s, i, all) => all.findIndex((o) => o.id === s.id) === i)
			.sort((a, b) => b.swept_at.localeCompare(a.swept_at))
	);
	let before = $state<string | null>(null);
	let after = $state<string | null>(null);
	let what = $state('glue');
	let problem = $state<string | null>(null);
	let news = $state<string | null>(null);

	const held = latest(
		() =>
			before && after && before !== after
				? { first: before, second: after, targets: build.targets }
				: null,
		async (asked) => {
			const [moved, first, second] = await Promise.all([
				answer(api.POST('/api/sweeps/moved', { body: asked })),
				curvesOf(asked.first),
				curvesOf(asked.second)
			]);
			return { asked, moved, first, second };
		}
	);
	const shown = $derived(
		held.value && held.value.asked.first === before && held.value.asked.second === after
			? held.value
			: null
	);

	async function keep(): Promise<void> {
		if (!shown) return;
		const { asked, moved } = shown;
		try {
			await answer(
				api.POST('/api/builds/{build_id}/entries', {
					params: { path: { build_id: build.id } },
					body: {
						data: { kind: 'checked_again', after: what, before_sweep_id: asked.first },
						sweep_id: asked.second,
						text: movedText(moved),
						utc_offset_min: utcOffsetMin()
					}
				})
			);
			problem = null;
			news = 'Kept in the log.';
			onkept();
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

<details class="sheet unprinted">
	<summary><h2>Checked again</h2></summary>
	<p class="told soft">
		After glue, ties or the box: the same thing swept twice, laid over itself.
		<Help topic="log" name="checking again" />
	</p>
	{#if sweeps.length < 2}
		<p class="told">It takes two sweeps that carry R and X.</p>
	{:else}
		{#snippet choice(label: string, value: string | null, take: (id: string) => void)}
			<label
				>{label}
				<select value={value ?? ''} onchange={(e) => take(e.currentTarget.value)}>
					<option value="" disabled>choose</option>
					{#each sweeps as s (s.id)}<option value={s.id}>{s.name}, {dayOf(s.swept_at)}</option
						>{/each}
				</select></label
			>
		{/snippet}
		<div class="fields">
			{@render choice('Swept before', before, (id) => (before = id))}
			{@render choice('Swept after', after, (id) => (after = id))}
			<TextField
				label="Between them"
				shown={what}
				most={60}
				onsettle={(text) => void (what = text)}
			/>
		</div>
		{#if before && before === after}<p class="told">Those are one and the same sweep.</p>{/if}
		{#if held.problem}<p class="problem">{held.problem}</p>{/if}
		{#if shown}
			<TwoSweeps
				label="SWR before, dashed, and after"
				before={shown.first}
				after={shown.second}
				targets={build.targets}
				{markerHz}
				{onmarker}
			/>
			<p><strong>{movedText(shown.moved)}</strong></p>
			<button class="button" onclick={keep}>Keep it in the log</button>
		{/if}
	{/if}
	{#if problem}<p class="problem">{problem}</p>{/if}
	{#if news}<p class="told" role="status">{news}</p>{/if}
</details>

<style>
	h2 {
		display: inline;
	}
	.fields {
		display: grid;
		gap: 6px;
		font-size: var(--size-13);
		margin: 6px 0;
	}
	select {
		max-width: 200px;
	}
</style>
