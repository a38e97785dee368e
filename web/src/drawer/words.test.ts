import { expect, test } from 'vitest';

import type { Trade } from '../lib/api/client';
import { answers, detail, type Held, kinds, tradeRows, likeness } from './words';

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
	expect(rows[0]?.detail).toContain('µ 800 ±20 %, 1080 nH per turn²');
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
	expect(detail(held)).toBe('FT240, mix 43, 1250 nH per turn² measured');
});

test('every word looked for must be somewhere', () => {
	expect(answers('FT240-43 NiZn', '240 43')).toBe(true);
	expect(answers('FT240-43 NiZn', '240 61')).toBe(false);
	expect(answers('anything', '  ')).toBe(true);
});

test('what was characterised says what it is like, and how well it is known', () => {
	const point = (frequency_hz: number, real: number) => ({ frequency_hz, real, imaginary: 10 });
	const values = { points: [point(0.2e6, 800), point(40e6, 30)], tolerance: 0.031 };
	const material = { kind: 'material', name: 'm', values: { ...values, like: '43' } } as Held;
	expect(detail(material)).toBe('µ 800 at 0.200 MHz, measured to 40.000 MHz ±3.1 %, like mix 43');
	const unknown = { kind: 'material', name: 'm', values: { ...values, like: null } } as Held;
	expect(detail(unknown)).toContain('like no mix of the table');
	const core = {
		kind: 'core',
		name: 'grey',
		values: {
			size: 'FT240',
			mix: '43',
			stack: 1,
			al_h: null,
			material: { id: 'a', revision: 1, values }
		}
	} as Held;
	expect(detail(core)).toBe('FT240, mix 43, its material measured ±3.1 %');
});

test('a coil and a trap of one’s own tell only what their sweep showed', () => {
	const values = { inductance_h: 2.2e-6, inductance_error: 0.006, q: 140, resonance_hz: 70e6 };
	const coil = { kind: 'coil', name: 'c', values } as Held;
	expect(detail(coil)).toBe('2.20 µH ±0.6 %, Q 140, resonates by itself at 70.000 MHz');
	const trap = {
		kind: 'trap',
		name: 't',
		values: {
			inductance_h: 1.54e-6,
			inductance_error: 0.01,
			capacitance_f: 50e-12,
			resonance_hz: 18.12e6
		}
	} as Held;
	expect(detail(trap)).toBe('1.54 µH ±1 %, 50.0 pF, traps 18.120 MHz');
});

test('a ring is called by its mix, with its runner-up, or by none', () => {
	const found = (likely: { mix: string; share: number; factor: number }[]) =>
		({ frequency_hz: [0.2e6, 40e6], likely, values: { tolerance: 0.03 } }) as unknown as Parameters<
			typeof likeness
		>[0];
	expect(likeness(found([{ mix: '43', share: 1, factor: 0.87 }]))).toMatchObject({
		title: 'Mix 43, 13 % below the table'
	});
	const two = likeness(
		found([
			{ mix: '61', share: 0.7, factor: 1 },
			{ mix: '67', share: 0.3, factor: 1.1 }
		])
	);
	expect(two.title).toBe('Mix 61, as the table has it');
	expect(two.why).toContain('70 in 100 for mix 61; the runner-up is mix 67.');
	expect(likeness(found([])).title).toBe('Like no mix of the table');
});
