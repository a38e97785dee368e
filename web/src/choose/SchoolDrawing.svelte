<!-- @component
	A school at the place, small and to scale: its supports, its wires, coils and feed.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';

	interface Props {
		card: Schemas['SchoolCardOut'];
		/** How wide and high a picture is, in metres: the same for every card. */
		wideM: number;
		highM: number;
		label: string;
	}

	let { card, wideM, highM, label }: Props = $props();

	const width = 148;
	const height = 92;
	const scale = $derived(Math.min((width - 16) / wideM, (height - 18) / highM));
	const xs = $derived(card.wires.flatMap((w) => [w.x1_m, w.x2_m]));
	const middle = $derived(xs.length ? (Math.min(...xs) + Math.max(...xs)) / 2 : 0);
	const x = $derived((m: number) => width / 2 + (m - middle) * scale);
	const y = $derived((m: number) => height - 12 - m * scale);
	const tops = $derived.by(() => {
		// A pole under the highest point and under the far ends that hang as high.
		const ends = card.wires.flatMap((w) => [
			{ x: w.x1_m, z: w.z1_m },
			{ x: w.x2_m, z: w.z2_m }
		]);
		const high = Math.max(...ends.map((e) => e.z), 0);
		const at = ends.filter((e) => e.z > high - 0.3).map((e) => e.x);
		return at.length
			? [...new Set([Math.min(...at), Math.max(...at)])].map((m) => ({ m, high }))
			: [];
	});
</script>

<svg {width} {height} viewBox="0 0 {width} {height}" role="img" aria-label={label}>
	<rect class="earth" x="0" y={y(0)} {width} height="12" />
	{#each tops as top (top.m)}
		<path class="pole" d="M{x(top.m)},{y(0)}V{y(top.high)}" />
	{/each}
	{#each card.wires as wire, i (i)}
		<path class="wire" d="M{x(wire.x1_m)},{y(wire.z1_m)}L{x(wire.x2_m)},{y(wire.z2_m)}" />
	{/each}
	{#each card.parts as part, i (i)}
		<rect class="part" x={x(part.x_m) - 4} y={y(part.z_m) - 4} width="8" height="8" rx="2" />
	{/each}
	{#if card.feed}<circle class="feed" cx={x(card.feed.x_m)} cy={y(card.feed.z_m)} r="3.5" />{/if}
</svg>

<style>
	svg {
		display: block;
		flex: none;
	}
	.earth {
		fill: var(--tape-wash);
		opacity: 0.6;
	}
	.pole {
		stroke: var(--core);
		stroke-width: 4;
	}
	.wire {
		stroke: var(--blueprint);
		stroke-width: 2;
		fill: none;
	}
	.part {
		fill: var(--copper);
	}
	.feed {
		fill: var(--copper-ink);
	}
</style>
