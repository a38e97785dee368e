<!-- @component
	How a match is wired: from the wire's post to the coax, which part goes through and which to the ground side.
-->
<script lang="ts">
	import type { Content } from '../lib/api/client';
	import { isWound, isCoil, type Part, valueOf } from '../design/content';
	import { partTitle } from '../design/words';
	import { quantity } from '../lib/units/format';

	let { content }: { content: Content } = $props();

	/** From the wire down to the coax. */
	const inOrder = $derived(
		content.elements.filter((e): e is Part => e.kind !== 'line' && !isWound(e))
	);
	const LEFT = 58;
	const RIGHT = 236;
	const HOT = 34;
	const COLD = 96;
	const place = (i: number) => LEFT + ((i + 0.5) * (RIGHT - LEFT)) / inOrder.length;
	const value = (part: Part) => quantity(valueOf(part), isCoil(part) ? 'H' : 'F');
	const said = $derived(
		inOrder
			.map((p) =>
				p.place === 'series'
					? `${partTitle(p)} of ${value(p)} between the wire and the coax's centre`
					: `${partTitle(p)} of ${value(p)} from the ${p === inOrder[0] ? 'wire' : "coax's centre"} to ground`
			)
			.join('; ')
	);
	const bumps = 'a5,5 0 0 1 10,0'.repeat(4);
</script>

{#if inOrder.length > 0}
	<figure class="wiring">
		<svg viewBox="-12 0 326 122" role="img" aria-label="Wiring: {said}">
			<line class="lead" x1="52" x2="244" y1={COLD} y2={COLD} />
			{#if inOrder[0]?.place === 'shunt' || inOrder.every((p) => p.place === 'shunt')}
				<line class="lead" x1="52" x2={place(0)} y1={HOT} y2={HOT} />
			{/if}
			{#each inOrder as part, i (part.key + part.place)}
				{@const x = place(i)}
				{@const from = i === 0 ? 52 : place(i - 1)}
				{@const series = part.place === 'series'}
				{#if series}
					{@const begin = inOrder[i - 1]?.place === 'series' ? from + 20 : from}
					<line class="lead" x1={begin} x2={x - 20} y1={HOT} y2={HOT} />
					<g class={isCoil(part) ? 'coil' : 'plates'} transform="translate({x},{HOT})">
						{#if isCoil(part)}<path d="M-20,0{bumps}" />{:else}
							<line x1="-20" x2="-4" /><line x1="4" x2="20" />
							<line x1="-4" x2="-4" y1="-11" y2="11" /><line x1="4" x2="4" y1="-11" y2="11" />
						{/if}
					</g>
					<text {x} y="13" text-anchor="middle">{value(part)}</text>
				{:else}
					{#if i > 0}<line
							class="lead"
							x1={inOrder[i - 1]?.place === 'series' ? from + 20 : from}
							x2={x}
							y1={HOT}
							y2={HOT}
						/>{/if}
					<line class="lead" x1={x} x2={x} y1={HOT} y2={(HOT + COLD) / 2 - 20} />
					<line class="lead" x1={x} x2={x} y1={(HOT + COLD) / 2 + 20} y2={COLD} />
					<g
						class={isCoil(part) ? 'coil' : 'plates'}
						transform="translate({x},{(HOT + COLD) / 2}) rotate(90)"
					>
						{#if isCoil(part)}<path d="M-20,0{bumps}" />{:else}
							<line x1="-20" x2="-4" /><line x1="4" x2="20" />
							<line x1="-4" x2="-4" y1="-11" y2="11" /><line x1="4" x2="4" y1="-11" y2="11" />
						{/if}
					</g>
					<circle class="joint" cx={x} cy={HOT} r="2.6" />
					<circle class="joint" cx={x} cy={COLD} r="2.6" />
					<text x={x + 15} y={(HOT + COLD) / 2 + 4}>{value(part)}</text>
				{/if}
			{/each}
			<line
				class="lead"
				x1={inOrder[inOrder.length - 1]?.place === 'series'
					? place(inOrder.length - 1) + 20
					: place(inOrder.length - 1)}
				x2="244"
				y1={HOT}
				y2={HOT}
			/>
			<circle class="post" cx="48" cy={HOT} r="4.5" />
			<circle class="post" cx="48" cy={COLD} r="4.5" />
			<circle class="post" cx="248" cy={HOT} r="4.5" />
			<circle class="post" cx="248" cy={COLD} r="4.5" />
			<text x="40" y={HOT + 4} text-anchor="end">wire</text>
			<text x="40" y={COLD + 4} text-anchor="end">ground</text>
			<text x="257" y={HOT - 2}>coax,</text>
			<text x="257" y={HOT + 11}>centre</text>
			<text x="257" y={COLD + 4}>braid</text>
		</svg>
		<figcaption>Ground: radials, counterpoise, or the other leg.</figcaption>
	</figure>
{/if}

<style>
	.wiring {
		margin: 4px 0 8px;
	}
	svg {
		display: block;
		width: 100%;
		max-width: 360px;
	}
	.lead,
	.plates line {
		stroke: var(--ink);
		stroke-width: 1.6;
	}
	.coil path {
		fill: none;
		stroke: var(--copper);
		stroke-width: 2.2;
	}
	.plates line {
		stroke: var(--verdigris);
		stroke-width: 2.2;
	}
	.post {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 1.6;
	}
	.joint {
		fill: var(--ink);
	}
	text {
		font: 12px var(--mono);
		fill: var(--ink);
	}
	figcaption {
		color: var(--soft);
		font-size: var(--size-12);
	}
</style>
