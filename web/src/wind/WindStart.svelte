<!-- @component
	Nothing is wound for this build yet: what one usually begins with.
-->
<script lang="ts">
	import { answer, api, type Build, type Design, said } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { contentOf, starts } from './wound';

	interface Props {
		build: Build;
		/** Whether there is something wound already, and this is one more. */
		more?: boolean;
		onmade: (design: Design) => void;
	}

	let { build, more = false, onmade }: Props = $props();

	let problem = $state<string | null>(null);

	async function begin(start: (typeof starts)[number]): Promise<void> {
		try {
			const made = await answer(
				api.POST('/api/builds/{build_id}/designs', {
					params: { path: { build_id: build.id } },
					body: {
						name: start.name,
						content: contentOf(start, build.targets, null)
					}
				})
			);
			onmade(made);
		} catch (why) {
			problem = said(why);
		}
	}
</script>

<section class="sheet">
	<h2>{more ? 'Wind something else' : 'Nothing is wound for this build yet'}</h2>
	<p class="told soft">
		{more
			? 'It becomes a design of its own.'
			: 'Choose what you need, then turn it into turns, cores and wire.'}
		A coil for an L match is made on the <a href="/builds/{build.id}/match">match desk</a> first.
	</p>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	<ul>
		{#each starts as start (start.name)}
			<li>
				<button class="button" onclick={() => begin(start)}>
					<strong>{start.name}</strong>
					<small>{start.why}</small>
				</button>
			</li>
		{/each}
	</ul>
</section>

<style>
	ul {
		list-style: none;
		padding: 0;
		margin-top: 10px;
		display: grid;
		gap: 8px;
		grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
	}
	.button {
		width: 100%;
		text-align: left;
		padding: 10px 14px;
	}
	small {
		display: block;
		color: var(--soft);
	}
</style>
