/** What the drawer says of a piece: its values in a line, in the trade's words; pure. */

import type { Piece, Schemas, Trade } from '../lib/api/client';
import { figures, megahertz, millimetres, quantity, tolerance } from '../lib/units/format';

export type Held = Piece['held'];
export type Kind = Held['kind'];

export const kinds: { key: Kind; name: string; one: string }[] = [
	{ key: 'core', name: 'Cores', one: 'core' },
	{ key: 'material', name: 'Materials', one: 'material' },
	{ key: 'wire', name: 'Wires', one: 'wire' },
	{ key: 'cable', name: 'Cables', one: 'cable' },
	{ key: 'capacitor', name: 'Capacitors', one: 'capacitor' },
	{ key: 'coil', name: 'Coils', one: 'coil' },
	{ key: 'trap', name: 'Traps', one: 'trap' },
	{ key: 'former', name: 'Formers', one: 'former' },
	{ key: 'box', name: 'Boxes and tubes', one: 'box' }
];

/** A line of the drawer: what the trade sells, and what becomes of it when one holds it. */
export interface Row {
	key: string;
	name: string;
	detail: string;
	note: string;
	/** What becomes of it in the drawer; nothing where it must be measured first. */
	held: Held | null;
}

const nominal = { price: '', count: null, sweep_id: null };

/** What a piece is, in one line. */
export function detail(held: Held): string {
	switch (held.kind) {
		case 'core': {
			const v = held.values;
			const measured = v.material
				? `, its material measured ${tolerance(v.material.values.tolerance)}`
				: v.al_h
					? `, ${figures(v.al_h * 1e9)} nH per turn² measured`
					: '';
			return `${v.size}, mix ${v.mix}${measured}`;
		}
		case 'material': {
			const { points, like } = held.values;
			const first = points[0];
			const last = points[points.length - 1];
			return `µ ${figures(first?.real ?? 0)} at ${megahertz(first?.frequency_hz ?? 0)} MHz, measured to ${megahertz(last?.frequency_hz ?? 0)} MHz ${tolerance(held.values.tolerance)}, ${like ? `like mix ${like}` : 'like no mix of the table'}`;
		}
		case 'coil':
		case 'trap': {
			const v = held.values;
			const parts = [`${quantity(v.inductance_h, 'H')} ${tolerance(v.inductance_error ?? 0)}`];
			if (v.capacitance_f) parts.push(quantity(v.capacitance_f, 'F'));
			if (v.q) parts.push(`Q ${figures(v.q, 2)}`);
			if (v.resonance_hz)
				parts.push(
					`${held.kind === 'trap' ? 'traps' : 'resonates by itself at'} ${megahertz(v.resonance_hz)} MHz`
				);
			return parts.join(', ');
		}
		case 'wire': {
			const v = held.values;
			return `${millimetres(v.diameter_m)} ${v.metal ?? 'copper'}, ${millimetres(v.covered_m)} over all`;
		}
		case 'cable': {
			const v = held.values;
			return `${figures(v.impedance_ohm)} Ω, VF ${v.velocity_factor.toFixed(3)}, ${megahertz(v.low_hz)} to ${megahertz(v.high_hz)} MHz`;
		}
		case 'capacitor': {
			const v = held.values;
			return `${quantity(v.capacitance_f, 'F')} ${v.type ?? ''} ${tolerance(v.tolerance ?? 0.05)}, ${figures(v.voltage_v ?? 0)} V`;
		}
		case 'former':
			return `${millimetres(held.values.outer_m)} outside, ${millimetres(held.values.length_m)} long`;
		case 'box': {
			const v = held.values;
			return `${millimetres(v.width_m)} × ${millimetres(v.height_m)} × ${millimetres(v.depth_m)} inside${v.round ? ', round' : ''}`;
		}
	}
}

