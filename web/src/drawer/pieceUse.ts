/** Parts of a design made of pieces of the drawer; pure. */

import type { Accessory, Element, Piece } from '../lib/api/client';

/** What can be made of a piece of the drawer: all but a tuner, which is bought as it is. */
export type Made = Exclude<Element, { kind: 'tuner' }> | Accessory;
type Changes = Partial<Made>;

/** What becomes of a thing when it is made of a piece of the drawer; null for a piece of another kind. */
export function madeOf(piece: Piece, element: Made, centerHz: number): Changes | null {
	const snapshot = (values: object) => ({
		id: piece.id,
		revision: piece.revision,
		values: values as Record<string, unknown>
	});
	const { held } = piece;
	if (held.kind === 'core' && 'core' in element) {
		return {
			core: { ...held.values, stack: element.core?.stack ?? 1 },
			piece: snapshot(held.values)
		} as Changes;
	}
	if (held.kind === 'coil' && element.kind === 'coil') {
		const { inductance_h, inductance_error, resonance_hz } = held.values;
		// The value of a coil in a design is what it reads on the band.
		const near = resonance_hz ? Math.min(0.8, (centerHz / resonance_hz) ** 2) : 0;
		return {
			inductance_h: inductance_h / (1 - near),
			spread: Math.max(0.005, inductance_error ?? 0),
			piece: snapshot(held.values)
		};
	}
	if (held.kind === 'capacitor' && element.kind === 'capacitor') {
		const { capacitance_f, tolerance, q } = held.values;
		return { capacitance_f, spread: tolerance, q, piece: snapshot(held.values) };
	}
	if (held.kind === 'trap' && element.kind === 'trap') {
		const { capacitance_f, inductance_error, resonance_hz } = held.values;
		if (!capacitance_f || !resonance_hz) return null;
		const spread = Math.max(0.005, inductance_error ?? 0);
		return {
			capacitance_f,
			tuned_hz: resonance_hz,
			cable: null,
			coil_spread: spread,
			capacitance_spread: spread,
			piece: snapshot(held.values)
		};
	}
	return null;
}

/** What becomes of a part that is planned again, no piece in hand: how far such parts usually stray. */
export function planned(element: Made): Changes {
	switch (element.kind) {
		case 'trap':
			return { piece: null, coil_spread: 0.04, capacitance_spread: 0.05 };
		case 'coil':
		case 'coax_capacitor':
			return { piece: null, spread: 0.04 };
		case 'capacitor':
			return { piece: null, spread: 0.05, q: 1000 };
		default:
			return { piece: null };
	}
}

/** What a piece of the drawer is by: set one of these, and the part is another one. */
const own: Partial<Record<string, string[]>> = {
	coil: ['inductance_h', 'former_m', 'wire', 'wire_piece', 'pitch_m'],
	capacitor: ['capacitance_f'],
	trap: ['tuned_hz', 'capacitance_f', 'former_m', 'wire', 'wire_piece', 'pitch_m', 'cable']
};

/** Changes of a part, which is planned again where they make another one of the piece that it was. */
export function remade(element: Made, changes: Changes): Changes {
	if (!element.piece || 'piece' in changes) return changes;
	const other = (own[element.kind] ?? []).some((field) => field in changes);
	return other ? ({ ...planned(element), ...changes } as Changes) : changes;
}
