import { expect, test } from 'vitest';

import { fitHeadline, fitSentences, movedText, type WireFit } from './fitWords';

const value = (more: Partial<WireFit['values'][number]>) => ({
	name: 'length',
	field: 'leg_m',
	planned: 2.9,
	found: 2.95,
	low: 2.94,
	high: 2.96,
	sigmas: 1.7,
	known: 0.2,
	...more
});
const fit = (more: Partial<WireFit>) =>
	({
		state: 'moved',
		values: [value({})],
		untold: [],
		together: [],
		wider: false,
		measure: null,
		...more
	}) as WireFit;

test('what cannot be told is said, and what would tell', () => {
	const found = fit({
		untold: ['ground'],
		together: [{ one: 'length', other: 'coil' }],
		wider: true
	});
	expect(fitHeadline(found)).toBe('It hangs otherwise than planned');
	expect(fitSentences(found)).toEqual([
		'Cannot tell: ground. The sweep says next to nothing of it.',
		'Length and coil are told only together: they move this curve alike.',
		'A sweep from a fifth below to a fifth above would tell them apart.'
	]);
	expect(fitSentences(fit({ measure: 'height' }))).toEqual([
		'Measure the height by itself: that would tell most.'
	]);
});

test('what lies too far off is named, another antenna is not described', () => {
	const far = [value({}), value({ name: 'trap', sigmas: -4.2 })];
	expect(fitSentences(fit({ state: 'far_off', values: far }))[0]).toContain(
		'The trap would have to be'
	);
	expect(fitHeadline(fit({ state: 'no_match' }))).toBe('Like nothing this antenna shows');
	expect(fitSentences(fit({ state: 'no_match' }))).toHaveLength(1);
});

test('each value has its unit', () => {
	expect(movedText(value({}), 'm')).toMatchObject({
		name: 'length',
		planned: '2.9 m',
		found: '2.95 m'
	});
	expect(movedText(value({ name: 'coil', field: 'inductance_h', found: 5e-5 }), 'm').found).toBe(
		'50.0 µH'
	);
	expect(movedText(value({ name: 'covering', field: 'stock', found: 0.0012 }), 'm').found).toBe(
		'2.4 mm'
	);
	expect(movedText(value({ name: 'radials', field: 'ground_ohm', found: 17.5 }), 'm').found).toBe(
		'17.5 Ω'
	);
	expect(movedText(value({ name: 'trap', field: 'trap_hz', found: 24.9e6 }), 'm').found).toBe(
		'24.900 MHz'
	);
	expect(movedText(value({ name: 'ground', field: 'ground', found: 0.005 }), 'm').found).toBe(
		'5.0 mS/m'
	);
});
