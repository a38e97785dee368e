/** Where the parts of a box lie when it is drawn: posts above and at the left, the socket below; pure. */

import type { Sheet } from './sheetWords';

type Box = NonNullable<Sheet['box']>;
export type BoxPart = Box['parts'][number];

export interface Placed {
	part: BoxPart;
	/** Middle of it, and how much of the rail it takes to either side. */
	y: number;
	half: number;
}

export interface Layout {
	height: number;
	parts: Placed[];
	/** Stretches of bare wire from y to y, of the hot rail and of the cold one. */
	hot: [number, number][];
	cold: [number, number][];
	top: number;
	bottom: number;
}

/** Of what is passed through both rails stop; of what lies in series the hot one. */
const ROW: Record<string, number> = { transformer: 116, section: 64, series: 58, shunt: 46 };
const HALF: Record<string, number> = { transformer: 44, section: 18, series: 20, shunt: 0 };

/** Whether its two sides share no ground. */
export const isApart = (part: BoxPart): boolean =>
	part.place === 'through' && part.between[1] !== part.between[3];

/** Rows from the posts down to the socket, and the bare wire between them. */
export function layout(box: Box): Layout {
	const top = 30;
	let y = top + 26;
	const parts = box.parts.map((part): Placed => {
		const kind = part.kind === 'transformer' || part.kind === 'section' ? part.kind : part.place;
		const row = ROW[kind] ?? 50;
		const placed = { part, y: y + row / 2, half: HALF[kind] ?? 0 };
		y += row;
		return placed;
	});
	const bottom = y + 26;
	const rail = (gaps: Placed[]): [number, number][] => {
		const from = [top, ...gaps.map((p) => p.y + p.half)];
		const to = [...gaps.map((p) => p.y - p.half), bottom];
		return from.map((start, i) => [start, to[i] ?? bottom]);
	};
	return {
		height: bottom + 34,
		parts,
		hot: rail(parts.filter((p) => p.part.place !== 'shunt')),
		cold: rail(parts.filter((p) => isApart(p.part))),
		top,
		bottom
	};
}
