/** What a build sheet says: steps, things and cautions come as codes and SI values, sentences go out. */

import type { Schemas } from '../lib/api/client';
import {
	length,
	type LengthUnit,
	megahertz,
	millimetres,
	quantity,
	swr,
	turns,
	watts
} from '../lib/units/format';

export type Sheet = Schemas['SheetOut'];
export type Step = Sheet['steps'][number];
export type Thing = Sheet['things'][number];
export type Caution = Step['cautions'][number];

/** What a step is called, and what to know while doing it. */
export interface Said {
	title: string;
	more: string;
}

type Values = Step['values'];
const number = (v: Values, name: string) => (typeof v[name] === 'number' ? (v[name] as number) : 0);
const text = (v: Values, name: string) => (typeof v[name] === 'string' ? (v[name] as string) : '');
const times = (count: number) => (count > 1 ? `${count} × ` : '');
const words = ['no', 'one', 'two', 'three', 'four'];
const count = (n: number) => words[n] ?? String(n);

const wires: Record<string, string> = {
	long: 'long wire',
	primary: 'short wire',
	ink: 'black wire',
	red: 'red wire',
	blue: 'blue wire',
	copper: 'copper wire',
	coax: 'coax'
};
/** What a piece to cut is called on the list. */
export const cutName = (name: string, alone: boolean): string =>
	alone && name === 'long' ? 'the wire' : (wires[name] ?? name);

/** How passes go on and where they cross over. */
function passesOn(from: number, all: number, crosses: number): string {
	if (crosses > from && crosses < all) {
		return `${crosses - from} ${from ? 'more' : 'passes'}, cross over, ${all - crosses} on the other half`;
	}
	return from ? `${all - from} more, straight round` : `${all} passes, straight round`;
}

const cuts = (step: Step, unit: LengthUnit) =>
	step.cuts
		.map(
			(c) =>
				`${cutName(c.name, step.cuts.length === 1)} ${times(c.count)}${length(c.length_m, unit)}`
		)
		.join(', ');

/** What a wound thing is called in a step. */
const part = (step: Step) => step.part || 'match';

/** What lies on the bench in place of the antenna: a resistor, and what stands in series with it. */
function benchParts(ohm: number, henry: number, farad: number, word = ''): string {
	const other = henry ? quantity(henry, 'H', 2) : farad ? quantity(farad, 'F', 2) : '';
	return `${quantity(ohm, 'Ω', 2)}${word}${other ? ` and ${other} in series` : ''}`;
}

/** What a part alone should read, and what to do about it. */
function benchPart(step: Step): Said {
	const v = step.values;
	const title = `Bench: sweep the ${part(step)} alone`;
	const at = `at ${megahertz(number(v, 'at_hz'))} MHz`;
	if (v.kind === 'trap') {
		return {
			title,
			more: `through a link turn, loosely: squeeze or spread turns until the dip lies at ${megahertz(number(v, 'at_hz'))} MHz; housed it comes to ${megahertz(number(v, 'housed_hz'))}`
		};
	}
	const unit = v.what === 'inductance' ? 'H' : 'Ω';
	const range = `${quantity(number(v, 'low'), unit, 2)} to ${quantity(number(v, 'high'), unit, 2)}`;
	if (number(v, 'wanted_h')) {
		return {
			title,
			more: `squeeze or spread turns until it reads ${quantity(number(v, 'wanted_h'), 'H')} ${at} (as wound about ${quantity(number(v, 'value'), 'H')}); fix them, sweep again`
		};
	}
	return v.what === 'inductance'
		? {
				title,
				more: `${at} it reads ${quantity(number(v, 'value'), unit)}; nineteen right ones in twenty show ${range}`
			}
		: {
				title,
				more: `${at} R is ${quantity(number(v, 'value'), unit, 2)}; nineteen right ones in twenty show ${range}`
			};
}

