import { expect, test } from 'vitest';

import type { Design, WindingFinding } from '../lib/api/client';
import {
	countText,
	designToWind,
	finding,
	hottest,
	lossRange,
	passes,
	ratios,
	titleOf,
	waiting,
	type Windable,
	type Winding
} from './wound';

const turn = (number: number, wires: string[]) => ({ number, wires, angle_deg: 0, half: 1 });
const winding = {
	picture: {
		kind: 'ring',
		turns: [
			turn(1, ['long', 'primary']),
			turn(2, ['long', 'primary']),
			turn(3, ['long']),
			turn(4, ['long'])
		]
	},
	turns: {
		passes: 4,
		returns: 3,
		primary: 2,
		secondary: 4,
		turns_ratio: 2,
		impedance_ratio: 4,
		in_hand: 1,
		tap_after: null,
		crosses_after: 3
	},
	cuts: [{ wire: 'long', cut_m: 0.4, winding_m: 0.3, turn_m: 0.075, tails_m: 0.09, spare_turns: 0 }]
} as unknown as Winding;

test('counting says which wires go in, where the primary ends, where it crosses, and when all are on', () => {
	expect(countText(winding, 0).now).toContain('45 mm of tail');
	expect(countText(winding, 0).now).toContain('Take long wire and primary wire together.');
	expect(countText(winding, 1)).toEqual({
		now: 'With long wire and primary wire together.',
		next: ''
	});
	expect(countText(winding, 2).next).toContain('The primary wire ends here');
	expect(countText(winding, 3).next).toContain('Now cross over');
	expect(countText(winding, 4).next).toBe('All turns are on. Fix both ends.');
});

test('a tap is called when its turn is on', () => {
	const tapped = { ...winding, turns: { ...winding.turns, tap_after: 1 } };
	expect(countText(tapped, 1).next).toContain('Make the tap here');
	expect(countText(tapped, 4).next).not.toContain('tap');
});

test('both ratios, and passes beside full returns', () => {
	expect(ratios(winding.turns)).toBe('impedance 4 : 1, turns 2 : 1');
	expect(passes(winding.turns)).toBe('4 passes through the hole, 3 full returns outside');
	expect(passes({ ...winding.turns, passes: 1, returns: 1 })).toBe(
		'1 pass through the hole, 1 full return outside'
	);
});

test('the design asked for is opened, else the first that has something wound', () => {
	const of = (id: string, elements: unknown[]) =>
		({ id, revision: { content: { elements } } }) as unknown as Design;
	const coil = { kind: 'coil', key: 'coil' };
	const designs = [of('a', [{ kind: 'line' }]), of('b', [coil]), of('c', [coil])];
	expect(designToWind(designs, ['c', 'b'])?.id).toBe('c');
	expect(designToWind(designs, ['a', null])?.id).toBe('b');
	expect(designToWind(designs.slice(0, 1), [])).toBeNull();
});

test('the band that loses most and least, and the hottest of a mode', () => {
	const at = (label: string, loss_db: number, rise_c: number) => ({
		label,
		loss_db,
		rises: [{ mode: 'speech', rise_c }]
	});
	const heat = [at('30 m', 1.1, 36), at('10 m', 0.9, 30)] as unknown as Winding['heat'];
	expect(lossRange(heat).worst?.label).toBe('30 m');
	expect(lossRange(heat).best?.label).toBe('10 m');
	expect(lossRange(heat.slice(0, 1)).best).toBeUndefined();
	expect(hottest(heat, 'speech')?.label).toBe('30 m');
});

test.each([
	['winding_voltage', { voltage_v: 700, power_w: 100 }, '700 V peak at 100 W'],
	['no_power', {}, 'No power set'],
	[
		'material_above_range',
		{ mix: '77', label: '30 m', highest_hz: 6.8e6, note: 'x' },
		'not known above 6.80 MHz'
	],
	[
		'material_below_range',
		{ mix: '67', label: '160 m', lowest_hz: 1e6, note: '' },
		'not known below'
	],
	['material_note', { mix: '43', note: 'uncertain' }, 'Mix 43: uncertain.'],
	['powder_loss_unknown', { mix: '26' }, 'No loss data of mix 26'],
	['powder_loss_estimated', { mix: '2', note: 'off by two' }, 'off by two'],
	[
		'flux_above_guide',
		{ label: '30 m', flux_t: 0.02, guide_t: 0.005 },
		'swings 20.0 mT, the guide there is 5.00'
	],
	['heat_extrapolated', {}, 'Above 100 °C'],
	['few_turns', { magnetising_ohm: 60 }, 'only 60.0 Ω'],
	[
		'ratio_of_turns',
		{ impedance_ratio: 2401, meant_turns_ratio: 7 },
		'If 49.0 : 1 in impedance was meant, it takes 7.00 to 1 in turns'
	],
	['pair_impedance', { pair_ohm: 32, fits_ohm: 100 }, 'about 32 Ω, and 100 Ω would fit'],
	[
		'near_self_resonance',
		{ key: 'coil', ratio: 0.6, self_resonance_hz: 30e6 },
		'reaches 60 % of the self-resonance of the coil (30.0 MHz)'
	],
	[
		'own_capacitance',
		{ key: 'coil', ratio: 0.4, self_resonance_hz: 30e6 },
		'resonates with itself at 30.0 MHz'
	]
])('%s has its sentence', (code, values, said) => {
	expect(finding({ code, grave: false, values } as WindingFinding)).toContain(said);
});

test('times as one waits', () => {
	expect([waiting(40), waiting(500), waiting(null)]).toEqual(['40 s', '8 min', '']);
});

test.each([
	[
		'tight_bend',
		{ bend_m: 0.0104, least_m: 0.014 },
		'bends to 10 mm; common practice keeps to 14 mm'
	],
	[
		'choke_too_little',
		{ label: '60 m', resistance_ohm: 120 },
		'On 60 m it chokes hardly at all (120 Ω'
	],
	['choke_reactive', { label: '60 m', resistance_ohm: 120 }, 'mostly a reactance'],
	['capacitor_at_its_stop', { label: '60 m', capacitance_f: 250e-12 }, 'at its stop, 250 pF'],
	[
		'capacitor_voltage',
		{ voltage_v: 707, stands_v: 300, share: 0.18 },
		'at most 18 % of this power'
	],
	['coax_voltage', { voltage_v: 240 }, '240 V peak, half the trap'],
	['line_estimate', {}, 'Cut long and trim'],
	['coax_trap_loss', {}, 'from memory']
])('%s is said in the words of the trade', (code, values, words) => {
	expect(finding({ code, grave: false, values } as WindingFinding)).toContain(words);
});

test('every wound thing has a heading', () => {
	const of = (element: object) => titleOf(element as Windable);
	const core = { mix: '43', size: 'FT240' };
	expect(of({ kind: 'choke', core, cable: 'pe-5' })).toBe('Choke');
	expect(of({ kind: 'choke', core, cable: null })).toBe('Choke of two wires');
	expect(of({ kind: 'choke', core: null, cable: 'pe-5' })).toBe('Air choke');
	expect(of({ kind: 'trap', cable: null })).toBe('Trap');
	expect(of({ kind: 'trap', cable: 'pe-5' })).toBe('Trap of coax');
	expect(of({ kind: 'coil' })).toBe('Air coil');
	expect(
		of({
			kind: 'transformer',
			wiring: 'separate',
			primary_turns: 3,
			secondary_turns: 20,
			tuning: {}
		})
	).toBe('Tuned coupler');
});
