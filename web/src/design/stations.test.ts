import { expect, test } from 'vitest';

import type { Content, Prediction, Station } from '../lib/api/client';
import { at, partNames, point, roadOf, stopsOf } from './stations';

function station(key: string, swr: number, loss = 0): Station {
	const f = [1e6, 2e6];
	const of = (v: number) => [v, v];
	return {
		key,
		frequency_hz: f,
		resistance_ohm: [40, 60],
		reactance_ohm: [-10, 10],
		swr: of(swr),
		return_loss_db: of(10),
		gamma_real: of(0.1),
		gamma_imag: [null, 0.2],
		power_w: of(100 - loss),
		loss_w: of(loss),
		voltage_v: [],
		peak_voltage_v: [],
		peak_current_a: [],
		halfway_real: of(0.05),
		halfway_imag: of(0.1)
	};
}

const capacitor = (key: string, place: 'series' | 'shunt') => ({
	kind: 'capacitor' as const,
	key,
	place,
	capacitance_f: 1e-10
});
const line = {
	kind: 'line' as const,
	key: 'line',
	place: 'through' as const,
	cable: 'foam-6',
	length_m: 12
};
const content = {
	antenna: { kind: 'sweep', sweep_id: 'x' },
	targets: [],
	elements: [capacitor('series', 'series'), capacitor('shunt', 'shunt'), line]
} as unknown as Content;
const stations = [
	station('antenna', 5),
	station('series', 3, 2),
	station('shunt', 1.2, 1),
	station('line', 1.1, 14)
];
const prediction = {
	box: 2,
	stations,
	made: [{ kind: 'line', key: 'line', loss_db: 0.7, matched_loss_db: 0.6 }]
} as unknown as Prediction;
const shown = {
	content,
	prediction,
	seen: stations.map((s) => at(s, 1.5e6)),
	sweepName: 'orchard.s1p',
	sweepHref: '/builds/b/sweep',
	markerHz: 1.5e6,
	unit: 'm' as const
};

test('a station is read between its points, and is unknown where a neighbour is', () => {
	expect(at(stations[0], 1.5e6)).toMatchObject({ r: 50, x: 0, swr: 5, im: null });
	expect(at(undefined, 1.5e6).r).toBeNull();
	expect(point(at(stations[0], 1.5e6))).toBeNull();
	expect(point(at(stations[0], 2e6))).toEqual({ re: 0.1, im: 0.2 });
});

test('two parts of one kind are told apart by their place', () => {
	expect([...partNames(content).values()]).toEqual(['series C', 'shunt C']);
	const mixed = {
		...content,
		elements: [
			{ kind: 'coil', key: 'coil', place: 'series' },
			{ kind: 'coax_capacitor', key: 'c', place: 'shunt' }
		]
	} as unknown as Content;
	expect([...partNames(mixed).values()]).toEqual(['coil', 'coax C']);
});

test('the road has a leg for each part, and none where a place is unknown', () => {
	const names = partNames(content);
	const known = stations.map((s) => at(s, 2e6));
	expect(roadOf(known, 2, names).map((leg) => leg.name)).toEqual(['series C', 'shunt C']);
	expect(roadOf(shown.seen, 2, names)).toEqual([]);
});

test('the drop runs from the wire to the radio, with the heat of the match in one stop', () => {
	const stops = stopsOf(shown);
	expect(stops.map((s) => s.title)).toEqual(['The wire', 'Match', 'Coax, 12.0 m', 'Radio']);
	expect(stops.map((s) => s.heat)).toEqual([0, 3, 14, 0]);
	expect(stops[1]).toMatchObject({ detail: 'series C · shunt C', here: true, swr: 1.2 });
	expect(stops[2]?.detail).toBe('loses 0.70 dB, 0.10 by its SWR');
	expect(stops[0]).toMatchObject({ measured: true, href: '/builds/b/sweep' });
});

test('without a line the radio stands at the match; without stations there is nothing to show', () => {
	const bare = { ...content, elements: content.elements.slice(0, 2) };
	const seen = shown.seen.slice(0, 3);
	expect(stopsOf({ ...shown, content: bare, seen }).map((s) => s.key)).toEqual([
		'wire',
		'match',
		'radio'
	]);
	expect(stopsOf({ ...shown, seen: [] })).toEqual([]);
});
