import { expect, test } from 'vitest';

import type { Content } from '../lib/api/client';
import {
	adopted,
	chartRange,
	feedline,
	frameOf,
	parts,
	rulerRange,
	sameMatch,
	sameShape,
	sameTargets,
	servesSome,
	shapeName,
	shapeOf,
	unitOf,
	valueOf,
	withElement,
	withLine,
	withValue,
	withWay
} from './content';

const content: Content = {
	version: 1,
	antenna: { kind: 'resistor', resistance_ohm: 94, reactance_ohm: -463 },
	targets: [{ label: '17 m', low_hz: 18.068e6, high_hz: 18.168e6, swr_limit: 2 }],
	elements: [
		{
			kind: 'capacitor',
			key: 'capacitor',
			place: 'shunt',
			capacitance_f: 7e-12,
			q: 1000,
			spread: 0.05,
			piece: null
		},
		{
			kind: 'coil',
			key: 'coil',
			place: 'series',
			inductance_h: 3e-6,
			former_m: 0.032,
			wire: 'cu-1.6',
			pitch_m: null,
			spread: 0.04,
			piece: null
		}
	],
	seed: 1,
	reading_spread: 0.02
};

test('the series part comes first, wherever it hangs', () => {
	expect(parts(content).map((p) => p.key)).toEqual(['coil', 'capacitor']);
});

test('shapes are told apart and named', () => {
	const shape = shapeOf(content);
	expect(shape).toEqual({ series: 'coil', shunt: 'capacitor', shunt_at: 'load' });
	expect(shape && shapeName(shape)).toBe('Coil in series, C across the wire');
	expect(shapeName({ series: 'capacitor', shunt: 'coil', shunt_at: 'source' })).toBe(
		'C in series, coil across the coax'
	);
	expect(sameShape(shape, shapeOf({ ...content, elements: [...content.elements].reverse() }))).toBe(
		false
	);
	expect(shapeOf({ ...content, elements: [] })).toBeNull();
});

test('a value changes its own part and leaves the old content alone', () => {
	const [coil] = parts(content);
	const changed = coil && withValue(content, coil, 2.5e-6);
	expect(changed && parts(changed).map((p) => p.kind === 'coil' && p.inductance_h)[0]).toBe(2.5e-6);
	expect(content.elements[1]).toMatchObject({ inductance_h: 3e-6 });
});

test('a part that is set to another value is no longer the piece it was made of', () => {
	const [coil] = parts(content);
	if (!coil) throw new Error('no coil');
	const piece = { id: 'a', revision: 1, values: {} };
	const taken = withElement(content, coil.key, { piece, spread: 0.006 });
	const [mine] = parts(taken);
	const moved = mine && parts(withValue(taken, mine, 2.5e-6))[0];
	expect(moved).toMatchObject({ inductance_h: 2.5e-6, spread: 0.04, piece: null });
});

test('a feedline is put below, then changed', () => {
	const once = withLine(content, { length_m: 12 });
	expect(feedline(once)).toMatchObject({ length_m: 12, cable: 'foam-6' });
	expect(withLine(once, { cable: 'pe-5' }).elements).toHaveLength(3);
});

test('a ruler holds its value on round numbers', () => {
	for (const value of [2.28e-6, 6.53e-12, 9.9e-6, 1e-12, 47e-12]) {
		const { low, high } = rulerRange(value);
		expect(low).toBeGreaterThan(0);
		expect(low).toBeLessThan(value);
		expect(high).toBeGreaterThan(value);
	}
});

test('the chart stays inside the sweep', () => {
	expect(chartRange([{ low_hz: 21e6, high_hz: 21.45e6 }], 20e6, 21.6e6)).toEqual({
		lowHz: 20.415e6, // 1.3 times the 450 kHz of the band below it
		highHz: 21.6e6
	});
});

test('targets differ by any edge or limit', () => {
	const [first] = content.targets;
	expect(sameTargets(content.targets, [...content.targets])).toBe(true);
	expect(first && sameTargets(content.targets, [{ ...first, swr_limit: 1.5 }])).toBe(false);
});

