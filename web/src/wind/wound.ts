/** What the winding desk says and begins with: names of wires and terminals, schools, starts; pure. */

import type { Beside, Content, Design, Element, Piece, Schemas, Target } from '../lib/api/client';
import { figures, millimetres, quantity, watts } from '../lib/units/format';
import { isWound, type Wound, woundTitle } from '../match/shape';

export type Winding = Schemas['WindingOut'];
export type Point = Schemas['PlaceOut'];
export type Transformer = Extract<Wound, { kind: 'transformer' }>;
export type Choke = Extract<Beside, { kind: 'choke' }>;
export type WireTrap = Extract<Beside, { kind: 'trap' }>;
/** What stands in the cascade of a design. */
export type InCascade = Wound | Extract<Element, { kind: 'coil' }>;
export type Windable = InCascade | Beside;
export type Changes = Partial<Element> | Partial<Beside>;
export type Wiring = Transformer['wiring'];

/** What a design has wound, in its order from the antenna down. */
export function windables(content: Content): Windable[] {
	return [
		...content.elements.filter((e): e is InCascade => e.kind === 'coil' || isWound(e)),
		...(content.beside ?? [])
	];
}

/** The ring something is wound on; null on air. */
export function coreOf(element: Windable): Wound['core'] | null {
	if (element.kind === 'coil' || element.kind === 'trap') return null;
	return element.core ?? null;
}

