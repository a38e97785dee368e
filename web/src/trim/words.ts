/** What is said of a wire being trimmed: the next act, why, and a sentence for each finding. */
import type { Entry, EvidenceFinding, Finding, TrimOut, TrimFinding } from '../lib/api/client';
import { instrumentText } from '../sweep/words';
import { figures, length, megahertz, quantity, swr, type LengthUnit } from '../lib/units/format';

export type Next = NonNullable<TrimOut['next']>;

const number = (f: Finding, name: string) => Number(f.values[name]);
const text = (f: Finding, name: string) => String(f.values[name] ?? '');
const mhz = (f: Finding, name: string) => `${megahertz(number(f, name))} MHz`;
const percent = (f: Finding, name: string) =>
	`${number(f, name) < 0 ? '−' : '+'}${Math.abs(100 * number(f, name)).toFixed(1)}\u00a0%`;
const kilohertz = (hz: number) => `${Math.round(hz / 1e3)} kHz`;

const acts: Record<Next['act'], string> = {
	fold: 'Fold back',
	cut: 'Cut off',
	unfold: 'Unfold',
	splice: 'Splice on',
	none: 'Nothing to take off'
};
const past: Record<string, string> = {
	fold: 'folded back',
	cut: 'cut off',
	unfold: 'unfolded',
	splice: 'spliced on',
	cut_folds: 'folds cut off'
};

/** What to do, as in "Fold back". */
export function actText(act: Next['act']): string {
	return acts[act];
}

/** Which piece it is done to: both legs alike, or the one there is. */
export function whereText(trim: TrimOut): string {
	if (trim.legs === 2) return 'on EACH leg';
	return trim.form === 'loop' ? 'of the loop' : 'of the wire';
}

/** Why so much and no more. */
export function whyText(trim: TrimOut, next: Next, unit: LengthUnit): string {
	const ratio = length(next.by_ratio_m, unit);
	const share = (100 * next.moves).toFixed(0);
	const lands = `It should land at ${megahertz(next.lands_hz)} MHz, between ${megahertz(next.lands_low_hz)} and ${megahertz(next.lands_high_hz)} nine times out of ten.`;
	if (next.act === 'unfold' || next.act === 'splice') {
		const first =
			next.act === 'unfold'
				? 'The dip is too high, and there are folds to give back.'
				: 'The dip is too high, and nothing is folded: wire has to come on, as long as it says plus what the joint takes.';
		return `${first} ${lands}`;
	}
	if (!next.learned) {
		return next.act === 'cut'
			? `The sum says ${ratio}; a cut cannot be taken back, so go ${Math.round((100 * next.per_leg_m) / next.by_ratio_m)} % of the way and see what it really moves. ${lands}`
			: `The sum says ${ratio}. A fold moves the dip about three quarters of its length, so this falls short on purpose, and shows what a centimetre does here. ${lands}`;
	}
	const learned = `The sum says ${ratio}; here a centimetre ${next.act === 'cut' ? 'cut' : 'folded'} moves the dip ${share} % as far as the sum thinks.`;
	const held =
		next.held_by === 'bound'
			? ' It stays short of the target nine times out of ten: a cut cannot be taken back.'
			: '';
	return `${learned}${held} ${lands}`;
}

const sentences: Record<
	TrimFinding['code'],
	(f: Finding, unit: LengthUnit, form: TrimOut['form']) => string
