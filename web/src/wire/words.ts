/** Sentences of the wire desk: numbers of an antenna, how low it goes, why a rule says otherwise. */

import type { Schemas } from '../lib/api/client';
import {
	figures,
	length,
	type LengthUnit,
	megahertz,
	percent,
	quantity
} from '../lib/units/format';

/** Names of an antenna's numbers, by their keys. */
export type Labels = Partial<Record<string, Schemas['NumberOut']>>;

type Study = Schemas['StudyOut'];
type Unit = Schemas['NumberOut']['unit'];

/** A plain number of an antenna with its unit. */
export function numberText(unit: Unit, value: number, tape: LengthUnit): string {
	if (unit === 'm') return length(value, tape);
	if (unit === 'deg') return `${figures(value, value < 10 ? 1 : 3)}°`;
	if (unit === 'H' || unit === 'F' || unit === 'Hz') return quantity(value, unit);
	if (unit === 'share') return percent(value);
	return String(Math.round(value));
}

/** What a quantity field reads a number as. */
export const quantityKinds = {
	m: 'length',
	deg: 'angle',
	H: 'inductance',
	F: 'capacitance',
	Hz: 'frequency',
	share: 'share',
	Q: 'quality'
} as const;

/** Decibels with their sign in words. */
function decibels(by: number): string {
	if (Math.abs(by) < 0.05) return 'as much';
	return `${Math.abs(by).toFixed(1)} dB ${by < 0 ? 'less' : 'more'}`;
}

/** How low it goes against another antenna: at the lowest that count, and at the highest. */
export function lowText(study: Study, other: 'vertical' | 'dipole'): string {
	const own = study.cuts.find((c) => c.key === 'this')?.compared_dbi ?? [];
	const than = study.cuts.find((c) => c.key === other)?.compared_dbi ?? [];
	const name = other === 'vertical' ? 'a quarter-wave on 16 radials' : 'a level dipole as high';
	const at = (i: number) => {
		const a = own[i];
		const b = than[i];
		return a === null || b === null || a === undefined || b === undefined
			? 'not known'
			: decibels(a - b);
	};
	const last = study.compared_deg.length - 1;
	const told = [0, 1, last].map((i) => `${at(i)} at ${study.compared_deg[i]}°`);
	return `Against ${name}: ${told.join(', ')}.`;
}

/** Longer or shorter by a share, in percent. */
export function longerText(share: number): string {
	if (Math.abs(share) < 0.0005) return 'the same';
	return `${Math.abs(100 * share).toFixed(1)} % ${share > 0 ? 'longer' : 'shorter'}`;
}

/** What of the place makes the model's length another than a bare wire's in free space. */
export function reasonText(reason: Schemas['ReasonOut']): string {
	const by = longerText(reason.longer);
	return reason.code === 'covering'
		? `its covering makes it ${by}`
		: `height, ground and what hangs with it make it ${by}`;
}

/** Where it dips, with the range that nine in ten lie in. */
export function dipText(study: Study): string {
	const { dip_hz: dip } = study.sketch;
	if (dip === null) return 'It has no dip in what is drawn.';
	if (study.dip_low_hz === null || study.dip_high_hz === null)
		return `The dip should come at ${megahertz(dip)} MHz; how far it strays is not known here.`;
	return `The dip should come between ${megahertz(study.dip_low_hz)} and ${megahertz(study.dip_high_hz)} MHz, nine times in ten.`;
}

/** A change of frequency in kHz, with its direction. */
export function movesText(hz: number): string {
	const khz = Math.abs(hz) / 1e3;
	return `${figures(khz, khz < 100 ? 2 : 3)} kHz ${hz < 0 ? 'lower' : 'higher'}`;
}

/** What differs between a recipe and this place, by name. */
export function differenceText(
	difference: Schemas['DifferenceOut'],
	labels: Labels,
	tape: LengthUnit
): string {
	const { name, there, here, moves_hz: moves } = difference;
	const number = labels[name];
	const what =
		name === 'stock'
			? 'another wire or covering'
			: name === 'soil'
				? 'other soil'
				: number && there !== null && here !== null
					? `${number.label} ${numberText(number.unit, here, tape)}, not ${numberText(number.unit, there, tape)}`
					: name;
	return `${what}: ${moves === null ? 'what it moves is not known here' : movesText(moves)}`;
}
