/** What one usually begins with on the winding desk, and the designs that come of it; pure. */

import { madeOf } from '../drawer/pieceUse';
import type { Accessory, Content, Piece, Target } from '../lib/api/client';
import type { Choke, Transformer, WireTrap, Wiring } from './wound';

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

/** What a choke of a pair begins with. */
export const pairWire = 'pvc-0.75';

/** A choke as one usually begins it: eleven turns, half and half, on a ring. */
function chokeOf(changes: Partial<Choke>): Choke {
	return {
		kind: 'choke',
		key: 'choke',
		core: { mix: '43', size: 'FT240', stack: 1, al_h: null, material: null },
		former_m: null,
		cable: null,
		outer_m: null,
		wire: null,
		wire_piece: null,
		turns: 11,
		crossed: true,
		tail_m: 0.04,
		current_a: null,
		piece: null,
		...changes
	};
}

/** What is wound beside an antenna system: a name, why, and the part for its bands. */
export const besides: {
	name: string;
	why: string;
	part: (targets: Target[]) => Accessory | null;
}[] = [
	{
		name: 'Choke, 11 turns of thin coax',
		why: 'Keeps current off the outside of the coax',
		part: () => chokeOf({ cable: 'ptfe-2.8', outer_m: 2.8e-3 })
	},
	{
		name: 'Choke, 11 turns of two wires',
		why: 'Where the line is no coax; for balanced wires too',
		part: () => chokeOf({ key: 'pair-choke', wire: pairWire })
	},
	{
		name: 'Air choke, 16 turns of coax on a tube',
		why: 'Cheap; good near its own resonance only',
		part: () =>
			chokeOf({
				key: 'air-choke',
				core: null,
				former_m: 0.066,
				cable: 'pe-5',
				outer_m: 5e-3,
				turns: 16,
				crossed: false,
				tail_m: 0.1
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

/** A thing made of pieces of the drawer in place of the usual ones, as far as it has such parts. */
export function fromDrawer<T extends Accessory | Content['elements'][number]>(
	thing: T,
	pieces: (Piece | null)[]
): T {
	return pieces.reduce<T>((made, piece) => ({ ...made, ...(piece && taking(made, piece)) }), thing);
}

/** What a piece of the drawer changes of a thing. */
function taking(thing: Accessory | Content['elements'][number], piece: Piece): object | null {
	const { held, id, revision } = piece;
	if (held.kind === 'core') return 'core' in thing && thing.core ? madeOf(piece, thing, 0) : null;
	if (held.kind === 'wire') {
		return 'wire' in thing && thing.wire !== null
			? { wire_piece: { id, revision, values: held.values } }
			: null;
	}
	if (held.kind === 'capacitor' && thing.kind === 'trap' && thing.cable === null) {
		const { capacitance_f, tolerance } = held.values;
		return { capacitance_f, capacitance_spread: tolerance };
	}
	return null;
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
export function contentBeside(part: Accessory, targets: Target[]): Content {
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
