import { expect, test } from 'vitest';

import { floorsOf } from './frame';

const floor = { any: 1.1, any_low: 1.08, any_high: 1.13 };
const bands = [{ label: '15 m', low_hz: 21e6, high_hz: 21.45e6 }];

test('a floor is drawn over its band, and only where both are known', () => {
	expect(floorsOf([{ label: '15 m', floor }], bands)).toEqual([
		{ low_hz: 21e6, high_hz: 21.45e6, swr: 1.1, low: 1.08, high: 1.13 }
	]);
	expect(floorsOf([{ label: '15 m', floor: null }], bands)).toEqual([]);
	expect(floorsOf([{ label: '12 m', floor }], bands)).toEqual([]);
});
