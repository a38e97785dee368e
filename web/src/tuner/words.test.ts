import { expect, test } from 'vitest';

import { type Advice, dialsToldText, expectedText, standingText, turnText } from './words';

const advice = (more: Partial<Advice>): Advice => ({
	kind: 'turn',
	swr: 3.2,
	worst_swr: 4,
	control: 'coil',
	to: 0.82e-6,
	side: null,
	more: false,
	expected_swr: 1.8,
	best_swr: 1,
	moves: 1,
	dials: [],
	...more
});

const dials = { side: 'tee' as const, output_f: 80e-12, coil_h: 2e-6, input_f: 80e-12 };

test('which knob, which way, how far', () => {
	expect(turnText(advice({}), dials)).toBe('Turn the coil: less, to about 0.820 µH.');
	expect(turnText(advice({ control: 'input', to: 182e-12, more: true }), dials)).toBe(
		'Turn the radio capacitor: more, to about 182 pF.'
	);
	expect(turnText(advice({ control: 'switch', to: null, side: 'radio' }), dials)).toContain(
		"the radio's side"
	);
	expect(turnText(advice({ control: null }), dials)).toBe('');
});

test('a turn finer than three figures is told with four', () => {
	const finer = advice({ control: 'output', to: 237.9e-12, more: true });
	expect(turnText(finer, { ...dials, output_f: 237.6e-12 })).toBe(
		'Turn the antenna capacitor: more, to about 237.9 pF.'
	);
});

test('what should then be read, and that it may get worse in between', () => {
	expect(expectedText(advice({}))).toBe('It should then read 1.80 or less, nine times in ten.');
	expect(expectedText(advice({ moves: 3 }))).toContain('2 more turns should follow');
	expect(expectedText(advice({ moves: 2 }))).toContain(
		'in between it may read worse: 1.80 or less'
	);
});

test('where one stands', () => {
	expect(standingText(advice({ kind: 'nothing_moved' }), 'middle')).toContain('in line?');
	expect(standingText(advice({ kind: 'compromise', best_swr: 1.9 }), 'band')).toContain(
		'compromise'
	);
	expect(standingText(advice({ kind: 'cannot', best_swr: 2.4 }), 'middle')).toContain('2.40 : 1');
	expect(standingText(advice({}), 'middle')).toContain('3.20 : 1 in the middle');
	expect(standingText(advice({ best_swr: 1.7 }), 'band')).toContain('1.70 can be held');
});

test('a dial is told only once it is known', () => {
	const dials = [
		{ control: 'coil' as const, error: 0.1, doubt: 0.01, known: true },
		{ control: 'input' as const, error: 0.1, doubt: 0.08, known: false }
	];

	expect(dialsToldText(advice({ dials }))).toBe(
		'By the sweeps so far the coil has 10 % more than its dial says.'
	);
	expect(dialsToldText(advice({}))).toBe('');
});
