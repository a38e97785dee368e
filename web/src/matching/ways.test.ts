import { expect, test } from 'vitest';

import type { Content, Way, WayPart } from '../lib/api/client';
import { drawnOf, inSmall } from './schematic';
import { idealText, made, purpose, shopping, wayName, worstOf } from './ways';

const part = (
	place: WayPart['place'],
	kind: WayPart['kind'],
	value: number,
	make: number | null = null
): WayPart => ({
	key: kind,
	place,
	kind,
	value,
	make,
	quarter_wave: kind !== 'coil' && Math.abs(value - 90) < 5
});
const coil = part('series', 'coil', 2.28e-6, 7.5);
const shunt = part('shunt', 'capacitor', 6.5e-12);

test.each([
	['none', [], 'No match at all'],
	['one', [coil], 'Coil in series'],
	['l', [shunt, coil], 'Coil in series, C across the wire'],
	['l', [coil, shunt], 'Coil in series, C across the coax'],
	['tee', [coil, shunt, coil], 'T: coil, C, coil'],
	['section', [part('through', 'section', 91)], 'Quarter-wave of coax'],
	['section', [part('through', 'section', 60)], 'Length of coax'],
	['section', [part('through', 'pair', 88)], 'Quarter-wave of coax, two side by side'],
	['stub', [part('through', 'section', 60), part('shunt', 'stub', 40)], 'Coax and a stub'],
	['transformer_and', [coil, part('through', 'transformer', 2)], 'Unun, coil in series'],
	['transformer_and', [part('through', 'transformer', 2), coil], 'Unun, coil in series below it']
] as const)('a %s of %j is called %s', (family, parts, name) => {
	expect(wayName({ family, parts: [...parts] })).toBe(name);
	expect(purpose[family].length).toBeGreaterThan(20);
});

test('what one counts comes first', () => {
	expect(made(coil, 'm')).toBe('7½ turns, 2.28 µH');
	expect(made({ ...coil, make: 1 }, 'm')).toBe('1 turn, 2.28 µH');
	expect(made(shunt, 'm')).toBe('6.50 pF');
	expect(made({ ...shunt, make: 0.063 }, 'm')).toBe('63 mm of coax, 6.50 pF');
	expect(made(part('through', 'pair', 90, 1.75), 'm')).toBe('2 × 175 cm, 90°');
	expect(made(part('through', 'transformer', 9, 9), 'm')).toBe('9.0 : 1');
	expect(idealText({ family: 'l', parts: [shunt, coil], excess: 0.75, holds: true })).toBe(
		'Coil in series, C across the wire (6.50 pF, 2.28 µH)'
	);
});

test('what lies in the drawer and what is to be bought are told apart', () => {
	const thing = (name: string, mine: boolean) => ({
		kind: 'former' as const,
		name,
		mine,
		price: mine ? '2.00' : '',
		piece_id: null
	});
	const way = { things: [thing('my pipe', true), thing('1.6 mm wire', false)] } as unknown as Way;
	expect(shopping(way)).toEqual({ have: ['my pipe (2.00)'], buy: ['1.6 mm wire'] });
});

test('where limits differ the highest SWR is told, else the worst over its limit', () => {
	expect(worstOf({ excess: 0.8, worst_swr: [1.2, 1.6] }, 2)).toBe(1.6);
	expect(worstOf({ excess: 0.8, worst_swr: [1.2, 2.4] }, null)).toBe(2.4);
});

test('a network is drawn from the wire down, with its values; in small without them', () => {
	const content = {
		elements: [
			{ kind: 'section', key: 'section', cable: 'pe-5', length_m: 3.1, pieces: 2 },
			{ kind: 'stub', key: 'stub', place: 'shunt', cable: 'pe-5', length_m: 0.9, end: 'shorted' },
			{ kind: 'coil', key: 'coil', place: 'series', inductance_h: 2.28e-6 },
			{ kind: 'line', key: 'line', cable: 'foam-6', length_m: 12 }
		]
	} as unknown as Content;
	expect(drawnOf(content, 'm').map((d) => [d.place, d.kind, d.text, d.end])).toEqual([
		['through', 'section', '2 × 3.1 m', undefined],
		['shunt', 'stub', '90 cm', 'shorted'],
		['series', 'coil', '2.28 µH', undefined]
	]);
	expect(inSmall([part('shunt', 'hairpin', 20)])[0]).toMatchObject({
		kind: 'stub',
		end: 'shorted',
		text: ''
	});
});
