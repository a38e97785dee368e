/** Sentences of choosing: rules of length, margins, windows. */
import type { Schemas } from '../lib/api/client';
import { distance, figures, length, type LengthUnit } from '../lib/units/format';

type School = Schemas['LengthRuleOut'];

/** The three rules of half-waves, by their keys. */
export const ruleNames: [School['school'], string][] = [
	['practice', 'n · 468 ft / MHz'],
	['long-wire', '492 ft (n − 0.05) / MHz'],
	['model', 'the model']
];

/** So many half-waves in words. */
export function halfWaves(n: number): string {
	if (n % 1 !== 0) return `${Math.round(2 * n)} quarter-waves`;
	return n === 1 ? 'a half-wave' : `${n} half-waves`;
}

/** How far a length is from the nearest zone of a rule. */
export function marginText(margin: Schemas['MarginOut'], unit: LengthUnit): string {
	if (!margin.known) return 'not solved: outside the room';
	if (!margin.zone || margin.share === null || margin.metres === null)
		return 'no half-wave near it';
	const where = `${halfWaves(margin.zone.half_waves)} on ${margin.zone.label}`;
	if (margin.share === 0) return `on ${where}`;
	const by = length(Math.abs(margin.metres), unit);
	return `${figures(100 * margin.share, 2)} %, ${by} ${margin.metres > 0 ? 'under' : 'over'} ${where}`;
}

/** What the rules say of a length, in one sentence. */
export function verdictText(schools: School[], unit: LengthUnit): string {
	const told = schools.filter((s) => s.length.known);
	const on = told.filter((s) => s.length.share === 0);
	if (on.length === 0) {
		const least = told.reduce(
			(a, b) => ((b.length.share ?? Infinity) < (a.length.share ?? Infinity) ? b : a),
			told[0] as School
		);
		const name = ruleNames.find(([key]) => key === least?.school)?.[1] ?? '';
		return least
			? `Clear by ${told.length === 3 ? 'all three' : 'both rules'}. Nearest by ${name}: ${marginText(least.length, unit)}.`
			: '';
	}
	const said = on
		.map((s) => ruleNames.find(([key]) => key === s.school)?.[1] ?? s.school)
		.join(' and ');
	const zone = on[0]?.length.zone;
	const where = zone ? `${halfWaves(zone.half_waves)} on ${zone.label}` : '';
	return on.length === told.length
		? `By every rule it is ${where}.`
		: `The rules disagree: by ${said} it is ${where}, by the ${on.length === 1 ? 'others' : 'other'} it is clear. The model knows where it hangs; the rules do not.`;
}

export type SchoolKey = Schemas['SchoolCardOut']['key'];
export type Care = Schemas['RankingOut']['care'];

/** Schools by name, and what goes wrong with each in practice. A school without words fails the type check. */
export const schoolWords: Record<SchoolKey, { name: string; trouble: string }> = {
	dipole: {
		name: 'Half-wave dipole, level',
		trouble: 'Two supports and a coax that hangs from its middle; bent ends lower the dip.'
	},
	'inverted-v': {
		name: 'Inverted V',
		trouble: 'Ends within reach bite: keep them up. One band; on others a tuner fights the line.'
	},
	'linked-v': {
		name: 'Inverted V, linked',
		trouble: 'Lower it and open a link to change band. Links corrode: tin them.'
	},
	'sloping-dipole': {
		name: 'Half-wave dipole, sloping',
		trouble: 'The coax must leave at a right angle, or it becomes part of the antenna.'
	},
	'end-fed': {
		name: 'End-fed half-wave',
		trouble: 'The coax is part of it until a choke ends it; a hot unun on long overs.'
	},
	'any-length': {
		name: 'Any length, 9 : 1, with a tuner',
		trouble: 'Needs its tuner and a counterpoise on every band; indoors the shield carries noise.'
	},
	'trap-dipole': {
		name: 'Trap dipole',
		trouble:
			'A trap that takes water spoils its own band and the lower one. Narrower than plain wire.'
	},
	'fan-dipole': {
		name: 'Fan dipole',
		trouble:
			'The legs pull at each other: bands close together cannot be brought in. Tangles in wind.'
	},
	'loaded-dipole': {
		name: 'Short dipole with coils',
		trouble: 'Narrow: retune inside the band. The coils take what they take.'
	},
	vertical: {
		name: 'Quarter-wave vertical on radials',
		trouble: 'Half of it is in the ground: few radials, few watts. Hears more noise.'
	},
	'raised-vertical': {
		name: 'Vertical with raised radials',
		trouble: 'Radials at head height need marking, and a choke below them.'
	},
	'five-eighths': {
		name: 'Five eighths of a wave',
		trouble: 'Tall, and needs its own match at the foot.'
	},
	'loaded-vertical': {
		name: 'Short vertical with a coil',
		trouble: 'Narrow, and without many radials most of it warms the soil.'
	},
	'hat-vertical': {
		name: 'Short vertical under a hat',
		trouble: 'The spokes catch ice and wind; drooping ones want to be longer.'
	},
	'coil-isolated-vertical': {
		name: 'Vertical for two bands, a coil apart',
		trouble: 'A picofarad across the coil moves both dips: wind it open, keep it dry.'
	},
	'trap-vertical': {
		name: 'Trap vertical on radials',
		trouble: 'A wet trap spoils both bands; radials for the lower one.'
	},
	'sleeve-dipole': {
		name: 'Coaxial sleeve dipole',
		trouble: 'The sleeve must hang clear of the coax below it, with a choke there.'
	},
	triangle: {
		name: 'Full-wave triangle',
		trouble: 'Low sides warm the ground; the section of 75 Ω coax fits one band.'
	},
	square: {
		name: 'Full-wave square',
		trouble: 'Much wire in the wind; the section of 75 Ω coax fits one band.'
	},
	'nested-loops': {
		name: 'Two squares, one inside the other',
		trouble: 'Four corners each to hold apart; they shift each other.'
	}
};

/** What one may care for. */
export const cares: [Care, string][] = [
	['watts', 'watts in the air'],
	['tunerless', 'no tuner'],
	['small', 'small'],
	['cheap', 'little to make']
];

/** What stands in a school's way. */
export function obstacleText(obstacle: Schemas['ObstacleOut'], unit: LengthUnit): string {
	const short = distance(obstacle.needs - obstacle.there, unit);
	const needs = distance(obstacle.needs, unit);
	switch (obstacle.code) {
		case 'span':
			return `Needs ${needs} from end to end: ${short} more than there is.`;
		case 'height':
			return `Needs ${needs} of height: ${short} more than there is.`;
		case 'supports':
			return 'Needs two supports.';
		case 'pole':
			return 'Needs a pole that wire may run up.';
		case 'radials':
			return 'Needs ground on which radials can lie.';
		case 'bands':
			return 'Made for two bands: choose another one beside it.';
		case 'apart':
			return 'No two of these bands lie as far apart as it needs.';
		case 'tall':
			return 'There is room for the whole wire: no coil needed.';
		case 'length':
			return `Needs ${needs} of wire on the lowest band; there is room for ${distance(obstacle.there, unit)}.`;
	}
}
