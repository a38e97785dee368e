import { expect, test } from 'vitest';

import type { Content, DesignFinding, Yield } from '../lib/api/client';
import {
	benchLoad,
	caution,
	coilText,
	contributor,
	finding,
	moved,
	nearFloor,
	pairText,
	sectionText,
	stubText,
	why
} from './words';

const figure = (share: number, costs: [string, number][]) => ({
	share,
	standard_error: 0.004,
	impossible: 0,
	costs: costs.map(([name, cost]) => ({ name, share: cost }))
});
const gain = { name: 'coil', act: 'measured' as const, parts_share: 0.99, reading_share: 0.88 };
const found: Yield = {
	parts: figure(0.977, [['coil', 0.02]]),
	reading: figure(0.801, [
		['reading', 0.16],
		['coil', 0.08],
		['capacitor', 0.002]
	]),
	bought: [gain],
	few_hold: false,
	costly: [
		{ name: 'reading', share: 0.16 },
		{ name: 'coil', share: 0.08 }
	],
	worthwhile: [gain],
	limits: [],
	fan_hz: [],
	fan_low: [],
	fan_high: []
};

test('the yield names the sweep, and what measuring buys; what costs is named beside its bar', () => {
	expect([contributor('reading'), contributor('coil')]).toEqual(['the sweep', "the coil's spread"]);
	expect(why(found, 0.02)).toEqual([
		'With a sweep error of 2 %, 80 % of builds hold.',
		'Sweep the coil alone and bring it to 1 %: 88 %.'
	]);
});

test('what costs nothing is not named, and measuring is not sold where it buys nothing', () => {
	const easy = { ...found, reading: figure(1, []), costly: [], worthwhile: [] };
	expect(why(easy, 0.02)).toEqual(['With a sweep error of 2 %, 100 % of builds hold.']);
});

test("the analyser's own doubt, where the sweep keeps it, stands in place of the usual one", () => {
	expect(why({ ...found, reading_rms: 0.005, worthwhile: [] }, 0.02)).toEqual([
		'With what your analyser leaves open (-46 dB, kept with the sweep), 80 % of builds hold.'
	]);
});

test.each([
	['capacitor', 'tighter', 'Buy the capacitor to 2 %: 88 %.'],
	['coil 2', 'trimmed', 'Trim the second coil in place, watching the SWR: 88 %.'],
	['stub', 'measured', 'Measure the velocity of its coax to 1 %: 88 %.'],
	['coil, capacitor', 'trimmed_in_turn', 'Trim the coil, then the capacitor, twice round: 88 %.']
] as const)('what %s gains when it is %s', (name, act, said) => {
	const worthwhile = [{ ...gain, name, act }];
	expect(why({ ...found, worthwhile }, 0.02)[1]).toBe(said);
});

test('lengths of line are named among what costs', () => {
	expect(contributor('stub')).toBe("the stub's length and velocity");
	expect(contributor('section 2 impedance')).toBe("the second section's impedance");
	expect(contributor('coil 2')).toBe("the second coil's spread");
});

test('the caution carries the voltage that occurs', () => {
	const at = (voltage_v: number) =>
		caution({
			code: 'rf_voltage',
			grave: false,
			values: {
				voltage_v,
				power_w: 100,
				at: 'capacitor',
				burns: voltage_v < 50 ? 'no' : 'yes'
			}
		});
	expect(at(573).text).toContain('570 V peak');
	expect(at(1287).text).toContain('1.3 kV peak');
	expect(at(30).title).toBe('Low voltage.');
});

test('findings have words, but for the voltage that the caution says', () => {
	const said = (code: DesignFinding['code'], values: DesignFinding['values']) =>
		finding({ code, grave: false, values });
	const near = { key: 'coil', ratio: 0.61, self_resonance_hz: 30e6 };
	expect(said('near_self_resonance', near)).toContain('61 % of the self-resonance of the coil');
	const low = { key: 'series', voltage_v: 352, stands_v: 250 };
	expect(said('capacitor_too_low', low)).toContain('stands 250 V, and 350 V');
	expect(said('rf_voltage', { voltage_v: 400 })).toBeNull();
});

test('a coil reads as it is wound', () => {
	const text = coilText(
		{
			kind: 'coil',
			key: 'coil',
			turns: 7.5,
			turns_exact: 7.6,
			former_m: 0.032,
			wire_name: '1.6 mm enamelled copper',
			touching: true,
			pitch_m: 0.0017,
			winding_m: 0.01275,
			wire_m: 0.79,
			tail_m: 0.1,
			cut_m: 1.11,
			bare_h: 2e-6,
			inductance_h: 2.2e-6,
			reads_at_hz: 21e6,
			q: 330,
			self_resonance_hz: 79e6,
			peak_voltage_v: 500,
			peak_current_a: 2
		},
		'm'
	);
	expect(text).toBe('7½ turns of 1.6 mm enamelled copper, touching, on 32 mm: winding 13 mm long.');
});

