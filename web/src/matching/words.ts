/** What the match desk says: findings as codes and SI values come in, sentences go out. */

import type { Content, DesignFinding, Finding, Prediction, Yield } from '../lib/api/client';
import {
	figures,
	length,
	type LengthUnit,
	megahertz,
	millimetres,
	percent,
	quantity,
	swr,
	turns
} from '../lib/units/format';
import { ownResonance } from '../design/ownResonance';

export type Made = Prediction['made'][number];
export type CoilMade = Extract<Made, { kind: 'coil' }>;
export type CapacitorMade = Extract<Made, { kind: 'coax_capacitor' | 'capacitor' }>;
export type SectionMade = Extract<Made, { kind: 'section' }>;
export type StubMade = Extract<Made, { kind: 'stub' }>;
export type MatchMade = CoilMade | CapacitorMade | SectionMade | StubMade;

/** Whether a line of the parts list is a part of the match that is made on the rulers. */
export function isMatchMade(made: Made): made is MatchMade {
	return !['line', 'tuner', 'ring_coil', 'transformer'].includes(made.kind);
}

const number = (value: number | string | null | undefined) =>
	typeof value === 'number' ? value : 0;

/** What is put on in place of the wire on the bench, and what a perfect build reads with it. */
export function benchLoad(bench: NonNullable<Prediction['bench']>): string {
	const resistor = `${figures(bench.resistor_ohm, 2)} Ω`;
	const other =
		bench.capacitance_f !== null
			? quantity(bench.capacitance_f, 'F', 2)
			: bench.inductance_h !== null
				? quantity(bench.inductance_h, 'H', 2)
				: null;
	const at = `at ${megahertz(bench.at_hz)} MHz`;
	if (other === null) {
		return `Check on the bench with ${resistor} in place of the wire: ${at} it should read SWR ${swr(bench.swr)}.`;
	}
	return `Check on the bench with ${resistor} and ${other} in series in place of the wire: ${at} it should read SWR ${swr(bench.swr)}; with the resistor alone a good match reads ${swr(bench.swr_alone)} there.`;
}

/** Name of a contributor in a sentence. */
export function contributor(name: string): string {
	if (name === 'reading') return 'the sweep';
	const modelled: Record<string, string> = {
		length: "the wire's length",
		height: 'its height',
		covering: 'its covering',
		ground: 'the soil under it',
		radials: 'what its radials lose'
	};
	if (modelled[name]) return modelled[name];
	if (/^(coil|capacitor)( 2)?$/.test(name)) return `the ${partName(name)}'s spread`;
	if (/^(stub|section)( 2)?$/.test(name)) return `the ${partName(name)}'s length and velocity`;
	const ofLine = /^((?:stub|section)(?: 2)?) impedance$/.exec(name);
	if (ofLine?.[1]) return `the ${partName(ofLine[1])}'s impedance`;
	const wound: Record<string, string> = {
		leakage: 'the leakage, known by its range only,',
		capacitance: "the winding's capacitance, known by its range only,",
		input: 'the capacitor across the input'
	};
	const [, part] = name.split(' ');
	if (part && wound[part]) return wound[part];
	if (name === 'unun' || name === 'balun') return "the core's permeability";
	return `the ${name} part's spread`;
}

/** What a part is called in a sentence, by its key. */
function partName(key: string): string {
	const [, what, nth] = /^(.*?)( 2)?$/.exec(key) ?? [];
	const named = ['coil', 'capacitor', 'stub', 'section', 'unun', 'balun'].includes(what ?? '');
	return `${nth ? 'second ' : ''}${named ? what : `${what} part`}`;
}

