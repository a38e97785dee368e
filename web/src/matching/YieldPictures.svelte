<!-- @component
	What each doubt costs, as bars; and how many builds hold at every SWR limit, with one's own limit on it.
-->
<script lang="ts">
	import type { Yield } from '../lib/api/client';
	import { percent, swr } from '../lib/units/format';
	import { contributor } from './words';

	interface Props {
		yielded: Yield;
		/** The limits of the targets. */
		limits: number[];
		/** Whether the wire is known from its model alone. */
		modelled?: boolean;
	}

	let { yielded, limits, modelled = false }: Props = $props();

	const W = 272;
	const [LOW, HIGH] = [1.1, 3.0];
	const x = (limit: number) =>
		30 + ((W - 42) * (Math.min(Math.max(limit, LOW), HIGH) - LOW)) / (HIGH - LOW);
	const y = (share: number) => 80 - 68 * share;
	const line = (of: (l: Yield['limits'][number]) => number) =>
		yielded.limits
			.map((l, i) => `${i ? 'L' : 'M'}${x(l.swr_limit).toFixed(1)},${y(of(l)).toFixed(1)}`)
			.join('');
	const most = $derived(Math.max(...yielded.costly.map((c) => c.share), 0.05));
	const plain = (name: string) => contributor(name).replace(/,.*$/, '');
</script>

{#if yielded.costly.length > 0}
	<h3 class="eyebrow">Builds lost to each doubt</h3>
	<ul class="bars">
		{#each yielded.costly as cost, i (i)}
			<li>
				<span class="name">{plain(cost.name)}</span>
				<span class="bar" style:width="{(100 * cost.share) / most}%"></span>
				<span class="mono">{percent(cost.share)}</span>
			</li>
		{/each}
	</ul>
{/if}
<h3 class="eyebrow">Builds that hold, by SWR limit</h3>
<svg
	viewBox="0 0 {W} 104"
	role="img"
	aria-label="Builds that hold, doubt of the wire included: {yielded.limits
		.filter((l) => [1.5, 2, 3].includes(l.swr_limit))
		.map((l) => `${percent(l.reading_share)} at SWR ${swr(l.swr_limit)}`)
		.join(', ')}"
>
	{#each [0, 0.5, 1] as share (share)}
		<line class="grid" x1="30" x2={W - 12} y1={y(share)} y2={y(share)} />
		<text x="26" y={y(share) + 4} text-anchor="end">{100 * share}</text>
	{/each}
	{#each [1.5, 2, 2.5, 3] as limit (limit)}
		<line class="grid" x1={x(limit)} x2={x(limit)} y1="80" y2="84" />
		<text x={x(limit)} y="97" text-anchor="middle">{limit}</text>
	{/each}
	<text x="2" y="97">%</text>
	<path class="parts" d={line((l) => l.parts_share)} />
	<path class="reading" d={line((l) => l.reading_share)} />
	{#each [...new Set(limits)] as limit (limit)}
		<line class="own" x1={x(limit)} x2={x(limit)} y1="8" y2="80" />
	{/each}
</svg>
<p class="key">
	<span class="reading">{modelled ? 'the wire as it may hang' : 'sweep error included'}</span> ·
	<span>parts alone</span>
</p>

<style>
	.bars {
		list-style: none;
		margin: 2px 0 8px;
		padding: 0;
		font-size: var(--size-12);
	}
	.bars li {
		display: grid;
		grid-template-columns: 108px 1fr auto;
		gap: 6px;
		align-items: center;
	}
	.name {
		overflow-wrap: anywhere;
	}
	.bar {
		height: 9px;
		background: var(--copper);
		border-radius: 2px;
		min-width: 2px;
	}
	svg {
		display: block;
		width: 100%;
	}
	text {
		font: 12px var(--mono);
		fill: var(--soft);
	}
	.grid {
		stroke: var(--line);
	}
	path {
		fill: none;
		stroke-width: 2;
	}
	path.parts {
		stroke: var(--soft);
		stroke-dasharray: 4 3;
	}
	path.reading {
		stroke: var(--verdigris);
	}
	.own {
		stroke: var(--enamel);
		stroke-width: 1.5;
	}
	.key {
		margin: 0;
		font-size: var(--size-12);
		color: var(--soft);
	}
	.key .reading {
		color: var(--verdigris);
	}
</style>