test('a move says which way and how far', () => {
	const before = { dipHz: 21.2e6, worst: 1.53 };
	expect(moved(before, { dipHz: 21.08e6, worst: 1.91 })).toBe(
		'The dip moves down 120 kHz; worst SWR 1.53 → 1.91.'
	);
	expect(moved(before, { dipHz: 21.2e6, worst: 1.6 })).toBe(
		'The dip stays; worst SWR 1.53 → 1.60.'
	);
	expect(moved(before, before)).toBeNull();
	expect(moved(before, { dipHz: null, worst: 9.2 })).toBe(
		'The dip leaves what is drawn; worst SWR 1.53 → 9.20.'
	);
	expect(moved({ dipHz: null, worst: null }, before)).toBeNull();
});

test('where even a perfect build misses, that is what is said', () => {
	const none = { ...found, parts: figure(0, []), few_hold: true };
	const target = { label: '40 m', swr_limit: 2, worst_swr: 2.92 };
	expect(why(none, 0.02, [target])[0]).toBe('Even a perfect build reaches 2.92 on 40 m.');
	expect(why(found, 0.02, [{ ...target, worst_swr: 1.5 }])[0]).toContain('80 %');
});

test('how near the floor', () => {
	const floor = {
		q: 20,
		antenna_alone: 1.6,
		one_more: 1.08,
		any: 1.2,
		any_low: 1.18,
		any_high: 1.23,
		narrow: false,
		almost_perfect: false
	};
	const target = { label: '15 m', swr_limit: 2, worst_swr: 1.53, floor };
	expect(nearFloor([{ ...target, floor: { ...floor, almost_perfect: true } }])).toBe(
		'Worst SWR on 15 m: 1.53. One more tuned circuit could reach 1.08, many parts without loss almost a perfect match.'
	);
	expect(nearFloor([target])).toContain('goes below 1.20 (1.18 to 1.23, nine times in ten).');
	expect(nearFloor([{ ...target, floor: { ...floor, narrow: true } }])).toBeNull();
	expect(nearFloor([{ ...target, floor: null }])).toBeNull();
});

const bench = {
	at_hz: 14.2e6,
	inductance_h: null,
	capacitance_f: null,
	swr: 1.04,
	swr_alone: 2.29
};
test.each([
	[{ ...bench, resistor_ohm: 308, inductance_h: 3.05e-6 }, '310 Ω and 3.0 µH in series'],
	[{ ...bench, resistor_ohm: 94, capacitance_f: 19e-12 }, '94 Ω and 19 pF in series'],
	[
		{ ...bench, resistor_ohm: 94, capacitance_f: 19e-12 },
		'it should read SWR 1.04; with the resistor alone'
	],
	[
		{ ...bench, resistor_ohm: 0.7 },
		'with 0.70 Ω in place of the wire: at 14.200 MHz it should read SWR 1.04.'
	]
])('the bench load of %o', (load, words) => {
	expect(benchLoad(load)).toContain(words);
});

test('two capacitors that make one are named, one alone is not', () => {
	const parts = [{ name: '22 pF mica' }, { name: '82 pF mica' }];
	const content = {
		elements: [
			{ kind: 'capacitor', key: 'both', pair: { way: 'parallel', parts } },
			{ kind: 'capacitor', key: 'one', pair: null }
		]
	} as unknown as Content;
	expect(pairText(content, 'both')).toBe('22 pF mica beside 82 pF mica');
	expect(pairText(content, 'one')).toBeNull();
});

test('lengths of line are cut by their own velocity; a hairpin has no braid', () => {
	const cut = { key: 'a', impedance_ohm: 75, velocity_factor: 0.66, length_m: 1.735, degrees: 90 };
	const peaks = { peak_voltage_v: 100, peak_current_a: 2 };
	expect(
		sectionText(
			{ ...cut, ...peaks, kind: 'section', cable_name: '75 Ω', pieces: 2, loss_db: 0.05 },
			'm'
		)
	).toBe(
		'two pieces, each 173.5 cm of 75 Ω: 90.0° at its velocity of 0.66. Measured from braid to braid; loses 0.05 dB.'
	);
	const stub = { ...cut, ...peaks, kind: 'stub' as const, cut_m: 1.755, end: 'shorted' as const };
	expect(stubText({ ...stub, cable_name: 'window line', coax: false }, 'm')).toContain(
		'its far end shorted, one wire to the other: 90.0°'
	);
});
