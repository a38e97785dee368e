import { expect, test } from 'vitest';

import type { Trade } from '../lib/api/client';
import { answers, detail, type Held, kinds, tradeRows } from './words';

const trade = {
	sizes: [
		{
			size: 'FT240',
			outer_m: 0.061,
			inner_m: 0.03555,
			height_m: 0.0127,
			doubtful: false,
			kind: 'ferrite',
			al_h: { '43': 1.08e-6 }
		},
		{
			size: 'T68',
			outer_m: 0.0175,
			inner_m: 0.0094,
			height_m: 0.0048,
			doubtful: true,
			kind: 'powder',
			al_h: { '2': 5.7e-9 }
		}
	],
	mixes: [
		{
			mix: '43',
			kind: 'ferrite',
			family: 'NiZn',
			initial_permeability: 800,
			tolerance: 0.2,
			loss_known: true,
			note: 'doubt'
		},
		{
			mix: '2',
			kind: 'powder',
			family: 'carbonyl iron',
			initial_permeability: 10,
			tolerance: 0.05,
			loss_known: false,
			note: ''
		}
	],
	wires: [
		{
			key: 'cu-1',
			name: '1.0 mm enamelled copper',
			diameter_m: 1e-3,
			covered_m: 1.08e-3,
			metal: 'copper',
			source: 's'
		}
	],
	cables: [
		{
			key: 'pe-5',
			name: '5 mm',
			impedance_ohm: 50,
			velocity_factor: 0.66,
			coax: true,
			loss_tolerance: 0.1,
			velocity_tolerance: 0.02,
			source: 's',
			note: ''
		}
	],
	capacitors: [
		{
			key: 'mica',
			name: 'silver mica',
			tolerance: 0.05,
			q: 2000,
			voltages_v: [500, 1000],
			note: 'n'
		}
	],
	formers: [{ key: 'f', name: '32 mm conduit', outer_m: 0.032, length_m: 1, source: 's' }],
	boxes: [
		{ key: 'b', name: 'box', width_m: 0.1, height_m: 0.1, depth_m: 0.05, round: true, source: 's' }
	]
} as unknown as Trade;

test('cores are sold in the mixes of their family, with their doubts', () => {
	const rows = tradeRows(trade, 'core');
	expect(rows.map((r) => r.name)).toEqual(['FT240-43', 'T68-2']);
	expect(rows[0]?.detail).toContain('µ 800 ±20 %, 1080 nH a turn squared');
	expect(rows[1]?.note).toBe('the trade name may belong to a slightly other size; no loss data');
});

test('what one takes over of each kind says what it is; what must be measured first is not sold', () => {
	for (const { key } of kinds) {
		const row = tradeRows(trade, key)[0];
		if (['material', 'coil', 'trap'].includes(key)) expect(row).toBeUndefined();
		else if (key === 'cable') expect(row?.held).toBeNull();
		else expect(detail(row?.held as Held).length).toBeGreaterThan(8);
	}
});

test('a measured ring says so', () => {
	const held = {
		kind: 'core',
		name: 'grey',
		values: { size: 'FT240', mix: '43', stack: 1, al_h: 1.25e-6 }
	} as Held;
	expect(detail(held)).toBe('FT240, mix 43, 1250 nH a turn squared measured');
});

test('every word looked for must be somewhere', () => {
	expect(answers('FT240-43 NiZn', '240 43')).toBe(true);
	expect(answers('FT240-43 NiZn', '240 61')).toBe(false);
	expect(answers('anything', '  ')).toBe(true);
});