> = {
	higher_band_first: (f) =>
		`Trim ${text(f, 'label')} first: every cut nearer the feedpoint moves ${text(f, 'this')} as well, and whoever tunes the longest first starts again.`,
	check_first: (f) =>
		text(f, 'failed') === 'yes'
			? 'What is in the line did not pass on its resistor. Mend that first: a cut would only hide it.'
			: 'There is a transformer or a network in the line. Has it passed with a resistor in place of the antenna? One fault hides the other.',
	measure_again: (f, unit) =>
		`Measure again before any sum. Legs of ${length(number(f, 'leg_m'), unit)} belong to a dip near ${mhz(f, 'expected_hz')}; it was read at ${mhz(f, 'dip_hz')}, ${Math.abs(100 * (number(f, 'dip_hz') / number(f, 'expected_hz') - 1)).toFixed(0)} % away, and no site does that. ${slips[text(f, 'slip')] ?? 'Measure the legs, look for a broken or a touching wire, and sweep wide: it may be another dip.'}`,
	contradiction: (f) => `${text(f, 'said').replace(/^./, (c) => c.toUpperCase())}.`,
	conditions_apart: (f) =>
		`${text(f, 'readings')} ${number(f, 'readings') === 1 ? 'reading' : 'readings'} under other conditions ${number(f, 'readings') === 1 ? 'is' : 'are'} kept apart: height and nearby objects move a dip further than a cut does.`,
	other_instrument: (f) =>
		`Read with more than one instrument (${text(f, 'names').split('; ').map(instrumentText).join(', ')}): they seldom agree on SWR. Stay with one.`,
	dips_apart: (f) =>
		`Readings of the same wire lie ${(100 * number(f, 'share')).toFixed(1)} % apart, ${mhz(f, 'low_hz')} and ${mhz(f, 'high_hz')}: dips repeat to 0.2 %. Did something move? Read again.`,
	unexplained_move: (f) =>
		`Read it again. From ${mhz(f, 'before_hz')} to ${mhz(f, 'after_hz')} the dip moved ${percent(f, 'moved')}; what was done allows ${percent(f, 'expected')}, give or take ${(100 * number(f, 'doubt')).toFixed(1)}\u00a0%. A slip in one of the two readings, or in what is written down between them? Or was something else changed? Until one of them is read again this move teaches nothing.`,
	set_aside: (f) =>
		f.values.alone_hz === null
			? `Set aside: the move from ${mhz(f, 'before_hz')} to ${mhz(f, 'after_hz')}. What was done allows ${percent(f, 'expected')}, it moved ${percent(f, 'moved')}; it teaches nothing of what a centimetre does.`
			: `Set aside: the reading at ${mhz(f, 'alone_hz')}. Those before and after it agree without it.`,
	read_once_more: (f) =>
		`Read it once more before you stop: the last move to ${mhz(f, 'dip_hz')} is a surprise, though a possible one.`,
	far_from_length: (f, unit) =>
		`Measured again, and it is so: legs of ${length(number(f, 'leg_m'), unit)} belong to a dip near ${mhz(f, 'expected_hz')}, this wire's lies at ${mhz(f, 'dip_hz')}. ${slips[text(f, 'slip')] ?? 'Something makes it so: a wire near by, a covering, a joint.'} The sum below starts from where it is.`,
	on_the_ground: () =>
		'It was read lying on the ground: there the dip lies a good deal lower, and no cut follows from it. Hang it as it will be used, and read it again.',
	in_place_too_high: (f) =>
		`The dip is where it is wanted, but the SWR there is ${swr(number(f, 'swr'))}, above your limit of ${swr(number(f, 'limit'))}: trimming is done, matching is not.`,
	sweep_closer: (f) =>
		`A dip near ${mhz(f, 'frequency_hz')}, but the samples lie too far apart to say where: sweep closer round it.`,
	beyond_sweep: (f) =>
		f.values.side === 'above'
			? 'No dip in this sweep: the SWR falls towards its upper edge, so it lies above. Sweep further up.'
			: f.values.side === 'below'
				? 'No dip in this sweep: the SWR falls towards its lower edge, so it lies below. Sweep further down.'
				: 'No dip in this sweep. Sweep wider.',
	side_open: (f) =>
		`On which side the dip lies is open: read the SWR at ${mhz(f, 'frequency_hz')} as well.`,
	dip_above: (f) =>
		`The dip lies above ${mhz(f, 'low_hz')}. One more reading at ${mhz(f, 'frequency_hz')} tells how far.`,
	dip_below: (f) =>
		`The dip lies below ${mhz(f, 'high_hz')}. One more reading at ${mhz(f, 'frequency_hz')} tells how far.`,
	target_outside: (f) =>
		`The band lies outside this sweep, ${mhz(f, 'low_hz')} to ${mhz(f, 'high_hz')}: how it stands there is not known yet.`,
	uneven: (f, unit) =>
		`One leg has become ${length(number(f, 'by_m'), unit)} longer than the other. Even them out: an uneven dipole feeds its coax.`,
	long_fold: (f, unit) =>
		`${length(number(f, 'folded_m'), unit)} of ${length(number(f, 'leg_m'), unit)} are folded back. Cut most of that off and leave a hand’s breadth: long folds move with the wind.`,
	not_resonant: () =>
		'A five-eighths wire is not brought to resonance: sweep it as it hangs and choose a match for it.',
	bands_changed: () =>
		'The bands of this build changed since the wire went up: say again how long it hangs.',
	poor_minimum: (f, unit, form) => poor(f, unit, form)
};

