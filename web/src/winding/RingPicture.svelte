<!-- @component
	A wound ring from the front, to scale: every turn with its number, twisted part, crossing, tails and where they go.
-->
<script lang="ts">
	import Picture from '../lib/charts/Picture.svelte';
	import { hue, type Point, type Winding, wireName } from './wound';

	interface Props {
		winding: Winding;
		/** Width and height in pixels. */
		size?: number;
		/** Turns already made while counting; all when left out. */
		made?: number;
	}

	let { winding, size = 400, made = Infinity }: Props = $props();

	const picture = $derived(winding.picture.kind === 'ring' ? winding.picture : null);
	const outer = $derived((picture?.outer_m ?? 0.06) / 2);
	// Room for the tails, and for what they are called.
	const scale = $derived((size / 2 - 30) / (outer * 1.25));
	const at = ({ x_m, y_m }: Point): [number, number] => [
		size / 2 + x_m * scale,
		size / 2 - y_m * scale
	];
	const line = (points: Point[]) =>
		points
			.map(
				(p, i) =>
					`${i ? 'L' : 'M'}${at(p)
						.map((v) => v.toFixed(1))
						.join(',')}`
			)
			.join('');
	/** The crossing bends aside, so that the eye can follow it. */
	const bend = (points: Point[]) => {
		const [a, b] = points.map(at) as [[number, number], [number, number]];
		const side = 0.16;
		const mid = [
			(a[0] + b[0]) / 2 + (b[1] - a[1]) * side,
			(a[1] + b[1]) / 2 - (b[0] - a[0]) * side
		];
		return `M${a.join(',')}Q${mid.join(',')} ${b.join(',')}`;
	};
	const wide = $derived(Math.max(1.6, (picture?.wire_m ?? 1e-3) * scale));
	const strokes = $derived(picture?.strokes ?? []);
	/** Where each turn's number stands: outside, at the end that leads into it; in the hole for the first and the crossed one. */
	const numbers = $derived.by(() => {
		const last = picture?.turns.length ?? 0;
		const every = last > 30 ? 5 : last > 20 ? 2 : 1;
		const seen: number[] = [];
		return strokes.flatMap((s) => {
			if (s.number === 0 || seen.includes(s.number)) return [];
			seen.push(s.number);
			if (s.number !== 1 && s.number !== last && s.number % every) return [];
			const inside = s.kind !== 'turn';
			const from = (inside ? s.points[s.points.length - 1] : s.points[0]) as Point;
			const radius = inside
				? Math.hypot(from.x_m, from.y_m) - (8 + wide / 2) / scale
				: outer + (10 + 1.5 * wide) / scale;
			const far = radius / Math.hypot(from.x_m, from.y_m);
			// Beside the wire that crosses, not on it.
			const aside = s.kind === 'cross' ? -11 / scale : 0;
			return [{ number: s.number, x_m: from.x_m * far + aside, y_m: from.y_m * far }];
		});
	});
	/** Wires twisted in a turn go round each other along its middle. */
	function twist(s: (typeof strokes)[number]): string | null {
		const turn = picture?.turns[s.number - 1];
		if (!picture?.twisted || !turn || turn.wires.length < 2) return null;
		const together = strokes.filter(
			(o) => o.number === s.number && o.points.length === s.points.length
		);
		if (together.length < 2) return null;
		const middle = s.points.map((_, i): [number, number] => {
			const all = together.map((o) => at(o.points[i] as Point));
			return [
				all.reduce((sum, p) => sum + p[0], 0) / all.length,
				all.reduce((sum, p) => sum + p[1], 0) / all.length
			];
		});
		const own = turn.wires.indexOf(s.wire);
		const text: string[] = [];
		for (let i = 1; i < middle.length; i += 1) {
			const [ax, ay] = middle[i - 1] as [number, number];
			const [bx, by] = middle[i] as [number, number];
			const long = Math.hypot(bx - ax, by - ay) || 1;
			const waves = Math.max(1, Math.round(long / (wide * 7)));
			for (let k = 0; k <= 24; k += 1) {
				const t = k / 24;
				const side = (wide / 2) * Math.cos(2 * Math.PI * (waves * t + own / turn.wires.length));
				text.push(
					`${text.length ? 'L' : 'M'}${(ax + (bx - ax) * t - ((by - ay) / long) * side).toFixed(1)},${(ay + (by - ay) * t + ((bx - ax) / long) * side).toFixed(1)}`
				);
			}
		}
		return text.join('');
	}
	const center = $derived(size / 2);
	/** Where a tail goes, by the ends that meet at each terminal. */
	const tails = $derived.by(() => {
		const named = strokes.flatMap((s) => {
			if (s.kind !== 'tail') return [];
			const end = s.number === 0 ? 'end' : 'start';
			const join = winding.joins.find((j) =>
				j.ends.some((e) => e.wire === s.wire && e.end === end)
			);
			const tip = (s.number === 0 ? s.points[s.points.length - 1] : s.points[0]) as Point;
			// Wires in hand end where the chart below says; here it is enough which end is which.
			const text = winding.turns.in_hand > 1 ? `${end}s` : join ? join.at || 'joint' : end;
			return [{ text, tip }];
		});
		// Tails of one terminal side by side are named once.
		return named.filter(
			(t, i) =>
				!named.some(
					(o, k) =>
						k < i &&
						o.text === t.text &&
						Math.hypot(o.tip.x_m - t.tip.x_m, o.tip.y_m - t.tip.y_m) <
							(winding.turns.in_hand > 1 ? 0.02 : 0.006)
				)
		);
	});
	/** Their names, beside the tips and beside each other. */
	const names = $derived.by(() => {
		const placed = tails
			.map(({ text, tip }) => {
				const [x, y] = at(tip);
				const half = 3.6 * text.length;
				return { text, half, x, y: Math.min(size - 4, Math.max(11, y > center ? y + 14 : y - 7)) };
			})
			.sort((a, b) => a.x - b.x);
		for (let round = 0; round < 4; round += 1) {
			placed.forEach((right, k) => {
				const left = placed[k - 1];
				if (!left || Math.abs(left.y - right.y) > 13) return;
				const over = left.x + left.half + 5 - (right.x - right.half);
				if (over <= 0) return;
				left.x -= over / 2;
				right.x += over / 2;
			});
		}
		return placed.map((n) => ({ ...n, x: Math.min(size - n.half, Math.max(n.half, n.x)) }));
	});
	const tap = $derived.by(() => {
		const after = winding.turns.tap_after;
		const stroke = after === null ? undefined : strokes.find((s) => s.number === after + 1);
		return stroke ? (stroke.points[0] as Point) : null;
	});
	const about = $derived(
		`${winding.turns.passes} turns on the ring, seen from the coax side${
			winding.turns.crosses_after ? `, crossing over after turn ${winding.turns.crosses_after}` : ''
		}`
	);
	const inner = $derived((picture?.inner_m ?? 0.03) / 2);
