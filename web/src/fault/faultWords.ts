/** The words of the fault desk: what things are called, what a test is, what it reads, what to mind. */

import type { components } from '../lib/api/schema';
import { figures, megahertz, percent, quantity, swr } from '../lib/units/format';
import type { LengthUnit } from '../lib/units/format';

type Schemas = components['schemas'];
export type Fault = Schemas['FaultOut'];
export type Offer = Schemas['OfferOut'];
export type Left = Schemas['LeftOut'];
export type Shows = Schemas['ShowsOut'];
export type FaultTest = Schemas['FaultTestOut'];
export type Element = Schemas['ElementOut'];
export type Code = Left['code'];
export type ActCode = Offer['code'];
export type Begun = Schemas['FaultBegunData'];
export type Reading = NonNullable<FaultTest['reading']>;
export type Happened = NonNullable<Begun['happened']>[number];
export type BandAnswer = NonNullable<Begun['bands']>[string];

export const happenedWords: Record<Happened, string> = {
	storm: 'a storm',
	rain: 'long rain, or thaw',
	digging: 'somebody dug or mowed',
	tuner_used: 'a tuner was used',
	ladder_work: 'work was done on it',
	moved_leads: 'leads in the shack were moved',
	noise_up: 'noise went up',
	noise_down: 'noise went down'
};

export const bandWords: Record<BandAnswer, string> = {
	fine: 'as before',
	moved_down: 'dip lower',
	moved_up: 'dip higher',
	gone: 'gone'
};

const plain: Record<string, string> = {
	feed: 'joint at the feed',
	wires: 'how the wires hang',
	radials: 'radials',
	choke: 'choke',
	'feed plug': 'plug at the feedpoint',
	line: 'coax',
	'radio plug': 'plug at the radio’s end',
	lead: 'short lead at the radio',
	tuner: 'tuner'
};

/** What an element is called. */
export function elementName(key: string): string {
	const known = plain[key];
	if (known) return known;
	const part = /^(trap|coil)(\d+)-([a-z]+)(\d+)$/.exec(key);
	if (part) {
		const [, kind, nth, role, number] = part;
		return `${kind} ${nth} of ${roleName(role ?? '', number ?? '1')}`;
	}
	const wire = /^(leg|wire|side|counterpoise|radial|spoke)(\d+)$/.exec(key);
	if (wire) return roleName(wire[1] ?? '', wire[2] ?? '1');
	return key;
}

function roleName(role: string, number: string): string {
	if (role === 'wire' || role === 'counterpoise')
		return number === '1' ? role : `${role} ${number}`;
	return `${role} ${number}`;
}

const faults: Record<Code, string> = {
	nothing: 'nothing is wrong now',
	something_else: 'something that is not on the list',
	open: 'open',
	shorted: 'shorted',
	resistance: 'a bad joint',
	damp: 'damp',
	wet: 'water in it',
	aged: 'lossy all along',
	core_broken: 'core broken',
	turn_shorted: 'a turn shorted',
	turns_shorted: 'turns shorted',
	capacitor_gone: 'capacitor gone',
	value_off: 'value off',
	detuned: 'off its frequency',
	end_gone: 'far end not as it was',
	left_in: 'left in the line',
	broken: 'broken',
	fallen: 'down, or hanging low',
	end_down: 'end down',
	touching: 'touching something of metal',
	radials_gone: 'gone, or their joint'
};

/** A fault alone. */
export function faultName(code: Code): string {
	return faults[code];
}

/** A place along a line, no finer than it is known: a tenth of a metre, a quarter of a foot. */
export function place(metres: number, unit: LengthUnit): string {
	return unit === 'ft' ? `${(metres / 0.3048).toFixed(0)} ft` : `${metres.toFixed(1)} m`;
}

/** One suspect in words, with its place or size where one is known. */
export function leftText(
	left: Pick<Left, 'key' | 'code' | 'at_m' | 'amount'>,
	unit: LengthUnit
): string {
	if (!left.key) return faults[left.code];
	const name = elementName(left.key);
	if (left.at_m !== null && left.at_m !== undefined)
		return `${name}: ${faults[left.code]} near ${place(left.at_m, unit)}`;
	if (left.code === 'resistance' && left.amount)
		return `${name}: ${faults[left.code]}, some ${quantity(left.amount, 'Ω', 2)}`;
	if (left.code === 'broken' && left.amount)
		return `${name}: broken ${percent(left.amount)} of the way out`;
	if (left.code === 'detuned' && left.amount)
		return `${name}: ${left.amount < 1 ? 'too low' : 'too high'} by ${percent(Math.abs(1 - left.amount))}`;
	return `${name}: ${faults[left.code]}`;
}

interface ActWords {
	/** What to do, as a title. */
	title: string;
	/** How, step by step, safely. */
	how: string;
	/** What is read. */
	asks: string;
}

