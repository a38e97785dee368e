import { expect, test } from 'vitest';

import type { Reading } from '../lib/api/client';
import {
	floorText,
	match,
	resonanceIsNotDip,
	resonances,
	setupText,
	sharpness,
	standing
} from './words';

const reading: Reading = {
	best_frequency_hz: 14.1e6,
	best_swr: 1.21,
	resonances: [],
	bandwidth: { low_hz: 14e6, high_hz: 14.2e6, low_open: false, high_open: false },
	swr_limit: 2,
	q: 12.3,
	q_at_hz: 14.1e6,
	sharpness: 'middling',
	targets: [],
	above_one: 0
};
const target = {
	label: '15 m',
	swr_limit: 2,
	worst_swr: 44,
	best_swr: 39,
	lowest_resistance_ohm: 78,
	highest_resistance_ohm: 93,
	lowest_reactance_ohm: -440,
	highest_reactance_ohm: -383,
	reactance: 'capacitive' as const,
	holds: false
};

test('a capacitive wire wants a coil, an inductive one a capacitor', () => {
	expect(standing(target)).toContain('383 to 440 Ω capacitive');
	expect(standing(target)).toContain('wants a coil');
	expect(standing({ ...target, reactance: 'inductive' })).toContain('wants a capacitor');
	expect(standing({ ...target, reactance: 'small' })).toContain('X is next to nothing');
});

test('a wire whose reactance passes through zero resonates', () => {
	expect(standing({ ...target, reactance: 'crosses' })).toContain('resonates there');
});

test('resonances are named with their resistance, or their absence is', () => {
	expect(resonances(reading, 13e6, 15e6)).toBe(
		'No resonance between 13.000 and 15.000 MHz: X never crosses zero there.'
	);
	const found = { frequency_hz: 14.05e6, resistance_ohm: 36.4, kind: 'series' as const, swr: 1.37 };
	expect(resonances({ ...reading, resonances: [found] }, 13e6, 15e6)).toBe(
		'Resonance at 14.050 MHz with R 36.4 Ω.'
	);
});

test('resonance is not the lowest SWR', () => {
	const found = {
		frequency_hz: 14.05e6,
		resistance_ohm: 36.4,
		kind: 'series' as const,
		swr: 1.37
	};
	const said = resonanceIsNotDip({ ...reading, resonances: [found] });

	expect(said).toContain('at 14.050 MHz, resonant, it reads 1.37');
	expect(said).toContain('at 14.100 MHz 1.21');
	expect(
		resonanceIsNotDip({ ...reading, resonances: [{ ...found, frequency_hz: 14.1e6 }] })
	).toContain('together');
	expect(resonanceIsNotDip(reading)).toBe('');
});

test('a band that leaves the sweep says on which side', () => {
	expect(match(reading)).toBe('Lowest SWR 1.21 at 14.100 MHz; within 2.00 over 200 kHz.');
	const open = { low_hz: 14e6, high_hz: 14.2e6, low_open: true, high_open: false };
	expect(match({ ...reading, bandwidth: open })).toContain('the sweep ends below');
	expect(match({ ...reading, bandwidth: null })).toContain('never below 2.00');
});

test('sharpness has a word, or nothing where Q is not known', () => {
	expect(sharpness(reading)).toBe('Q about 12 at 14.100 MHz: a middling curve by nature.');
	expect(sharpness({ ...reading, q: null })).toBe('');
});

test('the floor of the hardest band, in a sentence', () => {
	const at = (label: string, alone: number, any: number) =>
		({
			label,
			floor: {
				q: 10,
				antenna_alone: alone,
				one_more: 1.2,
				any,
				narrow: label === '30 m',
				almost_perfect: any === 1.001
			}
		}) as Reading['targets'][number];
	expect(floorText([at('12 m', 1.2, 1.03), at('15 m', 1.9, 1.11)])).toBe(
		'On 15 m no lossless match gets below 1.11; the wire tuned alone reaches 1.90, with one more tuned circuit 1.20.'
	);
	expect(floorText([at('15 m', 1.5, 1.001)])).toContain('could match almost perfectly');
	expect(floorText([at('30 m', 1.04, 1.0)])).toContain('30 m is narrow for a curve this wide');
	expect(floorText([{ label: 'x', floor: null } as Reading['targets'][number]])).toBe('');
});

test('SWR alone says what is missing', () => {
	const bare = { label: '15 m', lowest_resistance_ohm: null } as Reading['targets'][number];
	expect(standing(bare)).toContain('SWR alone does not say R and X');
});

test('a setup in one line', () => {
	const setup = {
		id: '',
		plane: 'line_end' as const,
		instrument: '',
		line: { cable: 'foam-6', length_m: 17.6 },
		conditions: { height: '', hung: '', near: 'bean rows', ground: 'damp' }
	};
	expect(setupText(setup, (m) => `${m} m`)).toBe(
		'At the radio end of the line, through 17.6 m of coax; bean rows, damp'
	);
});