</script>

{#snippet drawing()}
	{#if picture}
		<svg width={size} height={size} viewBox="0 0 {size} {size}" role="img" aria-label={about}>
			<path
				class="core"
				fill-rule="evenodd"
				d="M{center - outer * scale},{center}a{outer * scale},{outer * scale} 0 1 0 {2 *
					outer *
					scale},0a{outer * scale},{outer * scale} 0 1 0 {-2 * outer * scale},0ZM{center -
					inner * scale},{center}a{inner * scale},{inner * scale} 0 1 0 {2 *
					inner *
					scale},0a{inner * scale},{inner * scale} 0 1 0 {-2 * inner * scale},0Z"
			/>
			{#each strokes as s, i (i)}
				<path
					class="wire"
					style:stroke="var(--{hue(s.wire)})"
					class:ghost={s.number > made || (s.number === 0 && made < winding.turns.passes)}
					stroke-width={wide}
					d={s.kind === 'cross' ? bend(s.points) : (twist(s) ?? line(s.points))}
				>
					<title>{wireName(s.wire)}{s.number ? `, turn ${s.number}` : ', end'}</title>
				</path>
			{/each}
			{#each numbers as n (n.number)}
				{@const [x, y] = at(n)}
				<text class="number" class:ghost={n.number > made} {x} y={y + 4} text-anchor="middle"
					>{n.number}</text
				>
			{/each}
			{#each names as n, i (i)}
				<text class="tail" x={n.x} y={n.y} text-anchor="middle">{n.text}</text>
			{/each}
			{#if tap}
				{@const [x, y] = at(tap)}
				<circle class="tap" cx={x} cy={y} r={Math.max(4, wide)} />
				<text class="tail" x={x + 8} y={y + 14}>tap</text>
			{/if}
			{#if winding.turns.crosses_after}
				{@const dx = -inner * scale * 0.42}
				<text class="told" x={center + dx} y={center - 2} text-anchor="middle">cross over</text>
				<text class="said" x={center + dx} y={center + 14} text-anchor="middle"
					>after {winding.turns.crosses_after}</text
				>
			{:else}
				<text class="said" x={center} y={center + 4} text-anchor="middle">straight round</text>
			{/if}
		</svg>
	{/if}
{/snippet}

{#if made === Infinity}
	<Picture title="Winding">{@render drawing()}</Picture>
{:else}
	{@render drawing()}
{/if}

<style>
	svg {
		display: block;
		max-width: 100%;
		height: auto;
	}
	.core {
		fill: var(--core);
		stroke: var(--core-edge);
	}
	.wire {
		fill: none;
		stroke-linecap: round;
		stroke-linejoin: round;
	}
	path.ghost {
		opacity: 0.16;
	}
	text.ghost {
		opacity: 0.3;
	}
	.number {
		font: var(--size-12) var(--mono);
		fill: var(--soft);
	}
	.tail {
		font-size: var(--size-12);
		font-weight: 600;
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 3px;
	}
	.tap {
		fill: var(--sheet);
		stroke: var(--ink);
		stroke-width: 2;
	}
	.told,
	.said {
		font-size: var(--size-12);
		fill: var(--ink);
		paint-order: stroke;
		stroke: var(--sheet);
		stroke-width: 4px;
	}
	.told {
		font-weight: 700;
	}
	/* Drawn smaller on a phone: its words stay as large as they can be read. */
	@media (max-width: 620px) {
		svg text,
		.told,
		.said,
		.number,
		.tail {
			font-size: 17px;
		}
	}
</style>
