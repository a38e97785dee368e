<!-- @component
	A network from the wire's post to the coax: what goes in the way, what goes to the ground side.
-->
<script lang="ts">
	import type { Drawn } from './schematic';

	interface Props {
		/** From the wire down. */
		parts: Drawn[];
		/** Without words, for a card. */
		small?: boolean;
	}

	let { parts, small = false }: Props = $props();

	const LEFT = $derived(small ? 10 : 58);
	const RIGHT = $derived(small ? 130 : 236);
	const HOT = $derived(small ? 12 : 34);
	const COLD = $derived(small ? 48 : 96);
	const middle = $derived((HOT + COLD) / 2);
	const place = (i: number) => LEFT + ((i + 0.5) * (RIGHT - LEFT)) / Math.max(parts.length, 1);
	/** How wide what stands in the way is, to each side. */
	const half = (part: Drawn | undefined) =>
		part && part.place !== 'shunt' ? (part.place === 'through' ? 17 : small ? 14 : 20) : 0;
	const bumps = $derived((small ? 'a3.5,3.5 0 0 1 7,0' : 'a5,5 0 0 1 10,0').repeat(4));
	const reach = $derived(small ? 14 : 20);
	const named = (p: Drawn) => (p.text ? `${p.name} of ${p.text}` : p.name);
	const said = $derived(
		parts
			.map((p) =>
				p.place === 'series'
					? `${named(p)} between the wire and the coax's centre`
					: p.place === 'through'
						? `${named(p)}, passed through`
						: `${named(p)} from the ${p === parts[0] ? 'wire' : "coax's centre"} to ground`
			)
			.join('; ')
	);
	/** Where the hot wire runs bare: between what stands in the way. */
	const bare = $derived.by(() => {
		const way = parts.map((p, i) => ({ at: place(i), half: half(p) })).filter((p) => p.half > 0);
		const from = [small ? 3 : 52, ...way.map((p) => p.at + p.half)];
		const to = [...way.map((p) => p.at - p.half), small ? 137 : 244];
		return from.map((x1, i) => ({ x1, x2: to[i] ?? x1 }));
	});
	/** The cold side runs through but where a line or a transformer stands. */
	const cold = $derived.by(() => {
		const way = parts
			.map((p, i) => ({ at: place(i), half: p.place === 'through' ? half(p) : 0 }))
			.filter((p) => p.half > 0);
		const from = [small ? 3 : 52, ...way.map((p) => p.at + p.half)];
		const to = [...way.map((p) => p.at - p.half), small ? 137 : 244];
		return from.map((x1, i) => ({ x1, x2: to[i] ?? x1 }));
	});
</script>

<svg
	viewBox={small ? '0 0 140 58' : '-12 0 326 122'}
	role={small ? 'presentation' : 'img'}
	aria-label={small ? undefined : `Wiring: ${said || 'straight through'}`}
	class:small
