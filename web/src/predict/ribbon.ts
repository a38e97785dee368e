/** The ribbon of a band from the radio to the sky: where it narrows, and where what is lost branches off; pure. */

import type { Schemas } from '../lib/api/client';

type Loss = Schemas['LossOut'];

export interface Branch {
	key: string;
	kind: Loss['kind'];
	watts: number;
	/** Middle of where it leaves, its width, and the ribbon's lower edge before and after it. */
	x: number;
	width: number;
	before: number;
	after: number;
	/** Which line of names under the ribbon it stands on. */
	row: number;
}

export interface Ribbon {
	body: string;
	branches: Branch[];
	/** Thickness at the sky's end. */
	end: number;
}

/** Thickness of all the power, and the top edge. */
export const FULL = 34;
export const TOP = 22;
/** Room that a name takes beside the next one. */
const NAME = 148;
/** Less than this share of the power is told in the table only. */
const LEAST = 0.003;

/** From the radio at the left to the sky at the right, in a picture so wide. */
export function ribbonOf(losses: Loss[], powerW: number, width: number): Ribbon {
	const told = losses.filter((l) => (l.watts ?? 0) > LEAST * powerW);
	const step = (width - 90) / Math.max(1, told.length + 0.4);
	const thick = (w: number) => (FULL * w) / powerW;
	let left = powerW;
	const branches = told.map((loss, i): Branch => {
		const watts = loss.watts ?? 0;
		const before = TOP + thick(left);
		left -= watts;
		return {
			key: loss.key,
			kind: loss.kind,
			watts,
			x: 34 + step * (i + 0.45),
			width: Math.max(2, thick(watts)),
			before,
			after: TOP + thick(left),
			row: step < NAME ? i % 2 : 0
		};
	});
	let edge = `M0,${TOP}H${width}V${TOP + thick(left)}`;
	for (const b of [...branches].reverse()) {
		edge += `H${b.x + 46}C${b.x + 26},${b.after} ${b.x + 22},${b.before} ${b.x},${b.before}`;
	}
	return { body: `${edge}H0Z`, branches, end: thick(left) };
}

/** What leaves at a branch, as a horn that bends down. */
export function hornOf(b: Branch): string {
	const half = b.width / 2;
	const foot = b.before + 15;
	return (
		`M${b.x - 10},${b.before - 0.5}C${b.x - half},${b.before} ${b.x - half},${b.before + 6} ${b.x - half},${foot}` +
		`H${b.x + half}C${b.x + half},${b.before + 4} ${b.x + half + 8},${b.after + 1} ${b.x + 34},${b.after - 0.5}Z`
	);
}
