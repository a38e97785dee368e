/** Reading and changing a design's content; pure, so that it is tested without a page. */

import { type Made, remade } from '../drawer/pieceUse';
import type { Accessory, Candidate, Coil, Content, Element } from '../lib/api/client';

/** A coil or a capacitor: an inductance or a capacitance. */
export type Lumped = Extract<Element, { kind: 'coil' | 'coax_capacitor' | 'capacitor' }>;
/** A length of line in a match. */
export type OfLine = Extract<Element, { kind: 'section' | 'stub' }>;
/** A tuner at the radio. */
export type Tuner = Extract<Element, { kind: 'tuner' }>;
/** What is set on a ruler. */
export type Part = Lumped | OfLine;
export type Line = Extract<Element, { kind: 'line' }>;
/** Wound on a ring: set on the winding desk, not on a ruler. */
export type Wound = Extract<Element, { kind: 'ring_coil' | 'transformer' }>;

/** Whether an element is wound on a ring. */
export function isWound(element: Element): element is Wound {
	return element.kind === 'ring_coil' || element.kind === 'transformer';
}

/** What an unun or a balun is, with its impedance ratio. */
export function woundTitle(wound: Extract<Wound, { kind: 'transformer' }>): string {
	const fixed: Record<string, string> = {
		'two-in-hand': '4 : 1 unun',
		'three-in-hand': '9 : 1 unun',
		'four-in-hand': '16 : 1 unun',
		'voltage-balun-4': '4 : 1 voltage balun',
		'current-balun-1': '1 : 1 current balun',
		'current-balun-4-one': '4 : 1 current balun',
		'current-balun-4-two': '4 : 1 current balun, two rings'
	};
	const ratio = (wound.secondary_turns / wound.primary_turns) ** 2;
	if (wound.tuning) return 'Tuned coupler';
	return (
		fixed[wound.wiring] ??
		`${Number(ratio.toFixed(1))} : 1 ${wound.wiring === 'separate' ? 'transformer' : 'unun'}`
	);
}

/** What a thing wound on a ring is called: its turns, and its core. */
export function woundName(wound: Wound): string {
	const { mix, size, stack } = wound.core;
	const core = `${stack && stack > 1 ? `${stack} × ` : ''}${size}-${mix}`;
	if (wound.kind === 'ring_coil') return `${wound.turns} turns on ${core}`;
	const inHand = { 'two-in-hand': 2, 'three-in-hand': 3, 'four-in-hand': 4 }[
		wound.wiring as string
	];
	if (inHand) return `${wound.primary_turns} turns of ${inHand} wires on ${core}`;
	if (wound.wiring === 'tapped' || wound.wiring === 'separate')
		return `${wound.primary_turns} in ${wound.secondary_turns} on ${core}`;
	return `${wound.primary_turns} turns on ${core}`;
}

/** The parts of the match, the series one first. */
export function parts(content: Content): Part[] {
	const found = content.elements.filter((e): e is Part => !isBelow(e) && !isWound(e));
	return [...found].sort((a, b) => Number(a.place === 'shunt') - Number(b.place === 'shunt'));
}

/** The feedline below the match; undefined where the radio sits at the match. */
export function feedline(content: Content): Line | undefined {
	return content.elements.find((e): e is Line => e.kind === 'line');
}

/** Whether an element stands below the match: the feedline, or a tuner at the radio. */
export function isBelow(element: Element): element is Line | Tuner {
	return element.kind === 'line' || element.kind === 'tuner';
}

/** What stands below the match, the line first. */
export function below(content: Content): (Line | Tuner)[] {
	return content.elements.filter(isBelow);
}

/** The tuner at the radio; undefined without one. */
export function tunerOf(content: Content): Tuner | undefined {
	return content.elements.find((e): e is Tuner => e.kind === 'tuner');
}

/** The content with a tuner at the radio, changed so; null takes it out. */
export function withTuner(content: Content, changes: Partial<Tuner> | null): Content {
	const others = content.elements.filter((e) => e.kind !== 'tuner');
	if (changes === null) return { ...content, elements: others };
	const present = tunerOf(content) ?? { kind: 'tuner', key: 'tuner', place: 'through' };
	return { ...content, elements: [...others, { ...present, ...changes } as Tuner] };
}

