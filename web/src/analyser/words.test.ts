import { expect, test } from 'vitest';

import type { AcquisitionFinding, CalibrationFinding } from '../lib/api/client';
import { ageText, residualText, say } from './words';

type Code = AcquisitionFinding['code'] | CalibrationFinding['code'];

const found = (code: Code, values: Record<string, number | string | null> = {}) => ({
	code,
	grave: false,
	values
});

test('a dip outside the window is told by the edge that SWR falls towards, or by the sign of X', () => {
	expect(say(found('no_dip', { where: 'below', swr: 4.2, falls: 'yes' }))).toContain(
		'falls towards its lower edge, so the dip lies below it'
	);
	expect(say(found('no_dip', { where: 'above', swr: 44, falls: 'no' }))).toContain(
		'X is capacitive, so the next resonance lies above'
	);
	expect(say(found('no_dip', { where: 'above', swr: null, falls: 'no' }))).toContain('capacitive');
	expect(say(found('dip_elsewhere', { frequency_hz: 24.34e6 }))).toContain('24.340 MHz');
});

test('slips with standards name both of them', () => {
	expect(say(found('left_on', { first: 'short', second: 'open' }))).toContain(
		'The short and the open gave the same curve'
	);
	expect(say(found('swapped', { first: 'load', second: 'open' }))).toContain('look exchanged');
});

test('one pass is one pass', () => {
	expect(say(found('kept_passes', { passes: 1 }))).toContain('1 whole pass before');
	expect(say(found('kept_passes', { passes: 3 }))).toContain('3 whole passes before');
});

test('a residual in words: 40 dB is 1 % of the chart and 2 % of an impedance near 50 Ω', () => {
	expect(residualText(-40, 'fair')).toContain('within 1.0 % of the chart');
	expect(residualText(-40, 'fair')).toContain('off by up to 2.0 %');
	expect(residualText(-25, 'moved')).toContain('calibrate again');
	expect(residualText(-60, 'as_good')).toContain('As good as such a load is');
	// A resistor of 25 Ω in its place is no loose connector.
	expect(residualText(-9.5, 'no_load')).toContain('not the load that was calibrated with');
});

test('the age of a calibration', () => {
	expect([0.01, 0.5, 3.25, 100].map(ageText)).toEqual([
		'just now',
		'30 min ago',
		'3.3 h ago',
		'4 days ago'
	]);
});
