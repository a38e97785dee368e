<!-- @component
	The stages of the work on a measuring tape: the navigation inside a build. On a phone, one stage and its neighbours.
-->
<script lang="ts">
	import { stages, type Stage } from './stages';

	interface Props {
		/** The build whose tape it is. */
		buildId: string;
		/** The stage one is at. */
		stage: Stage;
		/** Stages that are done. */
		done: Stage[];
	}

	let { buildId, stage, done }: Props = $props();

	const desks = stages.filter((s) => s.desk);
	const at = $derived(stages.findIndex((s) => s.key === stage));
	const before = $derived(desks[desks.findIndex((s) => s.key === stage) - 1]);
	const after = $derived(desks[desks.findIndex((s) => s.key === stage) + 1]);
</script>

<nav aria-label="Stages of this build">
	<ol class="wide">
		{#each stages as item (item.key)}
			<li class:here={item.key === stage}>
				{#if item.desk}
					<a
						href="/builds/{buildId}/{item.key}"
						aria-current={item.key === stage ? 'page' : undefined}>{item.name}</a
					>
				{:else}
					<span class="later" title="This desk is still to come">{item.name}</span>
				{/if}
				{#if done.includes(item.key) && item.key !== stage}
					<span class="tick"><span aria-hidden="true">✓</span><span class="unseen">done</span></span
					>
				{/if}
			</li>
		{/each}
	</ol>
	<div class="narrow">
		{#if before}<a href="/builds/{buildId}/{before.key}">‹ {before.name}</a>{:else}<span
			></span>{/if}
		<strong>{stages[at]?.name} · {at + 1} of {stages.length}</strong>
		{#if after}<a href="/builds/{buildId}/{after.key}">{after.name} ›</a>{:else}<span></span>{/if}
	</div>
</nav>

<style>
	nav {
		margin: 0 18px;
		background:
			repeating-linear-gradient(90deg, var(--tape-ink) 0 1px, transparent 1px 1.5625%) top / 100%
				5px no-repeat,
			var(--tape);
		border: 1px solid var(--tape-soft);
		border-radius: 3px;
		color: var(--tape-ink);
	}
	.wide {
		display: flex;
		list-style: none;
		padding: 0;
	}
	.wide li {
		flex: 1;
		display: flex;
		align-items: center;
		border-left: 1px solid var(--tape-ink);
		min-width: 0;
	}
	.wide li:first-child {
		border-left: 0;
	}
	.wide a,
	.wide .later {
		flex: 1;
		padding: 9px 13px 4px;
		color: var(--tape-ink);
		font-weight: 700;
		font-size: var(--size-14);
		text-decoration: none;
	}
	.wide .later {
		color: var(--tape-soft);
		font-weight: 500;
	}
	.here {
		background: var(--tape-ink);
	}
	.wide .here a {
		color: var(--tape);
	}
	.tick {
		padding: 6px 12px 0 0;
		font-weight: 700;
	}
	.narrow {
		display: none;
		justify-content: space-between;
		padding: 9px 12px 6px;
	}
	.narrow a {
		color: var(--tape-ink);
		padding: 2px 6px;
	}
	@media (max-width: 760px) {
		.wide {
			display: none;
		}
		.narrow {
			display: flex;
		}
	}
</style>
