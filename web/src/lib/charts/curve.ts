/** Curves as drawn: reading between received points, and SVG paths of them. Nothing here computes radio. */

import { bisector } from 'd3-array';

type Values = (number | null)[];

const before = bisector<number, number>((at) => at).right;

/** The value between two received points; null where either has none, and outside what was received. */
export function valueAt(frequencyHz: (number | null)[], values: Values, hz: number): number | null {
	const at = frequencyHz as number[];
	const last = at.length - 1;
	if (last < 0) return null;
	const first = at[0] as number;
	const end = at[last] as number;
	// A frequency that went through text and back is at the edge still.
	if (hz < first * (1 - 1e-9) || hz > end * (1 + 1e-9)) return null;
	if (hz <= first) return values[0] ?? null;
	if (hz >= end) return values[last] ?? null;
	const right = before(at, hz);
	const low = at[right - 1] as number;
	const high = at[right] as number;
	const a = values[right - 1];
	const b = values[right];
	if (a === null || a === undefined || b === null || b === undefined) return null;
	if (Number.isNaN(a) || Number.isNaN(b)) return null;
	return a + ((b - a) * (hz - low)) / (high - low);
}

/** An SWR that has no value is endless, but for a gap of the sweep: there nothing was read. NaN marks it. */
export function swrWithGaps(curves: { swr: Values; return_loss_db: Values }): Values {
	return curves.swr.map((v, i) => (v === null && curves.return_loss_db[i] === null ? NaN : v));
}

/** Path of a curve; a null or a gap breaks it. */
export function path(x: (number | null)[], y: Values, toX: Scale, toY: Scale): string {
	let text = '';
	let pen = 'M';
	for (let i = 0; i < x.length; i++) {
		const at = x[i];
		const value = y[i];
		if (
			at === null ||
			at === undefined ||
			value === null ||
			value === undefined ||
			Number.isNaN(value)
		) {
			pen = 'M';
			continue;
		}
		text += `${pen}${toX(at).toFixed(1)},${toY(value).toFixed(1)}`;
		pen = 'L';
	}
	return text;
}

export type Scale = (value: number) => number;

/** Closed outline between two curves over the same frequencies; endless values run along the top. */
export function band(
	x: number[],
	low: Values,
	high: Values,
	toX: Scale,
	toY: Scale,
	top: number
): string {
	const there = x.map(
		(at, i) => `${toX(at).toFixed(1)},${toY(Math.min(low[i] ?? top, top)).toFixed(1)}`
	);
	const back = x.map(
		(at, i) => `${toX(at).toFixed(1)},${toY(Math.min(high[i] ?? top, top)).toFixed(1)}`
	);
	return `M${there.join('L')}L${back.reverse().join('L')}Z`;
}

/** Least and greatest of a received curve over a stretch of frequency. */
export function extent(
	frequencyHz: (number | null)[],
	values: Values,
	low: number,
	high: number
): [number, number] | null {
	let least = Infinity;
	let most = -Infinity;
	for (let i = 0; i < frequencyHz.length; i++) {
		const at = frequencyHz[i] as number;
		if (at < low || at > high) continue;
		const value = values[i];
		if (Number.isNaN(value)) continue;
		if (value === null || value === undefined) {
			most = Infinity;
			continue;
		}
		least = Math.min(least, value);
		most = Math.max(most, value);
	}
	return least === Infinity ? null : [least, most];
}

/** Where a received curve is lowest. */
export function lowest(frequencyHz: (number | null)[], values: Values): number | null {
	let best: number | null = null;
	let least = Infinity;
	values.forEach((value, i) => {
		if (value !== null && value < least) {
			least = value;
			best = frequencyHz[i] ?? null;
		}
	});
	return best;
}

interface Point {
	x: number;
	y: number;
}

/** SVG arc from one point through a second to a third; a straight line where they are on one. */
export function arcThrough(a: Point, b: Point, c: Point): string {
	const start = `M${a.x.toFixed(2)},${a.y.toFixed(2)}`;
	const end = `${c.x.toFixed(2)},${c.y.toFixed(2)}`;
	const cross = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
	const long = Math.hypot(c.x - a.x, c.y - a.y);
	if (Math.abs(cross) < 1e-6 || long < 0.5) return `${start}L${end}`;
	const radius =
		(Math.hypot(b.x - a.x, b.y - a.y) * Math.hypot(c.x - b.x, c.y - b.y) * long) /
		(2 * Math.abs(cross));
	// The middle point tells on which side of the chord the arc bulges, and whether past half a circle.
	const toA = { x: a.x - b.x, y: a.y - b.y };
	const toC = { x: c.x - b.x, y: c.y - b.y };
	const large = toA.x * toC.x + toA.y * toC.y > 0 ? 1 : 0;
	const sweep = cross > 0 ? 1 : 0;
	return `${start}A${radius.toFixed(2)},${radius.toFixed(2)} 0 ${large} ${sweep} ${end}`;
}
