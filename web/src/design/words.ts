/** What is said of designs wherever they are met: what differs, what a line takes, for which bands. */

import type { Content, Target } from '../lib/api/client';
import { length, megahertz, millimetres, quantity, swr } from '../lib/units/format';
import { isOfLine, isWound, type Lumped, type Part, type Tuner, woundName } from './content';

/** What became of one design in another: parts, worst SWR. */
export function designDifference(a: Content, b: Content): string[] {
	const name = (e: Content['elements'][number]) =>
		e.kind === 'line' ? 'coax' : e.kind === 'tuner' ? 'tuner' : isWound(e) ? 'wound' : whatOf(e);
	const value = (e: Content['elements'][number]) => {
		if (e.kind === 'tuner') return tunerText(e);
		if (e.kind === 'line' || isOfLine(e as Part)) {
			const of = e as Extract<typeof e, { length_m: number }>;
			return `${length(of.length_m, 'm')} of ${of.cable}`;
		}
		if (isWound(e)) return woundName(e);
		return e.kind === 'coil'
			? `${quantity(e.inductance_h, 'H')} on ${millimetres(e.former_m)}`
			: quantity((e as Exclude<Lumped, { kind: 'coil' }>).capacitance_f, 'F');
	};
	const said: string[] = [];
	for (const e of a.elements) {
		const other = b.elements.find((o) => o.key === e.key && o.kind === e.kind);
		if (!other) said.push(`${name(e)} ${value(e)} is gone`);
		else if (value(other) !== value(e)) said.push(`${name(e)} ${value(e)} → ${value(other)}`);
	}
	for (const e of b.elements) {
		if (!a.elements.some((o) => o.key === e.key && o.kind === e.kind)) {
			said.push(`${name(e)} ${value(e)} is new`);
		}
	}
	const bands = (c: Content) => c.targets.map(targetText).join(', ');
	if (bands(a) !== bands(b)) said.push(`for ${bands(a)} → for ${bands(b)}`);
	return said;
}

/** Of two alike in one place the second is told so; the search numbers their keys. */
export function secondOf(part: Part): string {
	return / 2$/.test(part.key) ? 'second ' : '';
}

/** What a part is, and where it goes: in small letters. */
function whatOf(part: Part): string {
	return secondOf(part) + kindOf(part);
}

function kindOf(part: Part): string {
	switch (part.kind) {
		case 'section':
			return part.pieces === 2 ? 'two sections of coax side by side' : 'section of coax';
		case 'stub':
			return `${part.end} stub`;
		case 'coax_capacitor':
			return `${part.place} coax capacitor`;
		default:
			return `${part.place} ${part.kind}`;
	}
}

/** What a part is called wherever it is met: by where it goes, and what it is. */
export function partTitle(part: Part): string {
	const said =
		part.kind === 'coax_capacitor' ? `${secondOf(part)}${part.place} capacitor` : whatOf(part);
	return said.replace(/^./, (c) => c.toUpperCase());
}

/** How much shorter a wire is cut for its match than it was swept. */
export function shorterText(share: number): string {
	return `${Number((100 * (1 - share)).toFixed(1))} % shorter`;
}

/** A target in a few words: its name, edges and limit. */
export function targetText(target: Target): string {
	const edges = `${megahertz(target.low_hz)} to ${megahertz(target.high_hz)} MHz`;
	return `${target.label} (${edges}, ${swr(target.swr_limit)})`;
}

/** What a tuner can be set to. */
export function tunerText(tuner: Tuner): string {
	const span = (low: number | undefined, high: number | undefined, unit: 'F' | 'H') =>
		`${quantity(low ?? 0, unit)} to ${quantity(high ?? 0, unit)}`;
	const coil = span(tuner.coil_low_h, tuner.coil_high_h, 'H');
	const input = span(tuner.input_low_f, tuner.input_high_f, 'F');
	return tuner.network === 'ell' ? `L, ${coil}, ${input}` : `C-L-C, ${coil}, ${input}`;
}

/** What the feedline takes, and how much of that is the mismatch's. */
export function lineLoss(made: { loss_db?: number | null; matched_loss_db: number }): string {
	const loss = made.loss_db;
	if (loss === null || loss === undefined) return '';
	const more = loss - made.matched_loss_db;
	return `loses ${loss.toFixed(2)} dB${more > 0.02 ? `, ${more.toFixed(2)} by its SWR` : ''}`;
}
