import { expect, it } from 'vitest';

import { batchText, sourceText, type Step, stepText, type Thing, thingText } from './sheetWords';

const step = (code: Step['code'], values: Step['values'], more: Partial<Step> = {}): Step => ({
	key: code,
	code,
	part: 'unun',
	values,
	cuts: [],
	cautions: [],
	...more
});

it('says how passes go on, where they cross over, and that there are as many in all', () => {
	const on = step('wind_on', { turns: 16, from: 2, crosses_after: 8 });
	expect(stepText(on, 'm').title).toBe('6 more, cross over, 8 on the other half');
	expect(stepText(step('wind_on', { turns: 14, from: 2, crosses_after: null }), 'm').title).toBe(
		'12 more, straight round'
	);
	expect(stepText(step('wind_ring', { turns: 11, crosses_after: 6 }), 'm').title).toBe(
		'6 passes, cross over, 5 on the other half'
	);
});

it('lists what is cut in the unit that is chosen', () => {
	const cut = step(
		'cut',
		{ tail_m: 0.045, spare_turns: 0 },
		{
			cuts: [
				{ name: 'long', length_m: 1.061, count: 1 },
				{ name: 'primary', length_m: 0.22, count: 1 }
			]
		}
	);
	expect(stepText(cut, 'm').title).toBe('Cut for the unun: long wire 106.1 cm, short wire 22 cm');
	expect(stepText(cut, 'ft').title).toContain('3\' 5 3/4"');
});

it('tells a part alone by what the bench should read', () => {
	const coil = step('bench_part', {
		what: 'inductance',
		kind: 'coil',
		at_hz: 5.39e6,
		value: 54.6e-6,
		low: 52e-6,
		high: 57e-6
	});
	expect(stepText(coil, 'm').more).toContain(
		'at 5.390 MHz it reads 54.6 µH; nineteen right ones in twenty show 52 µH to 57 µH'
	);
	const set = { ...coil, values: { ...coil.values, wanted_h: 53e-6 } };
	expect(stepText(set, 'm').more).toContain(
		'until it reads 53.0 µH at 5.390 MHz (as wound about 54.6 µH)'
	);
	const trap = step('bench_part', {
		what: 'resistance',
		kind: 'trap',
		at_hz: 24.4e6,
		housed_hz: 24.2e6
	});
	expect(stepText(trap, 'm').more).toContain('24.400 MHz; housed it comes to 24.200');
});

const thing = (more: Partial<Thing>): Thing => ({
	kind: 'ring',
	name: 'FT240-43',
	part: 'unun',
	count: 1,
	length_m: null,
	traits: {},
	source: 'buy',
	have: null,
	price: '',
	...more
});

it('counts what there is more than one of, and says what is short', () => {
	expect(thingText(thing({}), 'm')).toEqual({ much: '', what: 'ring FT240-43' });
	expect(thingText(thing({ count: 10 }), 'm').much).toBe('10 ×');
	expect(
		thingText(thing({ kind: 'wire', name: '1.0 mm', count: 2, length_m: 0.22 }), 'm').much
	).toBe('2 × 22 cm');
	expect(sourceText(thing({ count: 10, source: 'too_few', have: 3, price: '8.40' }))).toBe(
		'3 in the drawer, 7 to buy, 8.40'
	);
});

it('asks for a first one where all of them stray together', () => {
	expect(batchText({ builds: 10, expected: 7.7, low: 0, high: 10, first_alone: true })).toContain(
		'make one, sweep it'
	);
	expect(
		batchText({ builds: 10, expected: 9.2, low: 8, high: 10, first_alone: false })
	).not.toContain('make one');
	expect(batchText({ builds: 10, expected: 10, low: 10, high: 10, first_alone: false })).toBe(
		'About 10 of 10 will hold their bands.'
	);
});