test('a design may serve some of the bands alone; another first band is another design', () => {
	const [first] = content.targets;
	if (!first) throw new Error('no target');
	const second = { ...first, label: '40 m', low_hz: 7e6, high_hz: 7.2e6 };
	expect(servesSome([second], [first, second])).toBe(true);
	expect(servesSome([first, second], [second])).toBe(false);
	expect(sameTargets([first, second], [second, first])).toBe(false);
});

test('a network that is taken is made as the parts in hand are', () => {
	const mine = withLine(
		withElement(content, 'coil', { former_m: 0.025, wire: 'cu-1', pitch_m: 0.002, spread: 0.01 }),
		{ length_m: 20, cable: 'pe-5' }
	);
	const found: Content = {
		...content,
		elements: [
			...content.elements.map((e) =>
				e.kind === 'coil' ? { ...e, key: 'series', inductance_h: 2e-6 } : e
			),
			{ kind: 'line', key: 'line', place: 'through', cable: 'foam-6', length_m: 0, piece: null }
		]
	};
	const taken = adopted(found, mine);
	expect(taken.elements.find((e) => e.kind === 'coil')).toMatchObject({
		key: 'series',
		inductance_h: 2e-6,
		former_m: 0.025,
		wire: 'cu-1',
		pitch_m: 0.002,
		spread: 0.01
	});
	expect(feedline(taken)).toMatchObject({ length_m: 20, cable: 'pe-5' });
	expect(taken.elements).toHaveLength(3);
});

test('networks are compared anew for another former or line, not for another value', () => {
	const coil = parts(content)[0];
	if (!coil) throw new Error('no coil');
	expect(frameOf(withValue(content, coil, 1e-6))).toBe(frameOf(content));
	expect(frameOf(withElement(content, coil.key, { former_m: 0.025 }))).not.toBe(frameOf(content));
	expect(frameOf(withLine(content, { length_m: 20 }))).not.toBe(frameOf(content));
});

test('a way that was found takes the place of the match, and of nothing else', () => {
	const line = {
		kind: 'line',
		key: 'line',
		place: 'through',
		cable: 'foam-6',
		length_m: 12
	} as const;
	const mine: Content = { ...content, elements: [...content.elements, line] };
	const stub = {
		kind: 'stub',
		key: 'stub',
		place: 'shunt',
		cable: 'pe-5',
		length_m: 0.9,
		end: 'open'
	} as const;
	const taken = withWay(mine, { ...content, elements: [stub] });

	expect(taken.elements).toEqual([stub, line]);
	expect(sameMatch(taken, { ...content, elements: [stub] })).toBe(true);
	expect(sameMatch(taken, mine)).toBe(false);
	expect(shapeOf(taken)).toBeNull();
	const [part] = parts(taken);
	expect(part && [valueOf(part), unitOf(part)]).toEqual([0.9, 'm']);
});

test('two capacitors that make one are so no more once their value is changed', () => {
	const capacitor = parts(content)[1];
	const changed = capacitor && withValue(content, capacitor, 8e-12);

	expect(changed?.elements[0]).toMatchObject({ capacitance_f: 8e-12, pair: null });
});

test('a way says how short its own wire is cut, and puts no older wire in place of a newer one', () => {
	const on = (sweep_id: string, shortened = 1): Content => ({
		...content,
		antenna: { kind: 'sweep', sweep_id, shortened }
	});

	expect(withWay(on('a'), on('a', 0.96)).antenna).toMatchObject({ sweep_id: 'a', shortened: 0.96 });
	expect(withWay(on('a', 0.96), on('a')).antenna).toMatchObject({ sweep_id: 'a', shortened: 1 });
	expect(withWay(on('newer'), on('a', 0.96)).antenna).toMatchObject({ sweep_id: 'newer' });
	expect(withWay(content, on('a')).antenna).toEqual(content.antenna);
});