/** What a ruler sets: henry of a coil, farad of a capacitor, metres of a line. */
export function valueOf(part: Part): number {
	if (isOfLine(part)) return part.length_m;
	return part.kind === 'coil' ? part.inductance_h : part.capacitance_f;
}

/** The unit of that value. */
export function unitOf(part: Part): 'H' | 'F' | 'm' {
	return isOfLine(part) ? 'm' : part.kind === 'coil' ? 'H' : 'F';
}

/** Whether a part is a length of line. */
export function isOfLine(part: Element): part is OfLine {
	return part.kind === 'section' || part.kind === 'stub';
}

export function isCoil(part: Part): part is Coil & { kind: 'coil' } {
	return part.kind === 'coil';
}

/** The content with one element changed; what is made otherwise is no longer the piece of the drawer that it was. */
export function withElement(
	content: Content,
	key: string,
	changes: Partial<Element> | Partial<Accessory>
): Content {
	const change = <T extends Element | Accessory>(e: T): T =>
		e.key === key
			? ({ ...e, ...(e.kind === 'tuner' ? changes : remade(e, changes as Partial<Made>)) } as T)
			: e;
	return {
		...content,
		elements: content.elements.map(change),
		beside: (content.beside ?? []).map(change)
	};
}

/** The content with one part at another value. */
export function withValue(content: Content, part: Part, value: number): Content {
	const changes = isOfLine(part)
		? { length_m: value }
		: part.kind === 'coil'
			? { inductance_h: value }
			: part.kind === 'capacitor'
				? // Of another value it is no longer the two that made it.
					{ capacitance_f: value, pair: null }
				: { capacitance_f: value };
	return withElement(content, part.key, changes);
}

/** The content with a feedline changed, or put below where there is none. */
export function withLine(content: Content, changes: Partial<Line>): Content {
	const line = feedline(content);
	if (line) return withElement(content, line.key, changes);
	const made: Line = {
		kind: 'line',
		key: 'line',
		place: 'through',
		cable: 'foam-6',
		length_m: 0,
		piece: null,
		...changes
	};
	const above = content.elements.filter((e) => e.kind !== 'tuner');
	const tuner = tunerOf(content);
	return { ...content, elements: [...above, made, ...(tuner ? [tuner] : [])] };
}

/** To which share of its length a swept wire is cut for its match; 1 as it was swept. */
export function shortenedOf(content: Content): number {
	return content.antenna.kind === 'sweep' ? (content.antenna.shortened ?? 1) : 1;
}

/**
 * A way to match that was found, as it would be made, above the line that there is. It says how short its own wire is
 * cut; where another wire hangs there by now, that one stays.
 */
export function withWay(content: Content, way: Content): Content {
	const [mine, its] = [content.antenna, way.antenna];
	const same = mine.kind === 'sweep' && its.kind === 'sweep' && mine.sweep_id === its.sweep_id;
	return {
		...content,
		antenna: same ? its : mine,
		elements: [...way.elements.filter((e) => !isBelow(e)), ...below(content)]
	};
}

/** Whether the matches of two contents are made of just the same parts. */
export function sameMatch(a: Content, b: Content): boolean {
	const match = (c: Content) =>
		JSON.stringify([shortenedOf(c), c.elements.filter((e) => !isBelow(e))]);
	return match(a) === match(b);
}

/**
 * A network that was found, made as the parts in hand are: what one said of wire, former, cable and tolerance stays,
 * and so does all beside the network. Only kinds, places and values are the found one's.
 */
export function adopted(found: Content, present: Content): Content {
	const mine = parts(present);
	const made = found.elements
		.filter((e) => !isBelow(e))
		.map((e): Element => {
			if (isWound(e)) return e;
			const of = e as Part;
			if (isOfLine(of)) return e;
			const like = mine.find((m) => m.kind === of.kind && m.place === of.place);
			const same = like ?? mine.find((m) => m.kind === of.kind);
			if (!same) return e;
			const value =
				of.kind === 'coil'
					? { inductance_h: of.inductance_h }
					: { capacitance_f: of.capacitance_f };
			return { ...same, ...remade(same, value), key: of.key, place: of.place } as Element;
		});
	return { ...present, elements: [...made, ...below(present)] };
}

