import { describe, expect, it } from 'vitest';

import { ago, left } from './words';

const now = new Date('2026-11-30T10:00:00Z');

describe('words of devices', () => {
	it('says how long ago', () => {
		const said = ['2026-11-30T10:00:20Z', '2026-11-30T09:30:00Z', '2026-11-30T05:00:00Z'];
		expect(said.map((then) => ago(then, now))).toEqual(['just now', '30 min ago', '5 h ago']);
		expect(ago('2026-11-20T10:00:00Z', now)).toBe('10 days ago');
	});

	it('counts a code down to its end', () => {
		expect(left('2026-11-30T10:04:59.2Z', now)).toBe('5:00');
		expect(left('2026-11-30T10:00:08Z', now)).toBe('0:08');
		expect(left('2026-11-30T10:00:00Z', now)).toBeNull();
	});
});
