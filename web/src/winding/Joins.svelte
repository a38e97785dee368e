<!-- @component
	The connection chart: every wire as a bar from its start to its end, and the terminals where the ends meet.
-->
<script lang="ts">
	import { acrossText, endName, hue, type Winding, wireName } from './wound';

	let { winding }: { winding: Winding } = $props();

	const wires = $derived([...new Set(winding.joins.flatMap((j) => j.ends.map((e) => e.wire)))]);
	const width = 380;
	const rowY = (wire: string) => 26 + 26 * wires.indexOf(wire);
	const height = $derived(26 * wires.length + 22);
	const startX = 112;
	const endX = 268;
	const x = (end: string) =>
		end === 'start' ? startX : end === 'end' ? endX : (startX + endX) / 2;
	/** Terminals at the side where most of their ends lie. */
	const places = $derived(
		winding.joins.map((join, i) => {
			const left = join.ends.filter((e) => e.end === 'start').length >= join.ends.length / 2 + 0.1;
			const y = join.ends.reduce((sum, e) => sum + rowY(e.wire), 0) / join.ends.length;
			return { join, key: `${join.at}${i}`, left, y };
		})
	);
</script>

<svg {width} {height} viewBox="0 0 {width} {height}" role="img" aria-label="Connection chart">
	<text class="head" x={startX} y="12" text-anchor="middle">start</text>
	<text class="head" x={endX} y="12" text-anchor="middle">end</text>
	{#each places as p (p.key)}
		{@const px = p.left ? startX - 34 : endX + 34}
		{#each p.join.ends as e, nth (nth)}
			<path class="lead" d="M{px},{p.y}L{x(e.end)},{rowY(e.wire)}" />
		{/each}
		<circle class="node" cx={px} cy={p.y} r="4" />
		<text class="at" x={p.left ? px - 8 : px + 8} y={p.y + 4} text-anchor={p.left ? 'end' : 'start'}
			>{p.join.at || 'joint'}</text
		>
	{/each}
	{#each wires as wire (wire)}
		<line
			class="bar"
			style:stroke="var(--{hue(wire)})"
			x1={startX}
			x2={endX}
			y1={rowY(wire)}
			y2={rowY(wire)}
		/>
		<text class="name" x={(startX + endX) / 2} y={rowY(wire) - 6} text-anchor="middle"
			>{wireName(wire)}</text
		>
	{/each}
</svg>
<ol class="unseen">
	{#each winding.joins as join, i (i)}
		<li>{join.at || 'joint'}: {join.ends.map(endName).join('; ')}</li>
	{/each}
</ol>

{#each winding.across as part, nth (nth)}
	{@const [what, where] = acrossText(part)}
	<p class="across">
		<svg class="sign" width="22" height="14" viewBox="0 0 22 14" aria-hidden="true">
			<path class="lead" d="M0,7H8M8,1V13M14,1V13M14,7H22" />
			{#if part.low_f !== part.high_f}<path class="lead" d="M4,13L18,1" />{/if}
		</svg>
		{what.replace(/^./, (c) => c.toUpperCase())}, {where}
	</p>
{/each}

<style>
	.across {
		margin: 4px 0 0;
		font-size: var(--size-13);
	}
	.sign {
		display: inline-block;
		vertical-align: -2px;
		margin-right: 6px;
	}
	svg {
		display: block;
		max-width: 100%;
		height: auto;
	}
	.bar {
		stroke-width: 5;
		stroke-linecap: round;
	}
	.lead {
		stroke: var(--soft);
		stroke-width: 1.5;
		fill: none;
	}
	.node {
		fill: var(--ink);
	}
	text {
		font-size: var(--size-12);
		fill: var(--ink);
	}
	.head,
	.name {
		fill: var(--soft);
	}
	.at {
		font-weight: 600;
	}
	@media (max-width: 620px) {
		text {
			font-size: 15px;
		}
	}
</style>
