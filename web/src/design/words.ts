/** What is said of designs wherever they are met: what differs, what a line takes, for which bands. */

import type { Content, Target } from '../lib/api/client';
import { length, megahertz, millimetres, quantity, swr } from '../lib/units/format';
import { isWound, type Part, woundName } from './content';

/** What became of one design in another: parts, worst SWR. */
export function designDifference(a: Content, b: Content): string[] {
	const name = (e: Content['elements'][number]) =>
		e.kind === 'line'
			? 'coax'
			: isWound(e)
				? 'wound'
				: `${e.place} ${e.kind === 'coil' ? 'coil' : e.kind === 'coax_capacitor' ? 'coax capacitor' : 'capacitor'}`;
	const value = (e: Content['elements'][number]) =>
		e.kind === 'line'
			? `${length(e.length_m, 'm')} of ${e.cable}`
			: isWound(e)
				? woundName(e)
				: e.kind === 'coil'
					? `${quantity(e.inductance_h, 'H')} on ${millimetres(e.former_m)}`
					: quantity(e.capacitance_f, 'F');
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

/** What a part is called wherever it is met: by where it goes, and what it is. */
export function partTitle(part: Part): string {
	return `${part.place === 'series' ? 'Series' : 'Shunt'} ${part.kind === 'coil' ? 'coil' : 'capacitor'}`;
}

/** A target in a few words: its name, edges and limit. */
export function targetText(target: Target): string {
	const edges = `${megahertz(target.low_hz)} to ${megahertz(target.high_hz)} MHz`;
	return `${target.label} (${edges}, ${swr(target.swr_limit)})`;
}

/** What the feedline takes, and how much of that is the mismatch's. */
export function lineLoss(made: { loss_db?: number | null; matched_loss_db: number }): string {
	const loss = made.loss_db;
	if (loss === null || loss === undefined) return '';
	const more = loss - made.matched_loss_db;
	return `loses ${loss.toFixed(2)} dB${more > 0.02 ? `, ${more.toFixed(2)} by its SWR` : ''}`;
}
