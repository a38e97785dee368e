import { expect, test } from 'vitest';

import { dangerous, outline, swelling, viewOf } from './side';

const level = {
	x_m: [-7, 0, 7],
	z_m: [8, 8, 8],
	current_a: [0, 1.6, 0],
	phase: [1, 1, 1],
	volts_x_m: [-6, 0, 6],
	volts_z_m: [8, 8, 8],
	volts: [860, 80, 860]
};
const mast = {
	...level,
	x_m: [0, 0],
	z_m: [0, 4],
	current_a: [1, 0],
	volts_x_m: [0, 0, 0],
	volts_z_m: [0.5, 2, 3.5],
	volts: [20, 400, 900]
};

test('all of an antenna lies in view, to one scale both ways, and comes back from pixels', () => {
	const view = viewOf({ wires: [level], supports: [] }, 640, 300);
	expect(view.x(7)).toBeLessThan(640);
	expect(view.x(-7)).toBeGreaterThan(0);
	expect(view.z(8)).toBeGreaterThan(0);
	expect(view.z(0)).toBeLessThan(300);
	expect(view.x(1) - view.x(0)).toBeCloseTo(view.z(0) - view.z(1));
	expect(view.xOf(view.x(3.2))).toBeCloseTo(3.2);
	expect(view.zOf(view.z(5.1))).toBeCloseTo(5.1);
	expect(view.px(view.metre)).toBeGreaterThanOrEqual(30);
});

test('a current swells both sides of its wire, a voltage stands off above it or at its left', () => {
	const view = viewOf({ wires: [level], supports: [] }, 640, 300);
	const swell = swelling(level, view, 1.6);
	expect(swell).toContain('Z');
	const heights = [...swell.matchAll(/,(-?[\d.]+)/g)].map((m) => Number(m[1]));
	expect(Math.min(...heights)).toBeLessThan(view.z(8));
	expect(Math.max(...heights)).toBeGreaterThan(view.z(8));
	const volts = [...swelling(level, view, 860, true).matchAll(/,(-?[\d.]+)/g)].map((m) =>
		Number(m[1])
	);
	expect(Math.max(...volts)).toBeLessThanOrEqual(view.z(8));
	const upright = viewOf({ wires: [mast], supports: [] }, 640, 300);
	const left = [...swelling(mast, upright, 900, true).matchAll(/[ML](-?[\d.]+),/g)].map((m) =>
		Number(m[1])
	);
	expect(Math.max(...left)).toBeLessThanOrEqual(upright.x(0));
	expect(outline(mast.x_m, mast.z_m, upright)).toMatch(/^M.*L/);
});

test('only what hands reach and what burns is marked', () => {
	const view = viewOf({ wires: [mast], supports: [] }, 640, 300);
	expect(dangerous(mast, view, 50, 2.5)).toBe(`M${view.x(0).toFixed(1)},${view.z(2).toFixed(1)}`);
	expect(dangerous(level, view, 50, 2.5)).toBe('');
});