const said: Record<Step['code'], (step: Step, unit: LengthUnit) => Said> = {
	cut: (step, unit) => {
		const spare = number(step.values, 'spare_turns');
		const tails = `tails of ${millimetres(number(step.values, 'tail_m'))} are in the lengths`;
		return {
			title: `Cut for the ${part(step)}: ${cuts(step, unit)}`,
			more: spare ? `${tails}, and a turn more than planned: it comes off again` : tails
		};
	},
	twist: ({ values: v }, unit) => ({
		title:
			number(v, 'wires') === 2
				? `Twist the short wire with the first ${length(number(v, 'share_m'), unit)} of the long one`
				: `Twist the ${count(number(v, 'wires'))} wires along their whole length`,
		more: 'close and even: what lies apart leaks, and that costs most builds'
	}),
	wind_pair: ({ values: v }) => {
		const n = number(v, 'turns');
		return text(v, 'over')
			? {
					title: `Wind ${n} passes of the short wire over it`,
					more: 'in the middle of the long winding, the same way round'
				}
			: {
					title: `${n} passes of both wires together`,
					more: `every pass from the front; after pass ${n} the short wire's end comes out`
				};
	},
	wind_on: ({ values: v }) => ({
		title: passesOn(number(v, 'from'), number(v, 'turns'), number(v, 'crosses_after')),
		more: number(v, 'crosses_after')
			? 'the long wire alone; both halves go the same way round the core'
			: 'the long wire alone'
	}),
	wind_tapped: ({ values: v }) => ({
		title: passesOn(0, number(v, 'turns'), number(v, 'crosses_after')),
		more: `make the tap after pass ${number(v, 'tap_after')}: a loop, twisted, not cut`
	}),
	wind_in_hand: ({ values: v }) => ({
		title: `${number(v, 'turns')} passes with ${count(number(v, 'wires'))} wires in hand${number(v, 'rings') > 1 ? ', on each ring' : ''}`,
		more: 'mark both ends of every wire before you go on'
	}),
	wind_ring: ({ values: v }) => ({
		title: passesOn(0, number(v, 'turns'), number(v, 'crosses_after')),
		more: 'every pass from the front; one pass through the hole is one turn'
	}),
	wind_coil: ({ values: v }) => ({
		title: `${turns(number(v, 'turns'))} turns on ${millimetres(number(v, 'former_m'))}, one every ${millimetres(number(v, 'pitch_m'))}`,
		more: `the winding is ${millimetres(number(v, 'length_m'))} long${number(v, 'tap_turns') ? `; tap at ${turns(number(v, 'tap_turns'))} turns` : ''}`
	}),
	count: ({ values: v }) => ({
		title: `Count inside the hole: ${number(v, 'passes')} passes`,
		more: `outside you see ${number(v, 'returns')} full returns, one fewer`
	}),
	coax_capacitor: (step, unit) => ({
		title: `Cut ${length(step.cuts[0]?.length_m ?? 0, unit)} of coax as the capacitor`,
		more: `${step.cuts[0]?.name}; far end open; trimmed to ${length(number(step.values, 'coax_m'), unit)} it is ${quantity(number(step.values, 'capacitance_f'), 'F')}; ${quantity(number(step.values, 'voltage_v'), 'V', 2)} peak lie across it`
	}),
	capacitor: ({ values: v }) => ({
		title: `Make the ${quantity(number(v, 'capacitance_f'), 'F')} capacitor ready`,
		more: `${quantity(number(v, 'voltage_v'), 'V', 2)} peak lie across it: take one rated for twice that (common practice)`
	}),
	section: (step, unit) => ({
		title: `Cut the ${part(step)}: ${times(number(step.values, 'pieces'))}${length(number(step.values, 'length_m'), unit)}`,
		more: `${step.cuts[0]?.name}; measured from braid to braid`
	}),
	stub: (step, unit) => ({
		title: `Cut the stub: ${length(step.cuts[0]?.length_m ?? 0, unit)}, far end ${text(step.values, 'end')}`,
		more: `trim to ${length(number(step.values, 'length_m'), unit)}, watching the SWR`
	}),
	bench_part: (step) => benchPart(step),
	solder: ({ values: v }) => ({
		title:
			text(v, 'enamelled') === 'no'
				? 'Solder as drawn'
				: 'Scrape or burn off the enamel; solder as drawn',
		more: 'leads short, joints bright'
	}),
	bench_match: ({ values: v }) => ({
		title: `Bench: ${benchParts(number(v, 'resistor_ohm'), number(v, 'inductance_h'), number(v, 'capacitance_f'))} across the posts, then sweep`,
		more: 'inside the shaded band? Go on. Outside it: the winding desk says what is wrong'
	}),
	box: ({ values: v }) => ({
		title: 'Into the box: tie it down, drip hole at the bottom, pull test',
		more: `${text(v, 'box') || 'no box of the list takes it: measure yours'}; then continuity, and no shorts`
	}),
	bench_again: () => ({
		title: 'Sweep again on the bench',
		more: 'ties, glue and the box move it a little: keep both sweeps'
	}),
	choke_in_line: () => ({
		title: 'Put the choke into the coax',
		more: 'right below the box, unless the wire desk gave it another place'
	}),
	into_wire: (step) => ({
		title:
			number(step.values, 'count') > 1
				? `Put the ${count(number(step.values, 'count'))} ${part(step)}s into the wire`
				: `Put the ${part(step)} into the wire`,
		more: 'the pull of the wire goes through the former, not through the joints'
	}),
	cut_line: (step, unit) => ({
		title: `Cut the coax: ${length(step.cuts[0]?.length_m ?? 0, unit)}`,
		more: `${step.cuts[0]?.name}; a plug on each end, then short, open and continuity`
	}),
	cut_wires: (step, unit) => ({
		title: `Cut the antenna: ${cuts(step, unit)}`,
		more: 'what is over the mark is for fixing and folding back: fold before you cut'
	}),
	hang: () => ({ title: 'Hang it', more: 'insulators at the ends, slack for the wind' }),
	connect: () => ({
		title: 'Connect it to the wire that hangs',
		more: 'the box takes no pull'
	}),
	sweep: () => ({
		title: 'Sweep it where it hangs',
		more: 'the analyser in place of the radio; keep the sweep'
	}),
	trim: () => ({
		title: 'Fold to the mark',
		more: 'the Trim desk says how much; two rounds should do'
	})
};