/** What each act on a part buys. */
const gained: Record<Yield['worthwhile'][number]['act'], (name: string, share: string) => string> =
	{
		measured: (name, share) =>
			/^(stub|section)/.test(name)
				? `Measure the velocity of its coax to 1 %: ${share}.`
				: `Sweep the ${partName(name)} alone and bring it to 1 %: ${share}.`,
		tighter: (name, share) => `Buy the ${partName(name)} to 2 %: ${share}.`,
		trimmed: (name, share) => `Trim the ${partName(name)} in place, watching the SWR: ${share}.`,
		trimmed_in_turn: (names, share) =>
			`Trim the ${names.split(', ').map(partName).join(', then the ')}, twice round: ${share}.`
	};

/** Why the yield is what it is: the reading's doubt, and what measuring the coil buys. */
export function why(
	found: Yield,
	readingSpread: number,
	targets: { label: string; swr_limit: number; worst_swr?: number | null }[] = [],
	wound = false,
	modelled = false
): string[] {
	const missed = targets.find((t) => (t.worst_swr ?? Infinity) > t.swr_limit);
	if (missed && found.few_hold) {
		return [
			`Even a perfect build reaches ${swr(missed.worst_swr)} on ${missed.label}.`,
			wound
				? 'The ratio, the core or the wire does not suit: look at the winding desk what would.'
				: targets.length > 1
					? 'One network of two parts serves one band well, seldom two.'
					: 'If this is the network at its best, the wire is too sharp for the band with one L: take a part of the band, or a wider limit.'
		];
	}
	const said = [
		modelled
			? `That counts what the model of the wire leaves open: length, height, soil, covering. By its parts alone ${percent(found.parts.share)} would hold.`
			: typeof found.reading_rms === 'number'
				? `With what your analyser leaves open (${(20 * Math.log10(found.reading_rms)).toFixed(0)} dB, kept with the sweep), ${percent(found.reading.share)} of builds hold.`
				: `With a sweep error of ${figures(readingSpread * 100, 1)} %, ${percent(found.reading.share)} of builds hold.`
	];
	for (const best of found.worthwhile)
		said.push(gained[best.act](best.name, percent(best.reading_share)));
	return said;
}

/** How far the floor itself is in doubt, where that shows. */
function floorDoubt(floor: { any_low: number; any_high: number }): string {
	const [low, high] = [swr(floor.any_low), swr(floor.any_high)];
	return low === high ? '' : ` (${low} to ${high}, nine times in ten)`;
}

/** How near the design comes to the floor of its hardest band. */
export function nearFloor(targets: Prediction['targets']): string | null {
	const hardest = [...targets]
		.filter((t) => t.floor && t.worst_swr)
		.sort((a, b) => (b.worst_swr ?? 0) - (a.worst_swr ?? 0))[0];
	if (!hardest?.floor) return null;
	const { floor } = hardest;
	if (floor.narrow) return null;
	const least = floor.almost_perfect
		? 'many parts without loss almost a perfect match'
		: `no lossless match goes below ${swr(floor.any)}${floorDoubt(floor)}`;
	return `Worst SWR on ${hardest.label}: ${swr(hardest.worst_swr)}. One more tuned circuit could reach ${swr(floor.one_more)}, ${least}.`;
}

const sentences: Record<DesignFinding['code'], ((f: Finding) => string) | null> = {
	...ownResonance,
	// The caution says it.
	rf_voltage: null,
	cable_off_its_law: ({ values: v }) =>
		`Below ${megahertz(number(v.below_hz))} MHz this cable loses more than its table says: measure yours.`,
	capacitor_too_low: ({ values: v }) =>
		`The ${v.key} capacitor in hand stands ${quantity(number(v.stands_v), 'V', 2)}, and ${quantity(number(v.voltage_v), 'V', 2)} peak lie across it: take one for more, two in series, or send less.`,
	tuner_cannot: ({ values: v }) =>
		`The tuner at the radio cannot match ${v.label}: as near as it comes the radio sees ${swr(number(v.swr))} : 1.`,
	tuner_voltage: ({ values: v }) =>
		`The tuner's capacitors stand ${quantity(number(v.stands_v), 'V', 2)}, and ${quantity(number(v.voltage_v), 'V', 2)} peak lie across one: it would arc. Send less.`
};

