/** What the winding desk says: names of things, wires and terminals, findings in words; pure. */

import type {
	Accessory,
	Content,
	Design,
	Element,
	Finding,
	Schemas,
	WindingFinding
} from '../lib/api/client';
import { figures, millimetres, quantity, watts } from '../lib/units/format';
import { isWound, type Wound, woundTitle } from '../design/content';
import { ownResonance } from '../design/ownResonance';

export type Winding = Schemas['WindingOut'];
export type Point = Schemas['PlaceOut'];
export type Transformer = Extract<Wound, { kind: 'transformer' }>;
export type Choke = Extract<Accessory, { kind: 'choke' }>;
export type WireTrap = Extract<Accessory, { kind: 'trap' }>;
/** What stands in the cascade of a design. */
export type InCascade = Wound | Extract<Element, { kind: 'coil' }>;
export type Windable = InCascade | Accessory;
export type Changes = Partial<Element> | Partial<Accessory>;
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

/** What it is, as a heading says it. */
export function titleOf(element: Windable): string {
	switch (element.kind) {
		case 'transformer':
			return woundTitle(element);
		case 'ring_coil':
			return 'Coil on a ring';
		case 'choke':
			return `${element.core ? 'Choke' : 'Air choke'}${element.cable ? '' : ' of two wires'}`;
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

/** A capacitor between two terminals: what it is, and where it goes. */
export function acrossText({
	between,
	low_f,
	high_f
}: Winding['across'][number]): [string, string] {
	const what =
		low_f === high_f
			? `capacitor, ${quantity(low_f, 'F', 3)}`
			: `variable capacitor, ${quantity(low_f, 'F', 2)} to ${quantity(high_f, 'F', 3)}`;
	return [what, `from ${between.join(' to ')}`];
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

const sentences: Record<WindingFinding['code'], (f: Finding) => string> = {
	...ownResonance,
	winding_voltage: ({ values: v }) =>
		`${figures(number(v.voltage_v))} V peak at ${watts(number(v.power_w))}: mount it out of reach, never touch it while transmitting.`,
	no_power: () => 'No power set: nothing warms. Set the power at the top to see heat and voltage.',
	material_above_range: ({ values: v }) =>
		`Mix ${v.mix} is not known above ${quantity(number(v.highest_hz), 'Hz')}: on ${v.label} its last value is used. ${v.note}`,
	material_below_range: ({ values: v }) =>
		`Mix ${v.mix} is not known below ${quantity(number(v.lowest_hz), 'Hz')}: on ${v.label} its first value is used. ${v.note}`,
	material_note: ({ values: v }) => `Mix ${v.mix}: ${v.note}.`,
	powder_loss_unknown: ({ values: v }) =>
		`No loss data of mix ${v.mix} are known here: loss and heat are copper's alone, and too good to be true.`,
	powder_loss_estimated: ({ values: v }) => `Mix ${v.mix}: ${v.note}.`,
	flux_above_guide: ({ values: v }) =>
		`On ${v.label} the core swings ${figures(1e3 * number(v.flux_t))} mT, the guide there is ${figures(1e3 * number(v.guide_t))}: more turns, a larger ring, or less power.`,
	near_curie: ({ values: v }) =>
		`Mix ${v.mix} stops being magnetic near ${number(v.curie_c).toFixed(0)} °C (from memory): in some mode this comes close, and the SWR runs away.`,
	heat_extrapolated: () => 'Above 100 °C the law of warming is a guess: do not go there.',
	pair_impedance: ({ values: v }) =>
		`As a line its two wires are about ${figures(number(v.pair_ohm), 2)} Ω, and ${figures(number(v.fits_ohm), 2)} Ω would fit: ${number(v.pair_ohm) < number(v.fits_ohm) ? 'thicker covering raises it' : 'wires with thinner covering, close together, lower it'}, and the high bands get better.`,
	few_turns: ({ values: v }) =>
		`The core puts only ${figures(number(v.magnetising_ohm))} Ω across the input on the lowest band: another primary turn would help there.`,
	ratio_of_turns: ({ values: v }) =>
		`That is ${figures(number(v.impedance_ratio))} : 1 in impedance, more than any wire asks for. If ${figures(number(v.impedance_ratio) ** 0.5)} : 1 in impedance was meant, it takes ${figures(number(v.meant_turns_ratio))} to 1 in turns.`,
	tight_bend: ({ values: v }) =>
		`The coax bends to ${figures(1e3 * number(v.bend_m), 2)} mm; common practice keeps to ${figures(1e3 * number(v.least_m), 2)} mm, five times its thickness. Foam lets its centre creep: take PTFE or solid coax, or a larger ring.`,
	choke_too_little: ({ values: v }) =>
		`On ${v.label} it chokes hardly at all (${quantity(number(v.resistance_ohm), 'Ω')} resistive): more turns, or a mix for that band.`,
	choke_reactive: ({ values: v }) =>
		`On ${v.label} it is mostly a reactance: the outside of the line may just tune it away.`,
	capacitor_at_its_stop: ({ values: v }) =>
		`On ${v.label} the capacitor stands at its stop, ${quantity(number(v.capacitance_f), 'F')}: out of its range.`,
	capacitor_voltage: ({ values: v }) =>
		`${figures(number(v.voltage_v))} V peak across the capacitor, which stands ${figures(number(v.stands_v))} V: at most ${figures(100 * number(v.share), 2)} % of this power.`,
	line_estimate: () =>
		'Lengths, volts and amperes come from the line estimate of the leg; good to some percent for a thin wire that stands clear. Cut long and trim.',
	coax_trap_loss: () =>
		'The braid is taken to lose four times what a solid tube would, from memory: measure the Q of yours.',
	coax_voltage: ({ values: v }) =>
		`Across the coax itself lie ${figures(number(v.voltage_v))} V peak, half the trap's.`
};

/** A finding as a sentence. */
export function finding(found: WindingFinding): string {
	return sentences[found.code](found);
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
			? `${(before?.wires.length ?? 0) > 1 ? `Take ${(before?.wires ?? []).map(wireName).join(' and ')} together. ` : ''}Leave ${millimetres((winding.cuts[0]?.tails_m ?? 0) / 2)} of tail${picture.kind === 'ring' ? ', then pass from the front through the hole' : ' and fix it'}.`
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
