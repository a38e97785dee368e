/** What the verdict of the bench says: faults by their names, what to do about them, set-ups in words; pure. */

import type { BenchFinding, FaultCode, Schemas } from '../lib/api/client';
import { quantity } from '../lib/units/format';

export type Verdict = Schemas['VerdictOut'];
export type Stated = Schemas['StatedOut'];
export type Setup = Schemas['BenchSetupOut'];

const text = (value: number | string | undefined) => String(value ?? '');
const number = (value: number | string | undefined) => (typeof value === 'number' ? value : 0);

type Values = Stated['values'];

const names: Record<FaultCode, (values: Values) => string> = {
	right: () => 'wound as planned',
	turn_more: (values) => `a turn too many (${text(values.turns)})`,
	turn_less: (values) => `a turn too few (${text(values.turns)})`,
	tap_more: (values) => `the primary a turn too long (${text(values.turns)})`,
	tap_less: (values) => `the primary a turn too short (${text(values.turns)})`,
	bucking: () => 'the two halves wound against each other',
	reversed: () => 'one wire joined the wrong way round',
	other_mix: (values) => `a core of another mix, like ${text(values.mix)}`,
	one_ring: () => 'one ring instead of the stack',
	capacitor_missing: () => 'the capacitor missing, or not connected',
	capacitor_wrong: (values) =>
		`a wrong capacitor, near ${quantity(number(values.capacitance_f), 'F')}`,
	shorted_turn: () => 'two turns touching',
	other_turns: (values) => `quite another count of turns (${text(values.turns)})`,
	cracked_core: (values) =>
		`a cracked ring, as if ${(1e3 * number(values.gap_m)).toFixed(2)} mm of air lay in its path`,
	value_off: (values) =>
		`a coil of another value, ${quantity(number(values.inductance_h), 'H')}, on the right turns`,
	resistor_off: () => 'another resistor than was typed'
};

/** A fault in a few words; of a count of turns that may be several, all of them. */
export function faultName({ code, values, counts }: Stated): string {
	if (counts.length < 2) return names[code](values);
	return `other turns than planned (${orList(counts.map(String))})`;
}

function orList(all: string[]): string {
	return `${all.slice(0, -1).join(', ')} or ${all[all.length - 1]}`;
}

const remedies: Record<FaultCode, string> = {
	right: 'Fix the turns, then sweep once more: fixing moves them.',
	turn_more: 'Count passes through the hole, not returns outside; look where it crosses over.',
	turn_less: 'Count passes through the hole, not returns outside; look where it crosses over.',
	tap_more: 'Count the passes of the primary alone; its end leaves after the last of them.',
	tap_less: 'Count the passes of the primary alone; its end leaves after the last of them.',
	bucking:
		'Unwind the second half. Behind the crossing the wire must go into the hole from the front again.',
	reversed:
		'Find start and end of each wire with a continuity tester; each end joins the next start.',
	other_mix:
		'Wind a few turns on another ring of the bag and characterise it; or plan with what you hold.',
	one_ring: 'See that every turn goes through both rings.',
	capacitor_missing: 'Look at its joints; measure it alone.',
	capacitor_wrong: 'Read its marking again; measure it alone.',
	shorted_turn: 'Look for scraped enamel, and for solder between turns.',
	other_turns: 'Count passes through the hole again, and look which recipe it was.',
	cracked_core:
		'Look at the ring, edges too, under a lamp; a glued crack stays a gap. Take another ring.',
	value_off:
		'Measure the former across the winding and the pitch; squeeze or spread the turns, and sweep it again.',
	resistor_off: 'Measure the resistor by itself and type what it is.'
};

/** What to do about it. */
export function remedy(code: FaultCode): string {
	return remedies[code];
}

const benchWords: Record<BenchFinding['code'], string> = {
	like_an_antenna:
		'X passes zero again and again: something long hangs there. Take the antenna or the line off, put the resistor on, and sweep once more.',
	narrow_sweep: 'The sweep is less than an octave wide: a wider one tells more.'
};

const found = (verdict: Verdict, code: BenchFinding['code']) =>
	verdict.findings.some((f) => f.code === code);

