import { expect, test } from 'vitest';

import type { Entry, Finding, TrimFinding, TrimOut } from '../lib/api/client';
import {
	actText,
	entryText,
	foldsText,
	resonanceText,
	say,
	stopText,
	waysOn,
	whereText,
	whyText,
	type Next
} from './words';

const next: Next = {
	act: 'fold',
	per_leg_m: 0.088,
	exact_m: 0.117,
	low_m: 0.083,
	high_m: 0.15,
	by_ratio_m: 0.088,
	lands_hz: 24.75e6,
	lands_low_hz: 24.58e6,
	lands_high_hz: 24.92e6,
	moves: 0.75,
	moves_spread: 0.125,
	learned: false,
	held_by: 'caution',
	used: 1,
	apart: 0
};

const trim = {
	label: '12 m',
	target_hz: 24.94e6,
	low_hz: 24.89e6,
	high_hz: 24.99e6,
	swr_limit: 1.5,
	form: 'dipole',
	legs: 2,
	dip_hz: 24.7e6,
	lowest_swr: 1.3,
	next,
	too_high: null,
	without_folds: null,
	resonance: null,
	stop: null
} as unknown as TrimOut;

const finding = (code: TrimFinding['code'], values: Finding['values']): TrimFinding => ({
	code,
	grave: false,
	asks_again: false,
	values
});

test('what to do, and to what', () => {
	expect(actText('cut')).toBe('Cut off');
	expect(whereText(trim)).toBe('on EACH leg');
	expect(whereText({ ...trim, legs: 1, form: 'loop' })).toBe('of the loop');
});

test('the first fold falls short on purpose, and a cut is cautious', () => {
	expect(whyText(trim, next, 'm')).toContain(
		'The sum says 88 mm. A fold moves the dip about three'
	);
	const cut: Next = { ...next, act: 'cut', per_leg_m: 0.074 };
	expect(whyText(trim, cut, 'm')).toContain('so go 84 % of the way');
});

test('what was learnt is said, and what holds a cut back', () => {
	const learnt: Next = { ...next, learned: true, moves: 0.82 };
	expect(whyText(trim, learnt, 'm')).toContain('a centimetre folded moves the dip 82 %');
	const held: Next = { ...learnt, act: 'cut', held_by: 'bound' };
	expect(whyText(trim, held, 'm')).toContain('short of the target nine times out of ten');
	expect(whyText(trim, { ...next, act: 'splice' }, 'm')).toContain('wire has to come on');
});

test('reasons to stop, with this antenna’s numbers', () => {
	const stopped = (code: NonNullable<TrimOut['stop']>['code'], values: Finding['values']) =>
		stopText({ ...trim, stop: { code, grave: false, values } });
	expect(stopped('band_holds', { worst_swr: 1.38, off: -0.004 })).toContain(
		'12 m, 24.890 to 24.990 MHz, is within your limit of 1.50: at worst 1.38. The dip lies 100 kHz below 24.940 MHz'
	);
	expect(stopped('band_holds', { worst_swr: 1.38, off: null })).toContain('is not known');
	expect(stopped('dip_there', { off: 0.001 })).toContain('25 kHz above');
	expect(stopped('dip_there_edges_open', { off: 0 })).toContain('read the SWR at both its edges');
	expect(stopText(trim)).toBe('');
});

test('folds are left tied unless cutting them off helps', () => {
	const at = (dip_hz: number) =>
		foldsText({ ...trim, without_folds: { dip_hz, low_hz: 24.8e6, high_hz: 25.1e6 } });
	expect(at(24.95e6)).toContain('nearer still, to 24.950 MHz');
	expect(at(25.4e6)).toContain('Leave the folds tied');
	expect(foldsText(trim)).toBe('');
});

test('resonance and lowest SWR, apart and together', () => {
	const resonance = {
		frequency_hz: 24.7e6,
		resistance_ohm: 62,
		swr: 1.24,
		lowest_hz: 24.66e6,
		lowest_swr: 1.22,
		together: false,
		nearer: false
	};
	expect(resonanceText({ ...trim, resonance })).toContain('40 kHz lower');
	expect(resonanceText({ ...trim, resonance: { ...resonance, together: true } })).toContain(
		'fall together'
	);
});

