import { expect, test } from 'vitest';

import type { BenchFinding, FaultCode } from '../lib/api/client';
import {
	benchRange,
	explained,
	faultName,
	headline,
	remedy,
	setupWords,
	type Verdict
} from './verdict';

const stated = (
	code: FaultCode,
	values: Record<string, number | string> = {},
	counts: number[] = []
) => ({ code, values, share: 0.5, counts });
const bench = (code: BenchFinding['code']): BenchFinding => ({ code, grave: false, values: {} });
const of = (changes: Partial<Verdict>): Verdict => ({
	says: 'named',
	passed: true,
	stated: [stated('right')],
	hidden: [],
	next_setup: null,
	measured: [],
	residual_db: 50,
	findings: [],
	...changes
});

test('right is right, unless a turn hides in the spread of the core', () => {
	expect(headline(of({}))).toBe('Right');
	const choke = of({ hidden: [stated('turn_more'), stated('turn_less')], next_setup: 'link' });
	expect(headline(choke)).toBe('Right, but for a turn');
	expect(explained(choke).join(' ')).toContain('within the spread of the core');
	expect(explained(choke).join(' ')).not.toContain('count the turns');
	expect(explained({ ...choke, next_setup: null }).join(' ')).toContain('count the turns');
});

test('two that look alike are both named, and neither is accused where right is one of them', () => {
	const apart = of({
		says: 'apart',
		passed: null,
		stated: [stated('right'), stated('one_ring')]
	});
	expect(headline(apart)).toBe('Cannot tell');
	expect(explained(apart)[0]).toBe(
		'It is wound as planned or one ring instead of the stack; this sweep cannot tell which.'
	);
	const wrong = of({
		says: 'apart',
		passed: false,
		stated: [stated('tap_more', { turns: 3 }), stated('turn_less', { turns: 15 })]
	});
	expect(headline(wrong)).toBe('Wrong, in one of these ways');
});

test('an antenna and something unheard of are told apart', () => {
	const strange = of({ says: 'strange', passed: false, stated: [] });
	expect(headline(strange)).toBe('Like nothing expected');
	const antenna = { ...strange, findings: [bench('like_an_antenna')] };
	expect(headline(antenna)).toBe('An antenna, not the winding');
	expect(explained(antenna)[0]).toContain('put the resistor on');
});

test('a narrow sweep and hidden mixes are said', () => {
	const text = explained(
		of({
			hidden: [stated('other_mix', { mix: '44' })],
			findings: [bench('narrow_sweep')]
		})
	).join(' ');
	expect(text).toContain('mix 44');
	expect(text).toContain('less than an octave');
});

test.each([
	['turn_more', { turns: 17 }, 'a turn too many (17)'],
	['capacitor_wrong', { capacitance_f: 465e-12 }, 'a wrong capacitor, near 465 pF'],
	['other_turns', { turns: 4 }, 'quite another count of turns (4)'],
	['value_off', { inductance_h: 2.5e-6 }, 'a coil of another value, 2.50 µH, on the right turns'],
	['cracked_core', { gap_m: 1.2e-4 }, 'a cracked ring, as if 0.12 mm of air lay in its path'],
	['other_mix', { mix: '61' }, 'a core of another mix, like 61']
] as [FaultCode, Record<string, number | string>, string][])(
	'%s is named as one says it',
	(code, values, name) => {
		expect(faultName(stated(code, values))).toBe(name);
		expect(remedy(code).length).toBeGreaterThan(20);
	}
);

test('of turns that may be several, all are said', () => {
	const few = stated('turn_less', { turns: 8 }, [6, 7, 8]);
	expect(faultName(few)).toBe('other turns than planned (6, 7 or 8)');
	expect(faultName(stated('turn_less', { turns: 8 }, [8]))).toBe('a turn too few (8)');
});

test('every set-up says what to join', () => {
	const setup = (key: string, resistor_ohm: number | null, link_turns: number | null = null) => ({
		key,
		resistor_ohm,
		link_turns
	});
	expect(setupWords(setup('resistor', 3200), 'transformer').title).toBe('on 3.20 kΩ');
	expect(setupWords(setup('link', null, 3), 'choke').title).toBe('3 turns of your own beside it');
	expect(setupWords(setup('alone', null), 'choke').hint).toContain('Braid to braid');
	expect(setupWords(setup('alone', null), 'pair').hint).toContain('All starts joined');
});

test('a trap is swept round its resonance', () => {
	const [low, high] = benchRange('trap', 24e6);
	expect(low).toBeLessThan(24e6 / 1.2);
	expect(high).toBeGreaterThan(1.2 * 24e6);
	expect(benchRange('transformer', null)).toEqual([1.8e6, 30e6]);
});
