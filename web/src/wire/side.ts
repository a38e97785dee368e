/** Where things lie in the picture from the side: metres to pixels and back. Nothing here computes radio. */

import type { Schemas } from '../lib/api/client';

type Picture = Pick<Schemas['PictureOut'], 'wires' | 'supports'>;
type Seen = Schemas['WireSeenOut'];

export interface View {
	x: (metres: number) => number;
	z: (metres: number) => number;
	/** A length in pixels. */
	px: (metres: number) => number;
	xOf: (pixels: number) => number;
	zOf: (pixels: number) => number;
	/** The middle of what is shown, metres. */
	middle: number;
	/** A round length for a scale, metres. */
	metre: number;
}

const ASIDE = 46;
const ABOVE = 40;
const BELOW = 40;

/** A view that holds all wires and the ground, to one scale both ways. */
export function viewOf(picture: Picture, width: number, height: number): View {
	const x = picture.wires.flatMap((w) => w.x_m as number[]);
	const z = picture.wires.flatMap((w) => w.z_m as number[]);
	const left = Math.min(...x, 0);
	const right = Math.max(...x, 0);
	// A person stands beside a pole: no narrower than that.
	const span = Math.max(right - left, 4);
	const top = Math.max(...z, 3);
	const scale = Math.min((width - 2 * ASIDE) / span, (height - ABOVE - BELOW) / top);
	const middle = (left + right) / 2;
	const floor = height - BELOW;
	return {
		x: (m) => width / 2 + (m - middle) * scale,
		z: (m) => floor - m * scale,
		px: (m) => m * scale,
		xOf: (px) => middle + (px - width / 2) / scale,
		zOf: (px) => (floor - px) / scale,
		middle,
		metre: [1, 2, 5, 10, 20, 50].find((m) => m * scale >= 30) ?? 50
	};
}

/** A line through points. */
export function outline(xM: (number | null)[], zM: (number | null)[], view: View): string {
	return xM
		.map((x, i) => `${i ? 'L' : 'M'}${view.x(x ?? 0).toFixed(1)},${view.z(zM[i] ?? 0).toFixed(1)}`)
		.join('');
}

/** The stretches of a wire that carry more than so many volts below a height: where hands must not go. */
export function dangerous(wire: Seen, view: View, touchV: number, reachM: number): string {
	let text = '';
	let pen = 'M';
	wire.volts.forEach((volts, i) => {
		const z = wire.volts_z_m[i] ?? 0;
		if ((volts ?? 0) <= touchV || z > reachM) {
			pen = 'M';
			return;
		}
		text += `${pen}${view.x(wire.volts_x_m[i] ?? 0).toFixed(1)},${view.z(z).toFixed(1)}`;
		pen = 'L';
	});
	return text;
}

/** How wide a current swells at most, and how far a voltage stands off, in pixels. */
const SWELL = 22;
const STANDS_OFF = 26;

/**
 * Along a wire: its current as a swelling on both sides, or its voltage as a line that stands off on the upper side,
 * against the largest anywhere.
 */
export function swelling(wire: Seen, view: View, most: number, voltage = false): string {
	const x = (voltage ? wire.volts_x_m : wire.x_m) as number[];
	const z = (voltage ? wire.volts_z_m : wire.z_m) as number[];
	const sizes = (voltage ? wire.volts : wire.current_a) as number[];
	const n = x.length;
	if (n < 2) return '';
	const dx = view.x(x[n - 1] ?? 0) - view.x(x[0] ?? 0);
	const dz = view.z(z[n - 1] ?? 0) - view.z(z[0] ?? 0);
	const long = Math.hypot(dx, dz) || 1;
	// Upwards, or to the left of what stands upright.
	let across = { x: dz / long, z: -dx / long };
	if (across.z > 1e-9 || (Math.abs(across.z) <= 1e-9 && across.x > 0))
		across = { x: -across.x, z: -across.z };
	const off = (i: number, by: number) =>
		`${(view.x(x[i] ?? 0) + across.x * by).toFixed(1)},${(view.z(z[i] ?? 0) + across.z * by).toFixed(1)}`;
	const size = (i: number) => (sizes[i] ?? 0) / (most || 1);
	const all = Array.from({ length: n }, (_, i) => i);
	if (voltage) return all.map((i) => `${i ? 'L' : 'M'}${off(i, STANDS_OFF * size(i))}`).join('');
	const there = all.map((i) => `${i ? 'L' : 'M'}${off(i, SWELL * size(i))}`).join('');
	const back = all
		.reverse()
		.map((i) => `L${off(i, -SWELL * size(i))}`)
		.join('');
	return `${there}${back}Z`;
}