const acts: Record<ActCode, ActWords> = {
	as_it_is: {
		title: 'Sweep it as it is',
		how: 'The analyser in place of the radio, on the end of the short lead; touch nothing else.',
		asks: 'the sweep'
	},
	line_straight: {
		title: 'Tuner and lead out',
		how: 'Take the coax off the tuner and the short lead, and screw it straight to the analyser.',
		asks: 'the sweep'
	},
	radio_load: {
		title: 'Lead and tuner on a dummy load',
		how: 'A 50 Ω dummy load where the coax was, the tuner as it stands; sweep from the radio’s side.',
		asks: 'the sweep'
	},
	ohm_shack: {
		title: 'Ohmmeter across the coax',
		how: 'Take the coax off in the shack. Middle to braid with an ohmmeter, everything else as it hangs.',
		asks: 'ohms, or no path'
	},
	line_load: {
		title: 'Dummy load at the far end',
		how: 'Take the coax off at the feedpoint and close it with a dummy load. Sweep from the shack.',
		asks: 'the sweep'
	},
	line_open: {
		title: 'Far end of the coax open',
		how: 'Take the coax off at the feedpoint and leave it open. Sweep from the shack.',
		asks: 'the sweep'
	},
	line_short: {
		title: 'Far end of the coax shorted',
		how: 'Take the coax off at the feedpoint and short it there. Sweep from the shack.',
		asks: 'the sweep'
	},
	ohm_line_open: {
		title: 'Ohmmeter on the coax, far end open',
		how: 'Take the coax off at both ends and leave the far one open. Middle to braid in the shack.',
		asks: 'ohms, or no path'
	},
	ohm_line_short: {
		title: 'Ohmmeter on the coax, far end shorted',
		how: 'Take the coax off at both ends and short the far one. Middle to braid in the shack.',
		asks: 'ohms, or no path'
	},
	at_feed: {
		title: 'Antenna directly at its feedpoint',
		how: 'The analyser at the feedpoint in place of the coax, on as short a lead as can be.',
		asks: 'the sweep'
	},
	above_match: {
		title: 'The wires alone, above the match',
		how: 'The analyser on the wires themselves, box and unun off.',
		asks: 'the sweep'
	},
	match_load: {
		title: 'The match on a resistor',
		how: 'A resistor in place of the wires; sweep below the box.',
		asks: 'the sweep'
	},
	ohm_feed: {
		title: 'Ohmmeter into the feedpoint',
		how: 'Take the coax off at the feedpoint and measure upwards, pin to shell.',
		asks: 'ohms, or no path'
	},
	ohm_antenna: {
		title: 'Ohmmeter on the wires alone',
		how: 'Wires off the box; an ohmmeter between their two ends.',
		asks: 'ohms, or no path'
	},
	look_shack: {
		title: 'Look at lead, plug and tuner',
		how: 'Is a tuner in the line? Loosen, look, bend: a plug that turns, a braid that pulls out, green inside.',
		asks: 'whether you see it'
	},
	look_feed: {
		title: 'Open the feedpoint and look',
		how: 'Plug, box, choke: green or wet contacts, a cracked ring, a wire off its post.',
		asks: 'whether you see it'
	},
	look_line: {
		title: 'Walk along the coax',
		how: 'From end to end: a spade, a mower, a mouse, a kink, a joint that lies in water.',
		asks: 'whether you see it'
	},
	look_up: {
		title: 'Look up at the wires',
		how: 'From the ground, with field glasses: both ends up, nothing hanging, nothing touching.',
		asks: 'whether you see it'
	},
	look_radials: {
		title: 'Look at the radials',
		how: 'Their joint at the foot, and each as far as it can be seen.',
		asks: 'whether you see it'
	},
	ohm_across: {
		title: 'Ohmmeter across it',
		how: 'At the part itself, wire to wire: its turns are a path of part of an ohm.',
		asks: 'a path, none, or some ohms'
	},
	look_at: {
		title: 'Look at it closely',
		how: 'Along the wire by hand, bent every half metre: a strand that gives, a knot that ran.',
		asks: 'whether you see it'
	},
	twins: {
		title: 'Twin against twin',
		how: 'Both traps by the same link turn, one after the other: the one whose dip lies elsewhere.',
		asks: 'which one is off'
	}
};

/** What a test is called. */
export function actTitle(code: ActCode, of = ''): string {
	const { title } = acts[code];
	return of ? `${title}: ${elementName(of)}` : title;
}

/** How it is done; of a load which one. */
export function actHow(offer: Pick<Offer, 'code' | 'load_ohm'>): string {
	const { how } = acts[offer.code];
	if (offer.code === 'match_load' && offer.load_ohm)
		return how.replace('A resistor', `A resistor of ${quantity(offer.load_ohm, 'Ω', 2)}`);
	return how;
}

