import { expect, test } from 'vitest';

import type { Accessory, Piece } from '../lib/api/client';
import { type Made, madeOf, planned, remade } from './pieceUse';

const pieceOf = (held: object) =>
	({
		id: 'a',
		revision: 3,
		key: 'own-a',
		provenance: 'measured',
		used: 0,
		held
	}) as unknown as Piece;

test('a measured coil stands in a design as it reads on the band, as sure as it was measured', () => {
	const piece = {
		id: 'a',
		revision: 3,
		key: 'own-a',
		provenance: 'measured',
		used: 0,
		held: {
			kind: 'coil',
			name: 'the one in the tin',
			values: { inductance_h: 2.2e-6, inductance_error: 0.006, resonance_hz: 70e6 }
		}
	} as unknown as Piece;
	const coil = { kind: 'coil', key: 'coil' } as unknown as Made;
	const taken = madeOf(piece, coil, 21e6) as { inductance_h: number; spread: number };
	expect(taken.inductance_h).toBeCloseTo(2.2e-6 / (1 - 0.09), 9);
	expect(taken.spread).toBe(0.006);
	// A trap is not made of a coil.
	expect(madeOf(piece, { kind: 'trap', key: 'trap' } as unknown as Made, 21e6)).toBeNull();
});

test('a capacitor in hand brings its value, its tolerance and its Q, and is left again as a planned one', () => {
	const values = {
		type: 'mica',
		capacitance_f: 118.4e-12,
		tolerance: 0.01,
		voltage_v: 500,
		q: 2100
	};
	const taken = madeOf(
		pieceOf({ kind: 'capacitor', name: 'one of the tin', values }),
		{ kind: 'capacitor', key: 'shunt' } as Made,
		21e6
	);
	expect(taken).toMatchObject({ capacitance_f: 118.4e-12, spread: 0.01, q: 2100 });
	expect(taken?.piece).toEqual({ id: 'a', revision: 3, values });
	expect(planned({ kind: 'capacitor' } as Made)).toMatchObject({ piece: null, spread: 0.05 });
});

test('a core goes on rings alone, and keeps how many are stacked', () => {
	const piece = pieceOf({ kind: 'core', name: 'one', values: { mix: '43', size: 'FT140' } });
	const two = { kind: 'ring_coil', core: { mix: '61', size: 'FT240', stack: 2 } } as Made;
	expect(madeOf(piece, two, 21e6)).toMatchObject({ core: { size: 'FT140', stack: 2 } });
	expect(madeOf(piece, { kind: 'coil' } as Made, 21e6)).toBeNull();
});

test('what is made otherwise is planned again; what is only set elsewhere stays the piece that it was', () => {
	const piece = { id: 'a', revision: 1, values: {} };
	const coil = { kind: 'coil', key: 'coil', piece, spread: 0.006 } as unknown as Made;
	expect(remade(coil, { former_m: 0.05 })).toEqual({ former_m: 0.05, piece: null, spread: 0.04 });
	expect(remade(coil, { tap_turns: 3 })).toEqual({ tap_turns: 3 });
	expect(remade(coil, { inductance_h: 2e-6, piece })).toEqual({ inductance_h: 2e-6, piece });
	const trap = { kind: 'trap', key: 'trap', piece } as unknown as Accessory;
	expect(remade(trap, { capacitance_f: 33e-12, capacitance_spread: 0.01 })).toMatchObject({
		capacitance_spread: 0.01,
		coil_spread: 0.04,
		piece: null
	});
});