>
	{#each bare as { x1, x2 }, nth (nth)}<line class="lead" {x1} {x2} y1={HOT} y2={HOT} />{/each}
	{#each cold as { x1, x2 }, nth (nth)}<line class="lead" {x1} {x2} y1={COLD} y2={COLD} />{/each}
	{#each parts as part, i (part.key + part.place)}
		{@const x = place(i)}
		{#if part.place === 'through'}
			{#if part.kind === 'transformer'}
				<g class="coil" transform="translate({x},{middle})">
					<path
						d="M-5,{HOT - middle} a4,4 0 0 1 0,8 a4,4 0 0 1 0,8 a4,4 0 0 1 0,8 M5,{HOT -
							middle} a4,4 0 0 0 0,8 a4,4 0 0 0 0,8 a4,4 0 0 0 0,8"
					/>
				</g>
				<line class="lead" x1={x - 17} x2={x - 5} y1={HOT} y2={HOT} />
				<line class="lead" x1={x + 5} x2={x + 17} y1={HOT} y2={HOT} />
				<line class="lead" x1={x - 17} x2={x + 17} y1={COLD} y2={COLD} />
				<line class="lead" x1={x - 5} x2={x - 5} y1={HOT + 24} y2={COLD} />
				<line class="lead" x1={x + 5} x2={x + 5} y1={HOT + 24} y2={COLD} />
			{:else}
				<rect class="coax" x={x - 17} width="34" y={HOT - 5} height="10" rx="5" />
				<line class="lead" x1={x - 17} x2={x + 17} y1={HOT} y2={HOT} />
				<line class="lead" x1={x - 17} x2={x + 17} y1={COLD} y2={COLD} />
			{/if}
			{#if !small}<text {x} y={HOT - 14} text-anchor="middle">{part.text}</text>{/if}
		{:else if part.place === 'series'}
			<g class={part.kind === 'coil' ? 'coil' : 'plates'} transform="translate({x},{HOT})">
				{#if part.kind === 'coil'}<path d="M-{reach},0{bumps}" />{:else}
					<line x1={-reach} x2="-4" /><line x1="4" x2={reach} />
					<line x1="-4" x2="-4" y1={-reach / 2 - 1} y2={reach / 2 + 1} />
					<line x1="4" x2="4" y1={-reach / 2 - 1} y2={reach / 2 + 1} />
				{/if}
			</g>
			{#if !small}<text {x} y="13" text-anchor="middle">{part.text}</text>{/if}
		{:else}
			<line class="lead" x1={x} x2={x} y1={HOT} y2={middle - reach} />
			{#if part.kind === 'stub'}
				<line class="lead" x1={x - 5} x2={x - 5} y1={middle + reach - 8} y2={COLD} />
				<rect class="coax" x={x - 5} width="10" y={middle - reach} height={2 * reach - 8} rx="4" />
				<line class="lead" x1={x} x2={x} y1={middle - reach} y2={middle + reach - 10} />
				{#if part.end === 'shorted'}
					<line
						class="lead"
						x1={x - 5}
						x2={x + 5}
						y1={middle + reach - 9}
						y2={middle + reach - 9}
					/>
				{/if}
				<circle class="joint" cx={x - 5} cy={COLD} r="2.6" />
			{:else}
				<line class="lead" x1={x} x2={x} y1={middle + reach} y2={COLD} />
				<g
					class={part.kind === 'coil' ? 'coil' : 'plates'}
					transform="translate({x},{middle}) rotate(90)"
				>
					{#if part.kind === 'coil'}<path d="M-{reach},0{bumps}" />{:else}
						<line x1={-reach} x2="-4" /><line x1="4" x2={reach} />
						<line x1="-4" x2="-4" y1={-reach / 2 - 1} y2={reach / 2 + 1} />
						<line x1="4" x2="4" y1={-reach / 2 - 1} y2={reach / 2 + 1} />
					{/if}
				</g>
				<circle class="joint" cx={x} cy={COLD} r="2.6" />
			{/if}
			<circle class="joint" cx={x} cy={HOT} r="2.6" />
			{#if !small}<text x={x + 15} y={middle + 4}>{part.text}</text>{/if}
		{/if}
	{/each}
	{#if small}
		{#each [3, 137] as cx (cx)}
			<circle class="post" {cx} cy={HOT} r="2.6" /><circle class="post" {cx} cy={COLD} r="2.6" />
		{/each}
	{:else}
		{#each [48, 248] as cx (cx)}
			<circle class="post" {cx} cy={HOT} r="4.5" /><circle class="post" {cx} cy={COLD} r="4.5" />
		{/each}
		<text x="40" y={HOT + 4} text-anchor="end">wire</text>
		<text x="40" y={COLD + 4} text-anchor="end">ground</text>
		<text x="257" y={HOT - 2}>coax,</text>
		<text x="257" y={HOT + 11}>centre</text>
		<text x="257" y={COLD + 4}>braid</text>
	{/if}
</svg>

<style>
	svg {
		display: block;
		width: 100%;
		max-width: 360px;
	}
	.small {
		max-width: 140px;
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
	.coax {
		fill: var(--tape-wash);
		stroke: var(--control-edge);
		stroke-width: 1.2;
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
</style>