const answerWords: Record<string, Record<string, string>> = {
	twins: { alike: 'both alike' },
	ohm_across: { path: 'a path, under an ohm', none: 'no path', some: 'some ohms' },
	look: { yes: 'I see it', no: 'nothing to see' }
};

/** What an answer of a look is called. */
export function lookText(code: ActCode, answer: string, of = '', other = ''): string {
	if (code === 'twins' && answer === 'first') return `${elementName(of)} is off`;
	if (code === 'twins' && answer === 'second') return `${elementName(other)} is off`;
	return answerWords[code]?.[answer] ?? answerWords.look?.[answer] ?? answer;
}

/** What a test will show where it is one of the suspects. */
export function showsText(offer: Offer, shows: Shows, bands: string[]): string {
	if (shows.answer) return lookText(offer.code, shows.answer, offer.of, offer.other);
	if (offer.reads === 'ohm') return shows.open ? 'no path' : quantity(shows.ohm, 'Ω', 2);
	const on = (shows.swr ?? []).map(
		(v, i) => `${swr(v)}${bands.length > 1 ? ` on ${bands[i]}` : ''}`
	);
	return `SWR ${on.join(', ')}`;
}

/** A test that was done, and its answer. */
export function testText(test: FaultTest): string {
	const read = test.reading;
	if (test.code && read && !test.skipped)
		return readText({ ...test, code: test.code, other: '' }, read);
	const title = test.code ? actTitle(test.code, test.of) : test.act;
	return test.skipped ? `${title}: cannot be done` : title;
}

/** A test and what it read. */
export function readText(test: Pick<Offer, 'code' | 'of' | 'other'>, read: Reading): string {
	const title = actTitle(test.code, test.of);
	switch (read.kind) {
		case 'ohm':
			return `${title}: ${read.ohm === null ? 'no path' : quantity(read.ohm, 'Ω', 2)}`;
		case 'look':
			return `${title}: ${lookText(test.code, read.answer, test.of, test.other)}`;
		case 'dial':
			return `${title}: SWR ${read.points.map((p) => `${swr(p.swr)} at ${megahertz(p.frequency_hz)} MHz`).join(', ')}`;
		case 'bands':
			return `${title}: ${bandsText(read.bands)}`;
		default:
			return `${title}: swept`;
	}
}

/** What became of each band. */
export function bandsText(bands: Record<string, BandAnswer>): string {
	return Object.entries(bands)
		.map(([label, answer]) => `${label} ${bandWords[answer]}`)
		.join(', ');
}

export const whereWords: Record<Offer['where'], string> = {
	shack: 'shack',
	garden: 'garden',
	ladder: 'ladder'
};

export const thereWords: Record<Offer['where'], string> = {
	shack: 'in the shack',
	garden: 'in the garden',
	ladder: 'up the ladder'
};

const cautions: Record<Offer['cautions'][number], string> = {
	radio_off: 'Radio off and disconnected first; nothing transmits while you touch it.',
	discharge: 'Short the coax for a moment before you touch it: wind and storms charge wires.',
	power_lines: 'Look up first: no power line within reach of wire, mast or ladder.',
	ladder: 'A ladder last, on firm ground, in dry and calm weather.',
	not_alone: 'Not alone.',
	meter_bias: 'No ohmmeter on anything that is live.'
};

/** What to mind at a test. */
export function cautionText(codes: Offer['cautions']): string {
	return `${codes.map((c) => cautions[c]).join(' ')} Local rules and qualified people come before this page.`;
}

const mends: Record<Fault['mend'][number], string> = {
	mark_first: 'Mark left and right, top and bottom, before you take anything apart.',
	radio_off: 'Radio off and disconnected.',
	power_lines: 'Look up first: no power line within reach of wire, mast or ladder.',
	ladder: 'A ladder on firm ground, dry and calm weather, not alone.',
	dig: 'Cables and pipes lie in the ground: ask before you dig, and dig at the mark first.',
	seal: 'Dry it, clean it to bright metal, seal it again, leave the drip hole open.',
	low_power: 'Little power first, until the match is known.',
	sweep_again: 'Sweep it again at the same place, against the baseline.'
};

/** What to mind when it is mended. */
export function mendText(code: Fault['mend'][number]): string {
	return mends[code];
}

/** How a search stands, in one line. */
export function stateText(fault: Fault): string {
	switch (fault.state) {
		case 'found':
			return 'Found.';
		case 'alike':
			return `These ${fault.alike} cannot be told apart by any test that is left.`;
		case 'contradiction':
			return 'Two answers contradict each other.';
		case 'cannot_tell':
			return 'No test that is left tells more.';
		default:
			return '';
	}
}

/** Odds as a share, never more certain than they are. */
export function oddsText(odds: number): string {
	if (odds > 0.99) return 'over 99 %';
	if (odds < 0.01) return 'under 1 %';
	return `${figures(odds * 100, 2)} %`;
}