const slips: Record<string, string> = {
	whole_for_leg: 'It fits a whole wire put down as one leg: twice the dip.',
	leg_for_whole: 'It fits one leg put down as the whole wire: half the dip.',
	feet_for_metres: 'It fits feet put down as metres.',
	metres_for_feet: 'It fits metres put down as feet.'
};

function poor(f: Finding, unit: LengthUnit, form: TrimOut['form']): string {
	const at = `The lowest SWR is ${swr(number(f, 'swr'))}: no cut makes it lower, cutting only moves it.`;
	if (f.values.side === 'unknown') {
		return `${at} SWR alone cannot tell whether R is above or below 50 Ω: read |Z|, or R and X, at the dip.`;
	}
	const r = number(f, 'resistance_ohm');
	if (f.values.side === 'reactive') {
		return `${at} R, ${figures(r, 2)} Ω, would do; it is X, ${figures(number(f, 'reactance_ohm'), 2)} Ω there, that spoils it. A line in between or something in it moves the lowest SWR away from resonance: sweep at the feedpoint.`;
	}
	if (f.values.side === 'low') {
		const height =
			f.values.height_m === null
				? ''
				: ` A dipole over good ground shows that at ${length(Math.round(number(f, 'height_m') * 10) / 10, unit)}; raise it if you can.`;
		return `${at} R is ${figures(r, 2)} Ω.${height} ${form === 'vertical' ? 'A vertical over good or level radials shows that: radials that droop bring R up.' : 'Low height, a narrow angle between the legs, or wire wound up or loaded bring R down.'} A match brings the SWR down.`;
	}
	return `${at} R is ${figures(r, 2)} Ω. High R comes with height near a third of a wave, with loss in the line to it, with metal near an end, or a feedpoint out of the middle. Which of them the sweep alone cannot tell: sweep at the feedpoint, then compare both legs.`;
}

const asks: Record<EvidenceFinding['code'], (f: Finding) => string> = {
	read_swr_at: (f) => `Read the SWR at ${mhz(f, 'frequency_hz')} as well.`,
	read_sign_at: (f) =>
		`The sign of X follows from its trend: read once more at ${mhz(f, 'frequency_hz')}. X rises with frequency here, so a smaller figure there means that it is negative now.`
};

/** The one reading more that would settle what is open. */
export function askText(finding: EvidenceFinding): string {
	return asks[finding.code](finding);
}

/** A finding in words. */
export function say(
	finding: TrimFinding,
	unit: LengthUnit,
	form: TrimOut['form'] = 'dipole'
): string {
	return sentences[finding.code](finding, unit, form);
}

const stops: Record<
	NonNullable<TrimOut['stop']>['code'],
	(trim: TrimOut, stop: Finding) => string
> = {
	band_holds: (trim, stop) => {
		const held = `${trim.label}, ${megahertz(trim.low_hz)} to ${megahertz(trim.high_hz)} MHz, is within your limit of ${swr(trim.swr_limit)}: at worst ${swr(number(stop, 'worst_swr'))}`;
		return stop.values.off === null
			? `${held} was read. Where the dip lies is not known; for this limit it need not be.`
			: `${held}. ${dipText(trim, stop)}; going on would gain nothing that shows on the air.`;
	},
	used_so: (trim, stop) =>
		stop.values.worst_swr === null
			? 'You said to use it as it is.'
			: `You said to use it as it is: at worst ${swr(number(stop, 'worst_swr'))} on ${trim.label}.`,
	dip_there: (trim, stop) =>
		`${dipText(trim, stop)}, and dips repeat to 0.1 to 0.2 % at best (${kilohertz(0.0015 * trim.target_hz)} here). Going on would chase the wind.`,
	dip_there_edges_open: (trim, stop) =>
		`${dipText(trim, stop)}. Whether the whole band holds ${swr(trim.swr_limit)} is not known: read the SWR at both its edges, or sweep it.`
};

function dipText(trim: TrimOut, stop: Finding): string {
	const off = number(stop, 'off') * trim.target_hz;
	if (Math.abs(off) < 500) return `The dip lies at ${megahertz(trim.target_hz)} MHz`;
	return `The dip lies ${kilohertz(Math.abs(off))} ${off < 0 ? 'below' : 'above'} ${megahertz(trim.target_hz)} MHz`;
}

/** Why one may stop. */
export function stopText(trim: TrimOut): string {
	return trim.stop ? stops[trim.stop.code](trim, trim.stop) : '';
}