test('every way on from a wire too short has its figure', () => {
	const too_high = {
		unfold_m: 0.03,
		splice_m: 0.021,
		coil_h: 0.16e-6,
		low_hz: 25.0e6,
		high_hz: 25.8e6,
		worst_swr: 1.9,
		band: null
	};
	expect(waysOn({ ...trim, too_high }, 'm')).toEqual([
		'Unfold 30 mm on each leg.',
		'Or splice 21 mm on each leg, and as much again as the joint takes up.',
		'Or load it: 0.160 µH at the feedpoint, half of it in each leg; it costs bandwidth and a little power.',
		'Or use it where it landed: 25.000 to 25.800 MHz are within 1.50, at worst 1.90 on 12 m.'
	]);
	const bare = { ...too_high, unfold_m: null, coil_h: null, low_hz: null, worst_swr: null };
	expect(waysOn({ ...trim, legs: 1, too_high: bare }, 'm')[0]).toMatch(/^Splice 21 mm, and/);
	expect(waysOn(trim, 'm')).toEqual([]);
});

test.each([
	['higher_band_first', { label: '12 m', this: '15 m' }, 'Trim 12 m first'],
	['check_first', { failed: 'no' }, 'Has it passed with a resistor'],
	['check_first', { failed: 'yes' }, 'Mend that first'],
	[
		'measure_again',
		{ leg_m: 5.92, expected_hz: 12.05e6, dip_hz: 24.2e6, slip: 'whole_for_leg' },
		'101 % away, and no site does that. It fits a whole wire put down as one leg'
	],
	['contradiction', { said: 'readings 1 and 2 contradict' }, 'Readings 1 and 2 contradict.'],
	['conditions_apart', { readings: 1 }, '1 reading under other conditions is kept apart'],
	[
		'unexplained_move',
		{ before_hz: 28.9e6, after_hz: 27.0e6, moved: -0.066, expected: -0.029, doubt: 0.011 },
		'the dip moved −6.6 %; what was done allows −2.9 %, give or take 1.1 %'
	],
	['set_aside', { alone_hz: 27.0e6 }, 'the reading at 27.000 MHz'],
	['in_place_too_high', { swr: 2.5, limit: 2 }, 'above your limit of 2.00'],
	['on_the_ground', {}, 'Hang it as it will be used'],
	['dip_above', { low_hz: 24.65e6, frequency_hz: 25.1e6 }, 'at 25.100 MHz tells how far'],
	['beyond_sweep', { side: 'above' }, 'Sweep further up'],
	['uneven', { by_m: 0.02 }, '20 mm longer than the other'],
	['poor_minimum', { swr: 2.4, side: 'unknown' }, 'cannot tell whether R is above or below'],
	['poor_minimum', { swr: 2.4, side: 'low', resistance_ohm: 21, height_m: 2.4 }, 'at 2.4 m'],
	[
		'poor_minimum',
		{ swr: 2.4, side: 'reactive', resistance_ohm: 53, reactance_ohm: -60 },
		'it is X, −60 Ω there'
	],
	['poor_minimum', { swr: 2.4, side: 'high', resistance_ohm: 120 }, 'the sweep alone cannot']
] as const)('%s is said', (code, values, words) => {
	expect(say(finding(code, values), 'm')).toContain(words);
});

test.each([
	[{ kind: 'hung', form: 'dipole', reach_m: [2.96] }, 'Hung: legs of 2.96 m'],
	[{ kind: 'cut', act: 'fold', per_leg_m: [0.088, 0.088] }, '88 mm a leg folded back'],
	[{ kind: 'cut', act: 'cut', per_leg_m: [0.05, 0.06] }, '50 mm and 60 mm cut off'],
	[{ kind: 'cut', act: 'cut_folds', per_leg_m: [] }, 'Folds cut off'],
	[
		{ kind: 'reading', reading: { kind: 'dip', dip_hz: 24.2e6, swr: 1.6 } },
		'Dip at 24.200 MHz, 1.60'
	],
	[
		{ kind: 'reading', reading: { kind: 'edges', swr: 2, low_hz: 24.1e6, high_hz: null } },
		'SWR 2.00 at 24.100 MHz'
	],
	[{ kind: 'bench_check', passed: false }, 'Did not pass on its resistor']
])('an entry in one line', (data, words) => {
	expect(entryText({ data, text: '' } as unknown as Entry, 'm')).toBe(words);
});
