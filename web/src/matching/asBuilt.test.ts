import { expect, test } from 'vitest';

import type { Content } from '../lib/api/client';
import {
	changeText,
	claimText,
	explained,
	type Fit,
	headline,
	nextReading,
	valueText
} from './asBuilt';

const content = {
	elements: [
		{ kind: 'coax_capacitor', key: 'capacitor', place: 'shunt', capacitance_f: 7e-12 },
		{ kind: 'coil', key: 'coil', place: 'series', inductance_h: 3e-6 }
	]
} as unknown as Content;
const short = { key: 'coil', what: 'turns', by: -1 } as const;
const cut = { key: 'capacitor', what: 'length', by: 0.005 } as const;

function fit(changes: Partial<Fit>): Fit {
	return {
		state: 'as_planned',
		odds: [{ slip: null, odds: 0.95 }],
		untold: [],
		alike: [],
		measure: null,
		change: null,
		other_plane: false,
		...changes
	} as unknown as Fit;
}

test('a slip is said in the words of the bench', () => {
	const found = fit({ state: 'slipped', odds: [{ slip: short, odds: 0.97 }] });
	expect(headline(found, content)).toBe('The coil is a turn short');
	expect(claimText(found, short, content)).toBe('Yes: the coil is a turn short, 97 %.');
	expect(claimText(found, cut, content)).toBe('No: 0 % for it; rather the coil is a turn short.');
});

test('what cannot be told says what it may be, and what would tell', () => {
	const found = fit({
		state: 'cannot_tell',
		odds: [
			{ slip: null, odds: 0.6 },
			{ slip: cut, odds: 0.3 }
		],
		untold: ['capacitor'],
		measure: 'capacitor'
	});
	expect(headline(found, content)).toBe('Cannot tell');
	expect(explained(found, content)).toEqual([
		'As planned, 60 %; or the coax C is cut 5 mm long, 30 %.',
		'The curve says next to nothing of the coax C.'
	]);
	expect(nextReading(found, content)).toBe('Sweep the coax C alone: that would tell most.');
	expect(claimText(found, cut, content)).toBe('Cannot tell: 30 % for it.');
});

test('a sweep of the wrong plane, and one of something else', () => {
	expect(headline(fit({ state: 'no_match', other_plane: true }), content)).toBe(
		'Swept at the other end'
	);
	expect(headline(fit({ state: 'no_match' }), content)).toBe('Like nothing this design shows');
});

test('a change says from what to what, and what it buys', () => {
	const change = {
		key: 'coil',
		value_from: 2.5e-6,
		value_to: 3e-6,
		worst_now: 2.8,
		worst_then: 1.17,
		holds_now: 0,
		holds_then: 1
	};
	expect(changeText(fit({ change }), content)).toBe(
		'The coil from 2.50 µH to 3.00 µH: worst SWR 2.80 → 1.17, 100 % of what it may be then holds, now 0 %.'
	);
	expect(changeText(fit({}), content)).toBeNull();
});

test('values carry their unit or how far they are off', () => {
	const value = {
		element: 'coil',
		planned: 3e-6,
		found: 2.9e-6,
		low: 2.8e-6,
		high: 3e-6,
		known: 0.5
	};
	expect(valueText({ ...value, field: 'value', unit: 'H' }).range).toBe('2.80 µH to 3.00 µH');
	const off = { ...value, planned: 0, found: -0.012, low: -0.02, high: 0.001 };
	expect(valueText({ ...off, field: 'size', unit: 'share' })).toMatchObject({
		found: '−1.2 %',
		range: '−2.0 % to +0.1 %'
	});
	expect(valueText({ ...off, found: 1.25, field: 'trap', unit: 'sd' }).found).toBe('+1.3 σ');
});
