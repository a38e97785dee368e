import { expect, test } from 'vitest';

import { FULL, hornOf, ribbonOf, TOP } from './ribbon';

const loss = (kind: 'line' | 'tuner' | 'ground', watts: number) => ({
	key: kind,
	kind,
	watts,
	matched_w: null
});

test('the ribbon ends as thick as what goes up', () => {
	const found = ribbonOf([loss('tuner', 5), loss('line', 20), loss('ground', 15)], 100, 600);

	expect(found.end).toBeCloseTo(FULL * 0.6);
	expect(found.branches.map((b) => b.watts)).toEqual([5, 20, 15]);
	expect(found.branches[0]?.before).toBeCloseTo(TOP + FULL);
	expect(found.branches[1]?.before).toBeCloseTo(found.branches[0]!.after);
	expect(found.branches[2]?.after).toBeCloseTo(TOP + found.end);
});

test('what is next to nothing is not drawn, and names that would touch stand on two lines', () => {
	const many = [loss('tuner', 0.01), loss('line', 20), loss('ground', 15)];

	expect(ribbonOf(many, 100, 600).branches).toHaveLength(2);
	expect(ribbonOf(many, 100, 600).branches.map((b) => b.row)).toEqual([0, 0]);
	expect(ribbonOf(many, 100, 320).branches.map((b) => b.row)).toEqual([0, 1]);
});

test('branches lie inside the picture, each to the right of the one before', () => {
	const { branches } = ribbonOf(
		Array.from({ length: 9 }, () => loss('line', 5)),
		100,
		380
	);

	for (const [i, b] of branches.entries()) {
		expect(b.x).toBeGreaterThan(i ? branches[i - 1]!.x : 0);
		expect(b.x + 46).toBeLessThan(380);
		expect(hornOf(b)).not.toContain('NaN');
	}
});
