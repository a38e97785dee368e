<!-- @component
	The open box: posts, every part between its places, the coax socket, the drip hole. Connections as they are; not to
	scale.
-->
<script lang="ts">
	import type { Content } from '../lib/api/client';
	import { quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Picture from '../lib/charts/Picture.svelte';
	import { drawnOf } from '../matching/schematic';
	import { type BoxPart, isApart, layout } from './boxLayout';
	import type { Sheet } from './sheetWords';

	interface Props {
		box: NonNullable<Sheet['box']>;
		content: Content;
		/** Peak at the hot post, volts; said beside it. */
		voltageV: number;
	}

	let { box, content, voltageV }: Props = $props();

	const HOT = 214;
	const COLD = 84;
	const MIDDLE = (HOT + COLD) / 2;
	const LEFT = 14;
	const RIGHT = 326;
	const drawn = $derived(layout(box));
	const socket = $derived({ x: 168, y: drawn.bottom + 6 });
	const balanced = $derived(box.posts[0] === 'leg 1');

	/** What a part is and how large, by its key. */
	function label(part: BoxPart): { name: string; text: string } {
		const own = drawnOf(content, units.length).find((d) => d.key === part.key);
		if (own) return own;
		for (const e of content.elements) {
			if (e.kind !== 'transformer' || !part.key.startsWith(e.key)) continue;
			if (part.key.endsWith('input')) {
				return { name: 'Capacitor', text: quantity(e.input_capacitance_f ?? 0, 'F') };
			}
			return { name: 'Variable capacitor', text: `to ${quantity(e.tuning?.high_f ?? 0, 'F')}` };
		}
		return { name: part.key, text: '' };
	}
	/** Every connection in words, for who cannot see it. */
	const told = $derived(
		box.parts.map((p) => {
			const { name, text } = label(p);
			return p.between.length === 2
				? `${name} ${text}: from ${p.between[0]} to ${p.between[1]}`
				: `${name} ${text}: above ${p.between[0]} and ${p.between[1]}, below ${p.between[2]} and ${p.between[3]}`;
		})
	);
</script>

<Picture title="Wiring of the box">
	<svg
		width="340"
		height={drawn.height}
		viewBox="0 0 340 {drawn.height}"
		role="img"
		aria-label="Wiring of the box: {told.join('; ')}"
	>
		<rect
			class="box"
			x={LEFT}
			y={drawn.top - 12}
			width={RIGHT - LEFT}
			height={drawn.bottom - drawn.top + 18}
			rx="10"
		/>
		<path class="hot" d="M{HOT},{drawn.top - 12}V{drawn.top}" />
		{#each drawn.hot as [from, to], i (i)}<line class="hot" x1={HOT} x2={HOT} y1={from} y2={to} />
		{/each}
		{#each drawn.cold as [from, to], i (i)}
			<line class="cold" x1={COLD} x2={COLD} y1={i === 0 ? drawn.top + 14 : from} y2={to} />
		{/each}
		<path class="cold" d="M{LEFT},{drawn.top + 14}H{COLD}" />
		<path class="hot" d="M{HOT},{drawn.bottom}L{socket.x + 3},{socket.y}" />
		<path class="cold" d="M{COLD},{drawn.bottom}L{socket.x - 11},{socket.y - 4}" />
		{#each drawn.parts as { part, y, half } (part.key)}
			{@const { name, text } = label(part)}
			{#if part.kind === 'transformer'}
				<circle class="core" cx={MIDDLE} cy={y} r="35" />
				<circle class="hole" cx={MIDDLE} cy={y} r="17" />
				<path
					class="hot"
					d="M{HOT},{y - half}L{MIDDLE + 24},{y - 24}M{HOT},{y + half}L{MIDDLE + 24},{y + 24}"
				/>
				{#if isApart(part)}
					<path
						class="cold"
						d="M{COLD},{y - half}L{MIDDLE - 24},{y - 24}M{COLD},{y + half}L{MIDDLE - 24},{y + 24}"
					/>
				{:else}
					<path class="cold" d="M{COLD},{y + 20}L{MIDDLE - 24},{y + 20}" />
					<circle class="joint" cx={COLD} cy={y + 20} r="2.6" />
				{/if}
				<text x={HOT + 12} y={y - 3}>{name}</text>
				<text class="value" x={HOT + 12} y={y + 13}>{text}</text>
			{:else if part.place === 'series'}
				{#if part.kind === 'coil' || part.kind === 'ring_coil'}
					<path class="coil" d="M{HOT},{y - half}{'a5,5 0 0 1 0,10'.repeat(4)}" />
				{:else}
					<path class="hot" d="M{HOT},{y - half}V{y - 4}M{HOT},{y + 4}V{y + half}" />
					<path class="plates" d="M{HOT - 12},{y - 4}h24M{HOT - 12},{y + 4}h24" />
				{/if}
				<text x={HOT + 16} y={y - 2}>{name}</text>
				<text class="value" x={HOT + 16} y={y + 13}>{text}</text>
			{:else if part.place === 'through'}
				<rect class="coax" x={HOT - 8} y={y - half} width="16" height={2 * half} rx="6" />
				<path class="hot" d="M{HOT},{y - half}v{2 * half}" />
				<text x={HOT + 16} y={y - 2}>{name}</text>
				<text class="value" x={HOT + 16} y={y + 13}>{text}</text>
			{:else}
				<circle class="joint" cx={HOT} cy={y} r="2.6" />
				<circle class="joint" cx={COLD} cy={y} r="2.6" />
				{#if part.kind === 'coil' || part.kind === 'ring_coil'}
					<path class="hot" d="M{COLD},{y}H{MIDDLE - 20}M{MIDDLE + 20},{y}H{HOT}" />
					<path class="coil" d="M{MIDDLE - 20},{y}{'a5,5 0 0 1 10,0'.repeat(4)}" />
				{:else if part.kind === 'stub'}
					<path class="hot" d="M{COLD},{y}H{HOT}" />
					<rect class="coax" x={MIDDLE - 26} y={y - 6} width="52" height="12" rx="5" />
				{:else}
					<path class="hot" d="M{COLD},{y}H{MIDDLE - 4}M{MIDDLE + 4},{y}H{HOT}" />
					<path class="plates" d="M{MIDDLE - 4},{y - 11}v22M{MIDDLE + 4},{y - 11}v22" />
					{#if part.kind === 'variable_capacitor'}
						<path class="plates" d="M{MIDDLE - 13},{y + 11}L{MIDDLE + 13},{y - 11}" />
					{/if}
				{/if}
				<text x={HOT + 12} y={y - 2}>{name}</text>
				<text class="value" x={HOT + 12} y={y + 13}>{text}</text>
			{/if}
		{/each}
		<circle class="post" cx={HOT} cy={drawn.top - 12} r="6" />
		<circle class="post" cx={LEFT} cy={drawn.top + 14} r="6" />
		<text x={HOT + 12} y={drawn.top - 16}
			>{balanced ? 'leg 1' : 'wire'}, {quantity(voltageV, 'V', 2)} peak</text
		>
		<text x={LEFT + 10} y={drawn.top + 8}>{balanced ? 'leg 2' : 'ground'}</text>
		<circle class="socket" cx={socket.x} cy={socket.y} r="11" />
		<circle class="joint" cx={socket.x} cy={socket.y} r="3.5" />
		<text x={socket.x} y={socket.y + 25} text-anchor="middle">coax socket</text>
		<circle class="drip" cx="292" cy={drawn.bottom + 6} r="3" />
		<text x="292" y={drawn.bottom + 31} text-anchor="middle">drip hole</text>
	</svg>
</Picture>
<p class="soft told">
	{balanced
		? 'Legs of the antenna at the posts.'
		: 'Ground is the counterpoise, the radials, or the other leg.'} Centre of the socket to the hot side,
	its shell to ground. Not to scale.
</p>

<style>
	svg {
		display: block;
		max-width: 100%;
		height: auto;
	}
	.box {
		fill: none;
		stroke: var(--ink);
		stroke-width: 2;
	}
	.hot,
	.cold {
		fill: none;
		stroke: var(--copper);
		stroke-width: 2;
	}
	.cold {
		stroke: var(--ink);
	}
	.coil {
		fill: none;
		stroke: var(--copper);
		stroke-width: 2.4;
	}
	.plates {
		fill: none;
		stroke: var(--verdigris);
		stroke-width: 2.4;
	}
	.coax {
		fill: var(--tape-wash);
		stroke: var(--control-edge);
	}
	.core {
		fill: var(--core);
		stroke: var(--core-edge);
	}
	.hole {
		fill: var(--sheet);
		stroke: var(--core-edge);
	}
	.post,
	.socket {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.joint,
	.drip {
		fill: var(--ink);
	}
	text {
		font-size: var(--size-12);
		fill: var(--ink);
	}
	.value {
		font-family: var(--mono);
	}
	.told {
		margin-top: 4px;
	}
	@media (max-width: 620px) {
		text {
			font-size: 14px;
		}
	}
</style>