/** What becomes of a thing when it is made of a piece of the drawer; null for a piece of another kind. */
export function madeOf(piece: Piece, element: Windable, centerHz: number): Changes | null {
	const snapshot = (values: object) => ({
		id: piece.id,
		revision: piece.revision,
		values: values as Record<string, unknown>
	});
	const { held } = piece;
	if (held.kind === 'core' && element.kind !== 'coil' && element.kind !== 'trap') {
		return {
			core: { ...held.values, stack: coreOf(element)?.stack ?? 1 },
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

/** What it is, as a heading says it. */
export function titleOf(element: Windable): string {
	switch (element.kind) {
		case 'transformer':
			return woundTitle(element);
		case 'ring_coil':
			return 'Coil on a ring';
		case 'choke':
			return element.core ? 'Choke' : 'Air choke';
		case 'trap':
			return element.cable ? 'Trap of coax' : 'Trap';
		case 'coil':
			return 'Air coil';
	}
}

/** The design to wind from: the one asked for, else the first of the others that has something wound. */
export function designToWind(
	designs: Design[],
	preferred: (string | null | undefined)[]
): Design | null {
	const some = designs.filter((d) => windables(d.revision.content).length > 0);
	for (const id of preferred) {
		const found = some.find((d) => d.id === id);
		if (found) return found;
	}
	return some[0] ?? null;
}

export const wirings: { key: Wiring; name: string; balanced: boolean }[] = [
	{ key: 'tapped', name: 'unun, one long winding', balanced: false },
	{ key: 'separate', name: 'separate windings', balanced: false },
	{ key: 'two-in-hand', name: 'unun 4 : 1, two wires in hand', balanced: false },
	{ key: 'three-in-hand', name: 'unun 9 : 1, three wires in hand', balanced: false },
	{ key: 'four-in-hand', name: 'unun 16 : 1, four wires in hand', balanced: false },
	{ key: 'current-balun-1', name: 'current balun 1 : 1', balanced: true },
	{ key: 'current-balun-4-two', name: 'current balun 4 : 1, two rings', balanced: true },
	{ key: 'current-balun-4-one', name: 'current balun 4 : 1, one ring', balanced: true },
	{ key: 'voltage-balun-4', name: 'voltage balun 4 : 1', balanced: true }
];

/** Turns ratio that a wiring fixes; none where turns are counted. */
export const fixedRatio: Partial<Record<Wiring, number>> = {
	'two-in-hand': 2,
	'three-in-hand': 3,
	'four-in-hand': 4,
	'current-balun-1': 1,
	'current-balun-4-one': 2,
	'current-balun-4-two': 2,
	'voltage-balun-4': 2
};

/** The schools of what an end-fed wire shows, and the loads of other baluns, in ohm. */
export const schools: { ohm: number; name: string }[] = [
	{ ohm: 2450, name: '2.45 kΩ, end-fed half-wave, 49 : 1' },
	{ ohm: 2700, name: '2.7 kΩ, end-fed half-wave' },
	{ ohm: 3200, name: '3.2 kΩ, end-fed half-wave, 64 : 1' },
	{ ohm: 4500, name: '4.5 kΩ, end-fed half-wave, high' },
	{ ohm: 450, name: '450 Ω, any wire, 9 : 1' },
	{ ohm: 200, name: '200 Ω, folded dipole or loop, 4 : 1' },
	{ ohm: 110, name: '110 Ω, full-wave loop' },
	{ ohm: 50, name: '50 Ω, dipole, 1 : 1' }
];

interface Start {
	name: string;
	why: string;
	wiring: Wiring;
	primary: number;
	secondary: number;
	ohm: number;
	size: string;
	mix: string;
	crossed: boolean;
	/** What else it is made of. */
	more?: Partial<Transformer>;
}

/** What one usually begins with. */
export const starts: Start[] = [
	{
		name: '64 : 1 unun, 2 in 16',
		why: 'End-fed half-wave that shows about 3.2 kΩ',
		wiring: 'tapped',
		primary: 2,
		secondary: 16,
		ohm: 3200,
		size: 'FT240',
		mix: '43',
		crossed: true
	},
	{
		name: '49 : 1 unun, 2 in 14',
		why: 'End-fed half-wave that shows about 2.45 kΩ',
		wiring: 'tapped',
		primary: 2,
		secondary: 14,
		ohm: 2450,
		size: 'FT240',
		mix: '43',
		crossed: true
	},
	{
		name: '9 : 1 unun, nine turns of three wires',
		why: 'A wire that resonates nowhere, with a tuner',
		wiring: 'three-in-hand',
		primary: 9,
		secondary: 27,
		ohm: 450,
		size: 'FT140',
		mix: '43',
		crossed: false
	},
	{
		name: '1 : 1 current balun, ten turns',
		why: 'A dipole on coax, keeping current off its outside',
		wiring: 'current-balun-1',
		primary: 10,
		secondary: 10,
		ohm: 50,
		size: 'FT240',
		mix: '43',
		crossed: true
	},
	{
		name: '4 : 1 current balun on two rings',
		why: 'A folded dipole or a loop near 200 Ω',
		wiring: 'current-balun-4-two',
		primary: 8,
		secondary: 16,
		ohm: 200,
		size: 'FT140',
		mix: '43',
		crossed: false
	},
	{
		name: '4 : 1 voltage balun',
		why: 'Between coax and an even 200 Ω, small and cheap',
		wiring: 'voltage-balun-4',
		primary: 9,
		secondary: 18,
		ohm: 200,
		size: 'FT140',
		mix: '43',
		crossed: false
	},
	{
		name: 'Tuned coupler, 3 in 20',
		why: 'End-fed half-waves at low power, several bands by one knob',
		wiring: 'separate',
		primary: 3,
		secondary: 20,
		ohm: 2700,
		size: 'T68',
		mix: '2',
		crossed: false,
		more: {
			key: 'coupler',
			wire: 'cu-0.5',
			leakage_h: 0.08e-6,
			twisted: false,
			tuning: { low_f: 8e-12, high_f: 250e-12, set_f: 100e-12, voltage_v: 300 }
		}
	}
];

/** What is wound beside an antenna system: a name, why, and the part for its bands. */
export const besides: { name: string; why: string; part: (targets: Target[]) => Beside | null }[] =
	[
		{
			name: 'Choke, 11 turns of thin coax',
			why: 'Keeps current off the outside of the coax',
			part: () => ({
				kind: 'choke',
				key: 'choke',
				core: { mix: '43', size: 'FT240', stack: 1, al_h: null, material: null },
				former_m: null,
				cable: 'ptfe-2.8',
				outer_m: 2.8e-3,
				turns: 11,
				crossed: true,
				tail_m: 0.04,
				current_a: null,
				piece: null
			})
		},
		{
			name: 'Air choke, 16 turns of coax on a tube',
			why: 'Cheap; good near its own resonance only',
			part: () => ({
				kind: 'choke',
				key: 'air-choke',
				core: null,
				former_m: 0.066,
				cable: 'pe-5',
				outer_m: 5e-3,
				turns: 16,
				crossed: false,
				tail_m: 0.1,
				current_a: null,
				piece: null
			})
		},
		{
			name: 'Trap, coil and capacitor',
			why: 'The wire ends here on the upper band, goes on below it',
			part: trapFor
		},
		{
			name: 'Trap wound of coax',
			why: 'Coil and capacitor in one, for a little power',
			part: (targets) => {
				const trap = trapFor(targets);
				return trap && { ...trap, key: 'coax-trap', cable: 'pe-5', outer_m: 5e-3, former_m: 0.032 };
			}
		}
	];

/** A trap for the two highest bands wanted; null with fewer. */
function trapFor(targets: Target[]): WireTrap | null {
	const middles = [...new Set(targets.map((t) => (t.low_hz + t.high_hz) / 2))].sort(
		(a, b) => b - a
	);
	const [high, low] = middles;
	if (!high || !low) return null;
	return {
		kind: 'trap',
		key: 'trap',
		tuned_hz: Math.round(0.97 * high),
		high_hz: high,
		low_hz: low,
		capacitance_f: 30e-12,
		capacitance_spread: 0.05,
		former_m: 0.025,
		wire: 'cu-1.6',
		wire_piece: null,
		pitch_m: null,
		coil_spread: 0.04,
		cable: null,
		outer_m: 5e-3,
		housing_f: 1e-12,
		wire_radius_m: 0.8e-3,
		legs: 2,
		piece: null
	};
}

/** A key that no part of a design has yet. */
export function freeKey(content: Content, wanted: string): string {
	const taken = [...content.elements, ...(content.beside ?? [])].map((e) => e.key);
	for (let i = 2, key = wanted; ; i++) {
		if (!taken.includes(key)) return key;
		key = `${wanted}-${i}`;
	}
}

/** A design with one part beside a plain 50 Ω. */
export function contentBeside(part: Beside, targets: Target[]): Content {
	return {
		version: 1,
		antenna: { kind: 'resistor', resistance_ohm: 50, reactance_ohm: 0 },
		targets,
		elements: [],
		beside: [part],
		seed: 1,
		reading_spread: 0.02
	};
}

/** A new design with one thing wound; on the build's sweep where there is one. */
export function contentOf(start: Start, targets: Target[], sweepId: string | null): Content {
	const unun: Transformer = {
		kind: 'transformer',
		key: start.wiring.includes('balun') ? 'balun' : 'unun',
		place: 'through',
		wiring: start.wiring,
		primary_turns: start.primary,
		secondary_turns: start.secondary,
		primary_wire: true,
		core: { mix: start.mix, size: start.size, stack: 1, al_h: null },
		wire: 'cu-1',
		twisted: start.wiring === 'tapped' || start.wiring === 'separate',
		crossed: start.crossed,
		tape_m: 0,
		tail_m: 0.045,
		leakage_h: null,
		winding_capacitance_f: null,
		input_capacitance_f: 0,
		input_q: 1500,
		tuning: null,
		piece: null,
		...start.more
	};
	return {
		version: 1,
		antenna: sweepId
			? { kind: 'sweep', sweep_id: sweepId }
			: { kind: 'resistor', resistance_ohm: start.ohm, reactance_ohm: 0 },
		targets,
		elements: [unun],
		beside: [],
		seed: 1,
		reading_spread: 0.02
	};
}

const wires: Record<string, string> = {
	long: 'long wire',
	primary: 'primary wire',
	red: 'red wire',
	blue: 'blue wire',
	copper: 'copper wire',
	ink: 'black wire'
};

/** What a wire is called. */
export const wireName = (wire: string): string => wires[wire] ?? wire;

/** The token a wire is drawn with: the same everywhere. */
export function hue(wire: string): string {
	if (wire === 'red') return 'enamel';
	if (wire === 'primary' || wire === 'blue') return 'blueprint';
	return wire === 'ink' ? 'ink' : 'copper';
}

/** Where a terminal is said to go. */
export function terminal(at: string): string {
	return at === '' ? 'joined, goes nowhere else' : `to ${at}`;
}

/** An end of a wire in words. */
export const endName = ({ wire, end }: { wire: string; end: string }): string =>
	end === 'tap' ? `tap in the ${wireName(wire)}` : `${wireName(wire)}, ${end}`;

/** Ratio as both: impedance, and turns. */
export function ratios(turns: Winding['turns']): string | null {
	if (!turns.turns_ratio || !turns.impedance_ratio) return null;
	return `impedance ${Number(turns.impedance_ratio.toFixed(1))} : 1, turns ${Number(turns.turns_ratio.toFixed(2))} : 1`;
}

const several = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`;

/** Passes beside full returns, because people count either. */
export function passes(turns: Winding['turns']): string {
	return `${several(turns.passes, 'pass').replace(/passs$/, 'passes')} through the hole, ${several(turns.returns, 'full return')} outside`;
}

/** The target where most stays behind, and the best one. */
export function lossRange(heat: Winding['heat']): {
	worst: Winding['heat'][number] | undefined;
	best: Winding['heat'][number] | undefined;
} {
	const sorted = [...heat].sort((a, b) => b.loss_db - a.loss_db);
	return { worst: sorted[0], best: sorted.length > 1 ? sorted[sorted.length - 1] : undefined };
}

/** The hottest it gets in a mode over the targets. */
export function hottest(heat: Winding['heat'], mode: string) {
	return heat
		.flatMap((h) =>
			h.rises.filter((r) => r.mode === mode).map((rise) => ({ label: h.label, rise }))
		)
		.sort((a, b) => b.rise.rise_c - a.rise.rise_c)[0];
}

const number = (value: number | string | null | undefined) =>
	typeof value === 'number' ? value : 0;

/** A finding as a sentence; null where another place says it. */
export function finding(found: Schemas['Finding']): string | null {
	const v = found.values;
	switch (found.code) {
		case 'winding_voltage':
			return `${figures(number(v.voltage_v))} V peak at ${watts(number(v.power_w))}: mount it out of reach, never touch it while transmitting.`;
		case 'no_power':
			return 'No power set: nothing warms. Set the power at the top to see heat and voltage.';
		case 'material_above_range':
			return `Mix ${v.mix} is not known above ${quantity(number(v.highest_hz), 'Hz')}: on ${v.label} its last value is used. ${v.note}`;
		case 'material_below_range':
			return `Mix ${v.mix} is not known below ${quantity(number(v.lowest_hz), 'Hz')}: on ${v.label} its first value is used. ${v.note}`;
		case 'material_note':
			return `Mix ${v.mix}: ${v.note}.`;
		case 'powder_loss_unknown':
			return `No loss data of mix ${v.mix} are known here: loss and heat are copper's alone, and too good to be true.`;
		case 'powder_loss_estimated':
			return `Mix ${v.mix}: ${v.note}.`;
		case 'flux_above_guide':
			return `On ${v.label} the core swings ${figures(1e3 * number(v.flux_t))} mT, the guide there is ${figures(1e3 * number(v.guide_t))}: more turns, a larger ring, or less power.`;
		case 'near_curie':
			return `Mix ${v.mix} stops being magnetic near ${number(v.curie_c).toFixed(0)} °C (from memory): in some mode this comes close, and the SWR runs away.`;
		case 'heat_extrapolated':
			return 'Above 100 °C the law of warming is a guess: do not go there.';
		case 'pair_impedance':
			return `As a line its two wires are about ${figures(number(v.pair_ohm), 2)} Ω, and ${figures(number(v.fits_ohm), 2)} Ω would fit: thicker covering raises it, and the high bands get better.`;
		case 'few_turns':
			return `The core puts only ${figures(number(v.magnetising_ohm))} Ω across the input on the lowest band: another primary turn would help there.`;
		case 'near_self_resonance':
			return `At ${figures(100 * number(v.ratio), 2)} % of its own resonance (${quantity(number(v.self_resonance_hz), 'Hz')}) it is hardly a coil: fewer turns, or a smaller core.`;
		case 'tight_bend':
			return `The coax bends to ${figures(1e3 * number(v.bend_m), 2)} mm; common practice keeps to ${figures(1e3 * number(v.least_m), 2)} mm, five times its thickness. Foam lets its centre creep: take PTFE or solid coax, or a larger ring.`;
		case 'choke_too_little':
			return `On ${v.label} it chokes hardly at all (${quantity(number(v.resistance_ohm), 'Ω')} resistive): more turns, or a mix for that band.`;
		case 'choke_reactive':
			return `On ${v.label} it is mostly a reactance: the outside of the line may just tune it away.`;
		case 'capacitor_at_its_stop':
			return `On ${v.label} the capacitor stands at its stop, ${quantity(number(v.capacitance_f), 'F')}: out of its range.`;
		case 'capacitor_voltage':
			return `${figures(number(v.voltage_v))} V peak across the capacitor, which stands ${figures(number(v.stands_v))} V: at most ${figures(100 * number(v.share), 2)} % of this power.`;
		case 'line_estimate':
			return 'Lengths, volts and amperes come from the line estimate of the leg; good to some percent for a thin wire that stands clear. Cut long and trim.';
		case 'coax_trap_loss':
			return 'The braid is taken to lose four times what a solid tube would, from memory: measure the Q of yours.';
		case 'coax_voltage':
			return `Across the coax itself lie ${figures(number(v.voltage_v))} V peak, half the trap's.`;
		case 'own_capacitance':
			return `Its own capacitance shows: self-resonance ${quantity(number(v.self_resonance_hz), 'Hz')}.`;
		default:
			return null;
	}
}

/** A time as one waits. */
export function waiting(seconds: number | null | undefined): string {
	if (seconds === null || seconds === undefined) return '';
	return seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`;
}

/** What comes with a turn while counting: which wires, and what to do after it. */
export function countText(winding: Winding, at: number): { now: string; next: string } {
	const picture = winding.picture;
	const turn = picture.kind === 'ring' ? picture.turns[at - 1] : undefined;
	const last = Math.ceil(winding.turns.passes);
	const half = at === last && winding.turns.passes < last;
	const together = (turn?.wires ?? []).map(wireName);
	const before = picture.kind === 'ring' ? picture.turns[at] : undefined;
	const now =
		at === 0
			? `Leave ${millimetres((winding.cuts[0]?.tails_m ?? 0) / 2)} of tail${picture.kind === 'ring' ? ', then pass from the front through the hole' : ' and fix it'}.`
			: together.length > 1
				? `With ${together.join(' and ')} together.`
				: '';
	const acts: string[] = [];
	if (at > 0 && winding.turns.tap_after === at) acts.push('Make the tap here, before going on.');
	if (at > 0 && turn && before && before.wires.length < turn.wires.length)
		acts.push('The primary wire ends here: lead its tail out, go on with the long wire alone.');
	if (at > 0 && winding.turns.crosses_after === at)
		acts.push(
			'Now cross over: lay the wire over the hole to the other side, and go in from the front again. That pass is the next turn.'
		);
	if (half) acts.push('The last one is half a turn.');
	if (at >= last) acts.push('All turns are on. Fix both ends.');
	return { now, next: acts.join(' ') };
}

/** A core as people say it. */
export function coreName(core: { mix: string; size: string; stack?: number }): string {
	return `${core.stack && core.stack > 1 ? `${core.stack} × ` : ''}${core.size}-${core.mix}`;
}