/** How new parts are made: as those in hand. */
export function makingOf(content: Content) {
	const coil = parts(content).find(isCoil);
	const stub = parts(content).find((p) => p.kind === 'coax_capacitor');
	return {
		former_m: coil?.former_m ?? 0.032,
		wire: coil?.wire ?? 'cu-1.6',
		pitch_m: coil ? (coil.pitch_m ?? null) : null,
		cable: stub?.kind === 'coax_capacitor' ? stub.cable : 'pe-5'
	};
}

/** What networks are compared for: all of a design but the network itself. */
export function frameOf(content: Content): string {
	const beside = content.elements.filter((e) => isBelow(e) || isWound(e));
	return JSON.stringify([content.antenna, content.targets, beside, makingOf(content)]);
}

type Shape = Pick<Candidate, 'series' | 'shunt' | 'shunt_at'>;

/** Which L a content is; null where it is none. */
export function shapeOf(content: Content): Shape | null {
	const found = parts(content);
	const [series, shunt] = found;
	if (content.elements.some((e) => isWound(e) || isOfLine(e))) return null;
	if (found.length !== 2 || series?.place !== 'series' || shunt?.place !== 'shunt') return null;
	const kind = (p: Part) => (p.kind === 'coil' ? 'coil' : 'capacitor');
	const first = content.elements.find((e) => !isBelow(e));
	return {
		series: kind(series),
		shunt: kind(shunt),
		shunt_at: first?.place === 'shunt' ? 'load' : 'source'
	};
}

export function sameShape(a: Shape | null, b: Shape | null): boolean {
	return a?.series === b?.series && a?.shunt === b?.shunt && a?.shunt_at === b?.shunt_at;
}

/** A name for an L: what is in series, what lies across, and where. */
export function shapeName(shape: Shape): string {
	const series = { coil: 'Coil', capacitor: 'C' }[shape.series];
	const shunt = { coil: 'coil', capacitor: 'C' }[shape.shunt];
	return `${series} in series, ${shunt} across the ${shape.shunt_at === 'source' ? 'coax' : 'wire'}`;
}

/** Whether two lists of targets are the same in every edge and limit. */
export function sameTargets(a: Content['targets'], b: Content['targets']): boolean {
	return a.map(targetKey).join() === b.map(targetKey).join();
}

/** Whether all of some targets are among others. */
export function servesSome(some: Content['targets'], of: Content['targets']): boolean {
	const known = new Set(of.map(targetKey));
	return some.every((t) => known.has(targetKey(t)));
}

function targetKey(t: Content['targets'][number]): string {
	return JSON.stringify([t.label, t.low_hz, t.high_hz, t.swr_limit]);
}

/** Where a ruler runs: a third below the value to a third above, on round numbers. */
export function rulerRange(value: number): { low: number; high: number } {
	const step = 10 ** Math.floor(Math.log10(value)) / 5;
	return {
		low: Math.max(step, Math.floor((value * 0.68) / step) * step),
		high: Math.ceil((value * 1.36) / step) * step
	};
}

/** The stretch of frequency to draw: the targets with as much again at each side, inside the sweep. */
export function chartRange(
	targets: { low_hz: number; high_hz: number }[],
	sweepLow: number,
	sweepHigh: number
): { lowHz: number; highHz: number } {
	const low = Math.min(...targets.map((t) => t.low_hz));
	const high = Math.max(...targets.map((t) => t.high_hz));
	const aside = Math.max((high - low) * 1.3, high * 0.025);
	// Bands far apart have no more room beside them than a tenth of themselves.
	return {
		lowHz: Math.max(sweepLow, low - Math.min(aside, 0.1 * low)),
		highHz: Math.min(sweepHigh, high + Math.min(aside, 0.1 * high))
	};
}