/** A step in words. */
export const stepText = (step: Step, unit: LengthUnit): Said => said[step.code](step, unit);

const cautions: Record<Caution['code'], (c: Caution) => string> = {
	fumes: () => 'Enamel, flux and solder give fumes: open the window.',
	drilling: () => 'Drilling: goggles on, hold the box in a vice.',
	hot: () => 'Sent into, core and resistor get hot; an analyser does not warm them.',
	voltage: ({ values: v }) =>
		`${quantity(number(v, 'voltage_v'), 'V', 2)} peak at the wire's post with ${watts(number(v, 'power_w'))}: out of reach, never touched while sending.`,
	power_lines: () =>
		'Look up for power lines first. No wire, rope or mast may ever fall or swing onto one.',
	lightning: () => 'Bond and disconnect for lightning as your local code asks.',
	low_wires: () => 'Mark low wires; keep them out of where people walk.',
	low_power: () => 'Low power until the match is known; listen first; only where you are licensed.'
};

/** A caution in words. */
export const cautionText = (caution: Caution): string => cautions[caution.code](caution);

const trait = (thing: Thing, name: string) =>
	typeof thing.traits[name] === 'number' ? (thing.traits[name] as number) : 0;

const names: Record<Thing['kind'], (thing: Thing, unit: LengthUnit) => string> = {
	ring: (t) => `ring ${t.name}`,
	wire: (t) => t.name,
	cable: (t) => t.name,
	antenna_wire: (t) => (t.name === 'wire' ? 'antenna wire' : `antenna wire, ${t.name}`),
	capacitor: (t) =>
		`${t.name || `${quantity(trait(t, 'capacitance_f'), 'F')} capacitor, or two that make it`}; ${quantity(trait(t, 'voltage_v'), 'V', 2)} peak across`,
	variable_capacitor: (t) =>
		`variable capacitor to ${quantity(trait(t, 'capacitance_f'), 'F')}, over ${quantity(trait(t, 'voltage_v'), 'V', 2)} peak`,
	former: (t) =>
		`tube ${millimetres(trait(t, 'outer_m'))} across, over ${millimetres(trait(t, 'length_m'))} long`,
	box: (t) => t.name || 'box or tube that takes it',
	socket: () => 'coax socket',
	post: (t) => (t.count === 1 ? 'terminal post' : 'terminal posts'),
	resistor: (t) =>
		`${benchParts(trait(t, 'resistance_ohm'), trait(t, 'inductance_h'), trait(t, 'capacitance_f'), ' resistor')} for the bench, not wire-wound`,
	ties: () => 'cable ties, heat-shrink',
	insulators: () => 'insulators, cord'
};

/** A thing to take: how much of it, and what. */
export function thingText(thing: Thing, unit: LengthUnit): { much: string; what: string } {
	const each = thing.length_m === null ? '' : length(thing.length_m, unit);
	const many = thing.count < 2 ? '' : `${thing.count} ×`;
	return {
		much: [many, each].filter(Boolean).join(' '),
		what: names[thing.kind](thing, unit)
	};
}

/** Where a thing comes from. */
export function sourceText(thing: Thing): string {
	const price = thing.price ? `, ${thing.price}` : '';
	switch (thing.source) {
		case 'measured':
			return `drawer, measured${price}`;
		case 'drawer':
			return `drawer${price}`;
		case 'too_few':
			return `${thing.have} in the drawer, ${thing.count - (thing.have ?? 0)} to buy${price}`;
		default:
			return `to buy${price}`;
	}
}

/** How many of several builds will hold. */
export function batchText(batch: NonNullable<Sheet['batch']>): string {
	const about = `About ${Math.round(batch.expected)} of ${batch.builds} will hold their bands`;
	if (batch.low === batch.high) return `${about}.`;
	return `${about}; ${batch.low} to ${batch.high}, nine times in ten.${batch.first_alone ? ' They stray together, with core and winding alike: make one, sweep it, then the others.' : ''}`;
}

/** What lies on the bench in place of the antenna. */
export function loadText(load: NonNullable<Sheet['load']>): string {
	const parts = benchParts(load.resistor_ohm, load.inductance_h ?? 0, load.capacitance_f ?? 0);
	return `${parts} in place of the antenna: SWR ${swr(load.swr)} at ${megahertz(load.at_hz)} MHz.`;
}
