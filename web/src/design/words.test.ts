import { expect, test } from 'vitest';

import type { Content } from '../lib/api/client';
import { designDifference, lineLoss, targetText } from './words';

test('a line says what its SWR adds, where it adds anything', () => {
	expect(lineLoss({ loss_db: 0.89, matched_loss_db: 0.885 })).toBe('loses 0.89 dB');
	expect(lineLoss({ loss_db: 1.33, matched_loss_db: 1 })).toBe('loses 1.33 dB, 0.33 by its SWR');
	expect(lineLoss({ loss_db: null, matched_loss_db: 1 })).toBe('');
});

test('a target says its edges and its limit', () => {
	expect(targetText({ label: '15 m', low_hz: 21e6, high_hz: 21.45e6, swr_limit: 2 })).toBe(
		'15 m (21.000 to 21.450 MHz, 2.00)'
	);
});

test('what became of a design, part by part', () => {
	const targets = [{ label: '15 m', low_hz: 21e6, high_hz: 21.45e6, swr_limit: 2 }];
	const coil = {
		kind: 'coil',
		key: 'coil',
		place: 'series',
		inductance_h: 2.28e-6,
		former_m: 0.032
	};
	const line = { kind: 'line', key: 'line', place: 'through', cable: 'foam-6', length_m: 10 };
	const a = { targets, elements: [coil, line] } as unknown as Content;
	const b = {
		targets: [{ ...targets[0], swr_limit: 1.5 }],
		elements: [
			{ ...coil, inductance_h: 2e-6 },
			{ kind: 'capacitor', key: 'c', place: 'shunt', capacitance_f: 1e-11 }
		]
	} as unknown as Content;
	expect(designDifference(a, a)).toEqual([]);
	expect(designDifference(a, b)).toEqual([
		'series coil 2.28 µH on 32 mm → 2.00 µH on 32 mm',
		'coax 10.0 m of foam-6 is gone',
		'shunt capacitor 10.0 pF is new',
		'for 15 m (21.000 to 21.450 MHz, 2.00) → for 15 m (21.000 to 21.450 MHz, 1.50)'
	]);
});
