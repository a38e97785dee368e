/** A network as it is drawn: what goes where between the wire and the coax; pure. */

import type { Content, WayPart } from '../lib/api/client';
import { isBelow, isCoil, isOfLine, type Part, valueOf } from '../design/content';
import { partTitle } from '../design/words';
import { length, type LengthUnit, quantity } from '../lib/units/format';

export interface Drawn {
	key: string;
	place: 'series' | 'shunt' | 'through';
	kind: 'coil' | 'capacitor' | 'section' | 'stub' | 'transformer';
	/** Of a stub. */
	end?: 'open' | 'shorted';
	/** Its value, beside it; nothing in small. */
	text: string;
	/** What it is, for who cannot see it. */
	name: string;
}

/** The parts of a design's match, from the wire down. */
export function drawnOf(content: Content, unit: LengthUnit): Drawn[] {
	return content.elements.flatMap((e): Drawn[] => {
		if (isBelow(e)) return [];
		const { key } = e;
		const place = e.place ?? 'through';
		if (e.kind === 'transformer') {
			const ratio = (e.secondary_turns / e.primary_turns) ** 2;
			const text = `${Number(ratio.toFixed(1))} : 1`;
			return [{ key, place, kind: 'transformer', text, name: 'Unun' }];
		}
		if (e.kind === 'ring_coil') {
			return [{ key, place, kind: 'coil', text: `${e.turns} turns`, name: 'Coil on a ring' }];
		}
		const name = partTitle(e);
		if (isOfLine(e)) {
			const text = `${e.kind === 'section' && e.pieces === 2 ? '2 × ' : ''}${length(e.length_m, unit)}`;
			return e.kind === 'stub'
				? [{ key, place, kind: 'stub', end: e.end, text, name }]
				: [{ key, place, kind: 'section', text, name }];
		}
		const part: Part = e;
		return [
			{
				key,
				place,
				kind: isCoil(part) ? 'coil' : 'capacitor',
				text: quantity(valueOf(part), isCoil(part) ? 'H' : 'F'),
				name
			}
		];
	});
}

/** The parts of a way in small, without their values. */
export function inSmall(parts: WayPart[]): Drawn[] {
	return parts.map((p) => ({
		key: p.key,
		place: p.place,
		kind: p.kind === 'pair' ? 'section' : p.kind === 'hairpin' ? 'stub' : p.kind,
		end: p.kind === 'hairpin' ? 'shorted' : undefined,
		text: '',
		name: p.kind
	}));
}