/** Where X is zero, against where the SWR is lowest, with this antenna's numbers. */
export function resonanceText(trim: TrimOut): string {
	const r = trim.resonance;
	if (!r) return '';
	const apart = r.frequency_hz - r.lowest_hz;
	if (r.together) {
		return `X is zero, and the SWR lowest, at ${megahertz(r.frequency_hz)} MHz: they fall together here because R, ${figures(r.resistance_ohm)} Ω, hardly changes. At resonance the SWR is still the ratio of R to 50: ${swr(r.swr)}.`;
	}
	return `X is zero at ${megahertz(r.frequency_hz)} MHz, with R ${figures(r.resistance_ohm)} Ω: the SWR there is the ratio to 50, ${swr(r.swr)}. It is lowest, ${swr(r.lowest_swr)}, at ${megahertz(r.lowest_hz)} MHz, ${kilohertz(Math.abs(apart))} ${apart > 0 ? 'lower' : 'higher'}, ${r.nearer ? 'where R is nearer to 50 Ω' : 'where a little X makes up for what R has too much of'}.`;
}

/** The ways on from a wire that is too short, each with its figures. */
export function waysOn(trim: TrimOut, unit: LengthUnit): string[] {
	const t = trim.too_high;
	if (!t) return [];
	const per = trim.legs === 2 ? ' on each leg' : '';
	const ways = [];
	if (t.unfold_m) ways.push(`Unfold ${length(t.unfold_m, unit)}${per}.`);
	if (t.splice_m > 0) {
		ways.push(
			`${t.unfold_m ? 'Or splice' : 'Splice'} ${length(t.splice_m, unit)}${per}, and as much again as the joint takes up.`
		);
	}
	ways.push(
		t.coil_h === null
			? trim.resonance
				? 'A coil does not help here: X at the target is not below zero.'
				: 'Or load it with a coil: sweep R and X at the target, then its value is known.'
			: trim.legs === 2
				? `Or load it: ${quantity(t.coil_h, 'H')} at the feedpoint, half of it in each leg; it costs bandwidth and a little power.`
				: `Or load it: ${quantity(t.coil_h, 'H')} at its foot; it costs bandwidth and a little power.`
	);
	const there =
		t.low_hz !== null && t.high_hz !== null
			? `${megahertz(t.low_hz)} to ${megahertz(t.high_hz)} MHz are within ${swr(trim.swr_limit)}`
			: trim.lowest_swr === null
				? 'its SWR there is not read yet'
				: `the SWR at its lowest is ${swr(trim.lowest_swr)}`;
	const worst = t.worst_swr === null ? '' : `, at worst ${swr(t.worst_swr)} on ${trim.label}`;
	const landed = t.band === null ? '' : ` It lies on, or near, ${t.band}.`;
	ways.push(`Or use it where it landed: ${there}${worst}.${landed}`);
	return ways;
}

/** An entry of the log in one line; of a wire with several bands with the band's name. */
export function entryText(entry: Entry, unit: LengthUnit, bands: readonly string[] = []): string {
	return `${toldText(entry, unit, bands)}${entry.simulated ? ', simulated' : ''}`;
}

/** The same of what is not in the log yet. */
export function toldText(
	told: Pick<Entry, 'data'> & { text?: string },
	unit: LengthUnit,
	bands: readonly string[] = []
): string {
	const d = told.data;
	const on = 'link' in d && bands.length > 1 ? bands[d.link ?? 0] : undefined;
	return `${on ? `${on}: ` : ''}${whatText({ data: d, text: told.text ?? '' }, unit)}`;
}

function whatText(entry: Pick<Entry, 'data' | 'text'>, unit: LengthUnit): string {
	const d = entry.data;
	if (d.kind === 'hung') {
		const folds = (d.folded_m ?? []).some((m) => m > 0)
			? `, ${(d.folded_m ?? []).map((m) => length(m, unit)).join(', ')} folded back`
			: '';
		return `Hung: ${d.form === 'dipole' ? 'legs' : 'wire'} of ${d.reach_m.map((m) => length(m, unit)).join(', ')}${folds}`;
	}
	if (d.kind === 'cut') {
		const amounts = d.per_leg_m ?? [];
		const [a, b] = amounts;
		const even = amounts.every((m) => m === a);
		const size =
			a === undefined
				? ''
				: even
					? `${length(a, unit)}${b === undefined ? '' : ' a leg'} `
					: `${amounts.map((m) => length(m, unit)).join(' and ')} `;
		return `${size}${past[d.act] ?? d.act}`.replace(/^./, (c) => c.toUpperCase());
	}
	if (d.kind === 'reading') return readText(d.reading);
	if (d.kind === 'use_so') return 'Used as it is';
	if (d.kind === 'bench_check') {
		return d.passed ? 'Passed on its resistor' : 'Did not pass on its resistor';
	}
	return (d.kind === 'note' || d.kind === 'fault_test') && entry.text ? entry.text : besideText(d);
}