/** What a finding means, or nothing where another place says it. */
export function finding(found: DesignFinding): string | null {
	return sentences[found.code]?.(found) ?? null;
}

/** The caution for the voltage that really occurs. */
export function caution(found: Finding): { title: string; text: string } {
	const volts = number(found.values.voltage_v);
	const power = number(found.values.power_w);
	const where =
		found.values.at === 'antenna' || found.values.at === 'capacitor'
			? "the wire's end of the match"
			: `the ${found.values.at}`;
	const peak = quantity(volts, 'V', 2);
	return found.values.burns === 'yes'
		? {
				title: 'RF burn.',
				text: `${peak} peak at ${where} with ${figures(power)} W. Box it out of reach; stop sending before you touch. Local rules come first.`
			}
		: {
				title: 'Low voltage.',
				text: `${peak} peak with ${figures(power)} W. Still stop sending before you touch.`
			};
}

/** How to wind the coil. */
export function coilText(made: CoilMade, unit: LengthUnit): string {
	const spacing = made.touching ? 'touching' : `one every ${millimetres(made.pitch_m)}`;
	return `${turns(made.turns)} turns of ${made.wire_name}, ${spacing}, on ${millimetres(made.former_m)}: winding ${length(made.winding_m, unit)} long.`;
}

/** How to cut a section: its length by the velocity of its cable. */
export function sectionText(made: SectionMade, unit: LengthUnit): string {
	const each = made.pieces === 2 ? 'two pieces, each ' : '';
	return `${each}${length(made.length_m, unit)} of ${made.cable_name}: ${figures(made.degrees, 3)}° at its velocity of ${made.velocity_factor.toFixed(3).replace(/0$/, '')}. Measured from braid to braid; loses ${(made.loss_db ?? 0).toFixed(2)} dB.`;
}

/** How to cut a stub, and how to trim it. */
export function stubText(made: StubMade, unit: LengthUnit): string {
	const end =
		made.end === 'shorted'
			? `its far end shorted, ${made.coax ? 'centre to braid' : 'one wire to the other'}`
			: 'its far end open and kept dry';
	return `${length(made.length_m, unit)} of ${made.cable_name}, ${end}: ${figures(made.degrees, 3)}° at its velocity of ${made.velocity_factor.toFixed(3).replace(/0$/, '')}.`;
}

/** What a capacitor is made of where two make one; nothing where it is one. */
export function pairText(content: Content, key: string): string | null {
	const found = content.elements.find((e) => e.key === key);
	if (found?.kind !== 'capacitor' || !found.pair) return null;
	const [one, other] = found.pair.parts;
	return `${one?.name} ${found.pair.way === 'parallel' ? 'beside' : 'in series with'} ${other?.name}`;
}

/** What moved between two states of a match: the dip, and the worst SWR. */
export function moved(
	before: { dipHz: number | null; worst: number | null },
	after: { dipHz: number | null; worst: number | null }
): string | null {
	if (before.worst === null || after.worst === null) return null;
	const both = `worst SWR ${swr(before.worst)} → ${swr(after.worst)}`;
	if (before.dipHz !== null && after.dipHz === null)
		return `The dip leaves what is drawn; ${both}.`;
	if (before.dipHz === null && after.dipHz !== null) return `The dip comes into view; ${both}.`;
	if (before.dipHz === null || after.dipHz === null) return null;
	const shift = after.dipHz - before.dipHz;
	if (Math.abs(shift) < 4e3) {
		return before.worst === after.worst ? null : `The dip stays; ${both}.`;
	}
	return `The dip moves ${shift > 0 ? 'up' : 'down'} ${(Math.abs(shift) / 1e3).toFixed(0)} kHz; ${both}.`;
}
