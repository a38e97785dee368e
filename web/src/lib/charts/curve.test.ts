import { expect, test } from 'vitest';

import { arcThrough, band, extent, lowest, path, swrWithGaps, valueAt } from './curve';

const same = (v: number) => v;
const f = [1, 2, 4];

test('values are read between points, and missing where a neighbour is and beyond the ends', () => {
	expect(valueAt(f, [10, 20, 40], 3)).toBe(30);
	expect([valueAt(f, [10, 20, 40], 1), valueAt(f, [10, 20, 40], 4)]).toEqual([10, 40]);
	// Beyond what was received there is no value, under whatever name it might be asked.
	expect([valueAt(f, [10, 20, 40], 0.9), valueAt(f, [10, 20, 40], 9)]).toEqual([null, null]);
	expect(valueAt(f, [10, null, 40], 1.5)).toBeNull();
	expect(valueAt([], [], 1)).toBeNull();
});

test('a gap of the sweep is no endless SWR', () => {
	const values = swrWithGaps({ swr: [2, null, 3, null], return_loss_db: [9, null, 6, 0] });
	expect(values).toEqual([2, NaN, 3, null]);
	expect(valueAt([1, 2, 3, 4], values, 1.5)).toBeNull();
	expect(extent([1, 2, 3], values.slice(0, 3), 1, 3)).toEqual([2, 3]);
	expect(path([1, 2, 3], values.slice(0, 3), same, same)).toBe('M1.0,2.0M3.0,3.0');
});

test('a gap breaks the path', () => {
	expect(path([1, 2, 3, 4], [1, 1, null, 2], same, same)).toBe('M1.0,1.0L2.0,1.0M4.0,2.0');
});

test('a fan with an endless edge runs along the top', () => {
	expect(band([1, 2], [1, 1], [2, null], same, same, 10)).toBe(
		'M1.0,1.0L2.0,1.0L2.0,10.0L1.0,2.0Z'
	);
});

test('extent over a stretch', () => {
	expect(extent(f, [10, 20, 40], 1.5, 5)).toEqual([20, 40]);
	expect(extent(f, [10, null, 40], 1, 5)).toEqual([10, Infinity]);
	expect(extent(f, [10, 20, 40], 5, 6)).toBeNull();
});

test('the lowest point', () => {
	expect(lowest(f, [3, 1, 2])).toBe(2);
	expect(lowest(f, [null, null, null])).toBeNull();
});

test('an arc goes the way its middle point says', () => {
	const [left, right] = [
		{ x: -1, y: 0 },
		{ x: 1, y: 0 }
	];
	expect(arcThrough(left, { x: 0, y: 1 }, right)).toBe('M-1.00,0.00A1.00,1.00 0 0 0 1.00,0.00');
	expect(arcThrough(left, { x: 0, y: -1 }, right)).toBe('M-1.00,0.00A1.00,1.00 0 0 1 1.00,0.00');
	expect(arcThrough(left, { x: 0, y: 3 }, right)).toContain(' 0 1 0 ');
	expect(arcThrough(left, { x: 0, y: 0 }, right)).toBe('M-1.00,0.00L1.00,0.00');
});
