<!-- @component
	The way from the wires down to the radio: what is cleared, what is still suspected, what was found.
-->
<script lang="ts">
	import { type Element, elementName, oddsText } from './faultWords';

	let { elements }: { elements: Element[] } = $props();

	const groups: Record<Element['group'], string> = {
		antenna: 'Aloft',
		box: 'At the feedpoint',
		line: 'On the way',
		shack: 'In the shack'
	};
	const words: Record<Element['state'], string> = {
		untested: 'not tested',
		cleared: 'cleared',
		suspected: '',
		found: ''
	};
	const shown = $derived(
		(Object.keys(groups) as Element['group'][])
			.map((group) => ({ group, some: elements.filter((e) => e.group === group) }))
			.filter((g) => g.some.length > 0)
	);
</script>

<ol class="drop" aria-label="From the wires to the radio">
	{#each shown as { group, some } (group)}
		<li class="group">
			<span class="eyebrow">{groups[group]}</span>
			<ul>
				{#each some as e (e.key)}
					<li class={e.state}>
						<b>{elementName(e.key)}</b>
						<span class="soft">{words[e.state] || oddsText(e.odds)}</span>
					</li>
				{/each}
			</ul>
		</li>
	{/each}
</ol>

<style>
	.drop,
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
	}
	.group + .group {
		margin-top: 8px;
	}
	ul {
		position: relative;
		padding-left: 22px;
		display: grid;
		gap: 4px;
	}
	li li {
		position: relative;
		border: 2px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		padding: 3px 8px;
		font-size: var(--size-13);
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 0 8px;
	}
	li li::before {
		content: '';
		position: absolute;
		left: -20px;
		top: -5px;
		bottom: -5px;
		width: 10px;
		background: var(--line);
	}
	li li.cleared {
		border-color: var(--verdigris);
	}
	li li.cleared::before {
		background: var(--verdigris-wash);
		border-left: 2px solid var(--verdigris);
	}
	li li.found {
		border-color: var(--enamel);
	}
	li li.found::before {
		background: repeating-linear-gradient(45deg, var(--enamel) 0 3px, var(--caution) 3px 7px);
	}
	li li.found b {
		color: var(--enamel);
	}
</style>
