import { expect, test } from 'vitest';

import type { Schemas } from '../lib/api/client';
import {
	differenceText,
	dipText,
	longerText,
	lowText,
	movesText,
	numberText,
	reasonText
} from './words';

test('numbers of an antenna with their units, in both worlds', () => {
	expect(numberText('m', 7.1, 'm')).toBe('7.1 m');
	expect(numberText('m', 3.048, 'ft')).toBe('10\' 0"');
	expect(numberText('deg', 120, 'm')).toBe('120°');
	expect(numberText('H', 4.98e-5, 'm')).toBe('49.8 µH');
	expect(numberText('share', 0.5, 'm')).toBe('50 %');
	expect(numberText('count', 8, 'm')).toBe('8');
});

const study = {
	compared_deg: [5, 10, 15, 20, 25],
	cuts: [
		{ key: 'this', elevation_deg: [], gain_dbi: [], compared_dbi: [-9.4, -3.7, -0.6, 1.5, 2.9] },
		{
			key: 'vertical',
			elevation_deg: [],
			gain_dbi: [],
			compared_dbi: [-7.7, -3.7, -2.3, -1.5, null]
		}
	],
	sketch: { dip_hz: 10.12e6 },
	dip_low_hz: 10.06e6,
	dip_high_hz: 10.18e6
} as unknown as Schemas['StudyOut'];

test('how low it goes, with what is not known', () => {
	expect(lowText(study, 'vertical')).toBe(
		'Against a quarter-wave on 16 radials: 1.7 dB less at 5°, as much at 10°, not known at 25°.'
	);
});

test('where it dips, and that it does not', () => {
	expect(dipText(study)).toContain('between 10.060 and 10.180 MHz, nine times in ten');
	expect(dipText({ ...study, dip_low_hz: null })).toContain('how far it strays is not known here');
	const none = { ...study, sketch: { ...study.sketch, dip_hz: null } };
	expect(dipText(none)).toBe('It has no dip in what is drawn.');
});

test('longer and shorter, higher and lower', () => {
	expect(longerText(0.021)).toBe('2.1 % longer');
	expect(longerText(-0.0001)).toBe('the same');
	expect(movesText(-6680)).toBe('6.7 kHz lower');
	expect(reasonText({ code: 'covering', longer: -0.018 })).toBe(
		'its covering makes it 1.8 % shorter'
	);
});

test('what differs from a recipe, and what cannot be told of it', () => {
	const labels = {
		height_m: { name: 'height_m', label: 'height', unit: 'm', least: 0.1, most: 200 } as const
	};
	const height = { name: 'height_m', there: 12, here: 4, moves_hz: -15e3 };
	expect(differenceText(height, labels, 'm')).toBe('height 4.0 m, not 12.0 m: 15 kHz lower');
	const soil = { name: 'soil', there: null, here: null, moves_hz: null };
	expect(differenceText(soil, {}, 'm')).toBe('other soil: what it moves is not known here');
});
