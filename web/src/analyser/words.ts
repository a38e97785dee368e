/** What is said of sweeps, standards and checks: a sentence for each finding. */
import type { AcquisitionFinding, CalibrationFinding, Finding, Schemas } from '../lib/api/client';
import { figures, megahertz, swr } from '../lib/units/format';

type Meaning = Schemas['Meaning'];

const standardNames: Record<string, string> = { short: 'short', open: 'open', load: 'load' };

const text = (finding: Finding, name: string) => String(finding.values[name] ?? '');
const hertz = (finding: Finding, name: string) => megahertz(Number(finding.values[name]));

type Code = AcquisitionFinding['code'] | CalibrationFinding['code'];

const sentences: Record<Code, (finding: Finding) => string> = {
	uncorrected: () =>
		'Not corrected: what you see is the antenna, the test lead and the analyser’s own errors together. Calibrate first for figures to keep.',
	interpolated: (f) =>
		`Corrected between the ${text(f, 'points')} points of the calibration, which were read in between: fine while the lead is short.`,
	old_calibration: (f) =>
		`The calibration is ${figures(Number(f.values.age_h), 2)} hours old: sweep the load once more before you trust it.`,
	kept_passes: (f) =>
		`It broke off; the ${text(f, 'passes')} whole ${Number(f.values.passes) === 1 ? 'pass' : 'passes'} before that are kept.`,
	above_one: (f) =>
		`At ${text(f, 'points')} points more came back than was sent: the calibration does not fit. Calibrate again.`,
	like_a_standard: (f) =>
		`This is the ${text(f, 'standard')} itself, all the way: is it still screwed on in place of the antenna?`,
	no_dip: (f) =>
		f.values.falls === 'yes'
			? `No dip inside this range: SWR falls towards its ${f.values.where === 'above' ? 'upper' : 'lower'} edge, so the dip lies ${text(f, 'where')} it.`
			: `No dip inside this range. X is ${f.values.where === 'above' ? 'capacitive, so the next resonance lies above' : 'inductive, so the last resonance lies below'}.`,
	dip_elsewhere: (f) => `A quick look further found a dip near ${hertz(f, 'frequency_hz')} MHz.`,
	no_dip_anywhere: (f) =>
		`A quick look from ${hertz(f, 'low_hz')} to ${hertz(f, 'high_hz')} MHz found none either: is the antenna connected?`,
	left_on: (f) =>
		`The ${text(f, 'first')} and the ${text(f, 'second')} gave the same curve: one of them was still on for the other. Sweep the wrong one again.`,
	swapped: (f) =>
		`The ${text(f, 'first')} and the ${text(f, 'second')} look exchanged. Sweep both again, each with its own standard.`,
	too_narrow: (f) =>
		`Over so narrow a range the ${text(f, 'first')} and the ${text(f, 'second')} cannot be told from each other: look which is screwed on, or calibrate from lower down. Exchanged, they turn every reading round.`,
	load_high: () =>
		'What was swept as the load sends most of it back: it is no load. Screw the load on and sweep it again.'
};

/** A finding in words. */
export function say(finding: Finding<Code>): string {
	return sentences[finding.code](finding);
}

/** What to screw on for a step. */
export function standardStep(standard: string): string {
	return `Screw the ${standardNames[standard] ?? standard} on where the antenna will be, and sweep it.`;
}

const residuals: Record<NonNullable<Schemas['CalibrationOut']['residual_kind']>, string> = {
	as_good: 'As good as such a load is.',
	fair: 'Good enough for trimming; sweep again with cleaner connectors for the record.',
	moved: 'Something moved: tighten the connectors and calibrate again.',
	no_load:
		'That is not the load that was calibrated with: look what is screwed on, then sweep the load again.'
};

/** What a residual says in words. */
export function residualText(
	db: number,
	kind: NonNullable<Schemas['CalibrationOut']['residual_kind']>
): string {
	const share = 200 * 10 ** (db / 20);
	return `The load swept again is within ${figures(share / 2, 2)} % of the chart from its place: an impedance near 50 Ω is off by up to ${figures(share, 2)} %. ${residuals[kind]}`;
}

/** What the residual of a calibration makes of the antenna at hand. */
export function meaningText(meaning: Meaning): string {
	const share = 100 * meaning.impedance_share;
	return `For this antenna the ${meaning.residual_db.toFixed(0).replace('-', '−')} dB of residual after the load check mean: at ${megahertz(meaning.frequency_hz)} MHz its impedance is off by up to ${figures(share, 2)} %, and SWR ${swr(meaning.swr)} may be ${swr(meaning.low_swr)} to ${swr(meaning.high_swr)}. The load’s own error comes on top.`;
}

/** How old a calibration is. */
export function ageText(hours: number): string {
	if (hours < 1 / 30) return 'just now';
	if (hours < 1) return `${Math.round(hours * 60)} min ago`;
	if (hours < 48) return `${figures(hours, 2)} h ago`;
	return `${Math.round(hours / 24)} days ago`;
}

/** Where the dip is, for a screen reader and for the figure. */
export function dipText(frequencyHz: number, value: number | null): string {
	return `lowest SWR ${swr(value)} at ${megahertz(frequencyHz)} MHz`;
}