/** What the trade sells of a kind, nominal, each with its doubts. */
export function tradeRows(trade: Trade, kind: Kind): Row[] {
	switch (kind) {
		case 'core':
			return trade.sizes.flatMap((s) =>
				trade.mixes
					.filter((m) => m.kind === s.kind)
					.map((m): Row => {
						const al = s.al_h[m.mix];
						return {
							key: `${s.size}-${m.mix}`,
							name: `${s.size}-${m.mix}`,
							detail: `${millimetres(s.outer_m)} × ${millimetres(s.inner_m)} × ${millimetres(s.height_m)}, ${m.family}, µ ${m.initial_permeability} ${tolerance(m.tolerance)}${al ? `, ${figures(al * 1e9)} nH per turn²` : ''}`,
							note: [
								m.note,
								s.doubtful ? 'the trade name may belong to a slightly other size' : '',
								m.loss_known ? '' : 'no loss data'
							]
								.filter((t, i, all) => t && all.indexOf(t) === i)
								.join('; '),
							held: {
								...nominal,
								kind: 'core',
								name: `${s.size}-${m.mix}`,
								nominal_key: `${s.size}-${m.mix}`,
								values: { size: s.size, mix: m.mix, stack: 1, al_h: null }
							}
						};
					})
			);
		// What is measured is sold by nobody.
		case 'material':
		case 'coil':
		case 'trap':
			return [];
		case 'wire':
			return trade.wires.map((w) => ({
				key: w.key,
				name: w.name,
				detail: `${millimetres(w.covered_m)} over all`,
				note: w.source,
				held: {
					...nominal,
					kind: 'wire',
					name: w.name,
					nominal_key: w.key,
					values: {
						metal: w.metal as 'copper',
						diameter_m: w.diameter_m,
						covered_m: w.covered_m
					}
				}
			}));
		case 'cable':
			return trade.cables
				.filter((c) => !c.piece)
				.map((c) => ({
					key: c.key,
					name: c.name,
					detail: `${figures(c.impedance_ohm)} Ω, VF ${c.velocity_factor}, loss ${tolerance(c.loss_tolerance)}`,
					note: [c.note, c.source].filter(Boolean).join('; '),
					held: null
				}));
		case 'capacitor':
			return trade.capacitors.map((c) => ({
				key: c.key,
				name: c.name,
				detail: `${tolerance(c.tolerance)}, Q about ${c.q}, sold for ${c.voltages_v.map((v) => figures(v)).join(' and ')} V`,
				note: c.note,
				held: {
					...nominal,
					kind: 'capacitor',
					name: `100 pF ${c.name}`,
					nominal_key: c.key,
					values: {
						type: c.key,
						capacitance_f: 100e-12,
						tolerance: c.tolerance,
						voltage_v: c.voltages_v[0] ?? 500,
						q: c.q
					}
				}
			}));
		case 'former':
			return trade.formers.map((f) => ({
				key: f.key,
				name: f.name,
				detail: `${millimetres(f.outer_m)} outside`,
				note: f.source,
				held: {
					...nominal,
					kind: 'former',
					name: f.name,
					nominal_key: f.key,
					values: { outer_m: f.outer_m, length_m: f.length_m }
				}
			}));
		case 'box':
			return trade.boxes.map((b) => ({
				key: b.key,
				name: b.name,
				detail: `${millimetres(b.width_m)} × ${millimetres(b.height_m)} × ${millimetres(b.depth_m)} inside`,
				note: b.source,
				held: {
					...nominal,
					kind: 'box',
					name: b.name,
					nominal_key: b.key,
					values: {
						width_m: b.width_m,
						height_m: b.height_m,
						depth_m: b.depth_m,
						round: b.round
					}
				}
			}));
	}
}

/** Whether a row answers what is looked for: every word in its name, detail or note. */
export function answers(text: string, wanted: string): boolean {
	const inside = text.toLowerCase();
	return wanted
		.toLowerCase()
		.split(/\s+/)
		.filter(Boolean)
		.every((word) => inside.includes(word));
}

/** Which capacitors a combination takes, and how they are joined. */
export function combinedName(found: Schemas['CombinationOut']): string {
	const [one, other] = found.parts;
	if (!other) return one?.name ?? '';
	return one?.name === other.name
		? `two ${one.name} in ${found.way}`
		: `${one?.name} and ${other.name} in ${found.way}`;
}

/** What a characterised ring is like, and how sure that is. */
export function likeness(found: Schemas['RingOut']): { title: string; why: string } {
	const [first, second] = found.likely;
	const last = found.frequency_hz[found.frequency_hz.length - 1] ?? 0;
	const known = `Its permeability is known to ${tolerance(found.values.tolerance)}, from ${megahertz(found.frequency_hz[0] ?? 0)} to ${megahertz(last)} MHz.`;
	if (!first) {
		return {
			title: 'Like no mix of the table',
			why: `${known} Keep it as a material of your own.`
		};
	}
	const off = Math.round(100 * (first.factor - 1));
	const where =
		off === 0
			? 'as the table has it'
			: `${Math.abs(off)} % ${off > 0 ? 'above' : 'below'} the table`;
	const sure = second
		? `${Math.round(100 * first.share)} in 100 for mix ${first.mix}; the runner-up is mix ${second.mix}.`
		: 'No other mix of the table comes near.';
	return { title: `Mix ${first.mix}, ${where}`, why: `${sure} ${known}` };
}
