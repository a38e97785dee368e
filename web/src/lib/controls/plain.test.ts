import { describe, expect, it } from 'vitest';

import { type Form, readPlain } from './plain.svelte';

// SI prefixes, and the international foot and inch (exact since 1959).
const frequency: Form = {
	units: { MHz: 1e6, kHz: 1e3, '': 1e6 },
	least: 1e4,
	most: 1e9,
	example: '21.2 MHz'
};
const length: Form = {
	units: { m: 1, cm: 0.01, ft: 0.3048, "'": 0.3048, in: 0.0254, '"': 0.0254 },
	least: 0,
	most: 1e300,
	example: '8.75 m'
};

describe('a number with one unit', () => {
	it.each([
		['10.237 MHz', frequency, 10.237e6],
		['10.237', frequency, 10.237e6],
		['10,23', frequency, 10.23e6],
		['10237kHz', frequency, 10.237e6],
		['.5 MHz', frequency, 5e5],
		['61.6 cm', length, 0.616],
		['3 ft', length, 0.9144],
		['2"', length, 0.0508],
		['0 m', length, 0]
	] as const)('%s', (text, form, value) => {
		expect(readPlain(text, form)).toBe(value);
	});

	it('of no unit is of the one that was chosen', () => {
		expect(readPlain('3', length, 'ft')).toBe(0.9144);
		expect(readPlain('3', length)).toBeNull();
	});

	it.each([
		['10,237', frequency],
		['14200', frequency],
		['10.237 MH', frequency],
		['−3 m', length],
		['8ft 3in', length],
		['1e3 m', length],
		['', length],
		['ten', length]
	] as const)('%s waits for the reader', (text, form) => {
		expect(readPlain(text, form)).toBeNull();
	});
});
