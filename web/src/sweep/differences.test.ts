import { expect, test } from 'vitest';

import { differences } from './differences';

const target = {
	label: '15 m',
	center_hz: 21.225e6,
	first_worst_swr: 44.1,
	second_worst_swr: 30.2,
	resistance_change_ohm: 1.23,
	reactance_change_ohm: -14.2
};
const found = {
	first_best_hz: 22.0e6,
	second_best_hz: 21.9e6,
	first_best_swr: 3.1,
	second_best_swr: 2.9,
	targets: [target]
};

test('the dip, and what R and X did, in a sentence each', () => {
	expect(differences(found)).toEqual([
		'The lowest SWR lies 100 kHz lower, at 21.900 MHz; SWR 3.10 → 2.90.',
		'15 m: worst SWR 44.1 → 30.2; at 21.225 MHz R 1.2 Ω more, X 14 Ω less.'
	]);
});

test('a dip that stays says so', () => {
	expect(differences({ ...found, second_best_hz: 22.0005e6 })[0]).toContain('stays at 22.000 MHz');
});

test('SWR alone has no R and X to compare; a sweep that does not reach says so', () => {
	const swr = { ...target, resistance_change_ohm: null, reactance_change_ohm: null };
	expect(differences({ ...found, targets: [swr] })[1]).toBe('15 m: worst SWR 44.1 → 30.2.');
	const short = { ...swr, second_worst_swr: null };
	expect(differences({ ...found, targets: [short] })[1]).toContain('does not reach');
});