/** What is told of a build beside the acts on its wire; the person's own words stand beside it. */
function besideText(d: Entry['data']): string {
	switch (d.kind) {
		case 'built':
			return `Built by state ${d.number} of the design`;
		case 'on_air': {
			const on = d.band ? ` on ${d.band}` : '';
			if (d.evidence !== 'comparison') {
				return `${d.evidence === 'report' ? 'Report' : 'Contact'} on the air${on}`;
			}
			const by = d.stronger_db;
			const size =
				by === null || by === undefined
					? ''
					: `: ${figures(Math.abs(by), 2)} dB ${by < 0 ? 'weaker' : 'stronger'}`;
			return `Compared on the air${on}${d.against ? `, against ${d.against}` : ''}${size}`;
		}
		case 'checked_again':
			return `Checked again after ${d.after || 'something was done'}${d.key ? `, ${d.key}` : ''}`;
		case 'done':
			return 'Good enough';
		case 'remind':
			return d.when === 'after_storm' ? 'To look at after a storm' : 'To look at in a year';
		case 'fault_begun':
			return d.practice ? 'Something went wrong, for practice' : 'Something is wrong';
		case 'fault_test':
			return `${d.skipped ? 'Cannot be done' : 'Tested'}: ${d.act.replaceAll('_', ' ')}`;
		case 'fault_mended':
			return d.given_up ? 'The search was given up' : `Mended: ${d.element || 'something'}`;
		case 'position_removed':
			return `Position taken out of “${d.photograph}”`;
		default:
			return 'Note';
	}
}

function readText(reading: Extract<Entry['data'], { kind: 'reading' }>['reading']): string {
	switch (reading.kind) {
		case 'dip':
			return `Dip at ${megahertz(reading.dip_hz)} MHz${reading.swr ? `, ${swr(reading.swr)}` : ''}`;
		case 'edges':
			return `SWR ${swr(reading.swr ?? 2)} at ${[reading.low_hz, reading.high_hz]
				.filter((f) => f !== null && f !== undefined)
				.map(megahertz)
				.join(' and ')} MHz`;
		case 'swr':
			return `SWR ${reading.points.map((p) => `${swr(p.swr)} at ${megahertz(p.frequency_hz)}`).join(', ')} MHz`;
		case 'size':
			return `|Z| ${reading.points.map((p) => `${figures(p.size_ohm)} Ω, SWR ${swr(p.swr)} at ${megahertz(p.frequency_hz)}`).join('; ')} MHz`;
		case 'unsigned':
			return `R ${reading.points.map((p) => `${figures(p.resistance_ohm)} Ω, X ±${figures(p.size_reactance_ohm)} Ω at ${megahertz(p.frequency_hz)}`).join('; ')} MHz`;
		case 'power':
			return `${reading.points.map((p) => `${figures(p.forward_w)} W up, ${figures(p.reflected_w)} W back at ${megahertz(p.frequency_hz)}`).join('; ')} MHz`;
		default:
			return 'Swept';
	}
}

/** Minutes that clocks here are ahead of universal time: entries keep it. */
export function utcOffsetMin(): number {
	return -new Date().getTimezoneOffset();
}

/** What becomes of the dip when the folds are cut off. */
export function foldsText(trim: TrimOut): string {
	const off = trim.without_folds;
	if (!off || trim.dip_hz === null) return '';
	const there = `${megahertz(off.dip_hz)} MHz, between ${megahertz(off.low_hz)} and ${megahertz(off.high_hz)} nine times out of ten`;
	const nearer = Math.abs(off.dip_hz - trim.target_hz) < Math.abs(trim.dip_hz - trim.target_hz);
	return nearer
		? `Cutting the folds off is an act of its own: it should bring the dip nearer still, to ${there}.`
		: `Leave the folds tied. Cutting them off is an act of its own: it would put the dip at ${there}.`;
}
