/** Sentences of choosing: rules of length, margins, windows. */
import type { Schemas } from '../lib/api/client';
import { figures, length, type LengthUnit } from '../lib/units/format';

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