/** The headline of a verdict: one short sentence. */
export function headline(verdict: Verdict): string {
	if (verdict.says === 'strange') {
		return found(verdict, 'like_an_antenna')
			? 'An antenna, not the winding'
			: 'Like nothing expected';
	}
	if (verdict.says === 'named') {
		return verdict.passed ? (verdict.hidden.length ? 'Right, but for a turn' : 'Right') : 'Wrong';
	}
	return verdict.passed === false ? 'Wrong, in one of these ways' : 'Cannot tell';
}

/** What it says in a sentence or two. */
export function explained(verdict: Verdict): string[] {
	const [first, ...others] = verdict.stated;
	const out: string[] = [];
	if (verdict.says === 'strange' || !first) {
		out.push(
			found(verdict, 'like_an_antenna')
				? benchWords.like_an_antenna
				: 'Nothing that was thought of looks like this sweep. Is the resistor on? Is the analyser on the right side? Is it calibrated where it is joined?'
		);
		return out;
	}
	if (others.length === 0) {
		out.push(
			first.code === 'right'
				? 'The sweep is that of the winding as planned.'
				: `It looks like ${faultName(first)}.`
		);
	} else {
		out.push(`It is ${orList(verdict.stated.map(faultName))}; this sweep cannot tell which.`);
	}
	const hidden = verdict.hidden.filter((h) => !verdict.stated.some((s) => s.code === h.code));
	const turn = hidden.some((h) => h.code === 'turn_more' || h.code === 'turn_less');
	if (turn) {
		out.push('A turn more or less lies within the spread of the core: no such sweep shows it.');
	}
	const mixes = hidden.filter((h) => h.code === 'other_mix').map((h) => text(h.values.mix));
	if (mixes.length) out.push(`Nor does it show mix ${mixes.join(' or ')} in its place.`);
	const besides = hidden.filter((h) => !h.code.startsWith('turn_') && h.code !== 'other_mix');
	if (besides.length) out.push(`Nor would it show ${besides.map(faultName).join(' or ')}.`);
	if (!verdict.next_setup && (turn || others.length > 0)) {
		out.push('No other sweep of it would tell either: count the turns.');
	}
	if (found(verdict, 'narrow_sweep')) {
		out.push(benchWords.narrow_sweep);
	}
	return out;
}

const joined =
	'All starts joined on one side of the analyser, all ends on the other: what the core chokes.';

/** A set-up: what it is called, and what to do; the kind is the winding's, or “pair” for a choke of two wires. */
export function setupWords(setup: Setup, kind: string): { title: string; hint: string } {
	switch (setup.key) {
		case 'resistor':
			return {
				title: `on ${quantity(setup.resistor_ohm ?? 0, 'Ω')}`,
				hint: 'A carbon or film resistor across the output, short leads; the analyser on the coax side.'
			};
		case 'half':
			return {
				title: `on ${quantity(setup.resistor_ohm ?? 0, 'Ω')}`,
				hint: 'Half the resistor: two of them side by side.'
			};
		case 'open':
			return {
				title: 'output open',
				hint: 'Nothing on the output: what the core alone puts there.'
			};
		case 'shorted':
			return {
				title: 'output shorted',
				hint: 'A short wire across the output: what leaks between.'
			};
		case 'common':
			return {
				title: 'as a choke, its wires joined',
				hint: joined
			};
		case 'link':
			return {
				title: `${setup.link_turns ?? 3} turns of your own beside it`,
				hint: 'Any thin wire through the same hole, its two ends on the analyser; the winding left open.'
			};
		default:
			return {
				title: 'alone across the port',
				hint:
					kind === 'pair'
						? joined
						: kind === 'choke'
							? 'Braid to braid: both ends of the coax on the analyser by their outsides.'
							: 'Both ends on the analyser, nothing else joined, leads short.'
			};
	}
}

/** Over which frequencies one sweeps it, Hz. */
export function benchRange(kind: string, resonanceHz: number | null): [number, number] {
	if (kind === 'trap' && resonanceHz)
		return [Math.max(1e6, resonanceHz / 1.45), Math.min(60e6, resonanceHz * 1.45)];
	return [1.8e6, 30e6];
}
