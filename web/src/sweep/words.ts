/** What a sweep says, in words that a beginner understands. */

import type { Reading, Setup } from '../lib/api/client';
import { figures, megahertz, swr } from '../lib/units/format';

const ohm = (low: number, high: number) => {
	const [a, b] = [figures(low), figures(high)];
	return a === b ? `${a} Ω` : `${a} to ${b} Ω`;
};

const isNone = (v: number | null | undefined): v is null | undefined =>
	v === null || v === undefined;

/** The least that a match could reach on the hardest band, and what that takes. */
export function floorText(targets: Reading['targets']): string {
	const target = [...targets]
		.filter((t) => t.floor)
		.sort((a, b) => (b.floor?.antenna_alone ?? 0) - (a.floor?.antenna_alone ?? 0))[0];
	const floor = target?.floor;
	if (!target || !floor) return '';
	if (floor.narrow) {
		return `${target.label} is narrow for a curve this wide: tuned and transformed exactly, the wire alone would stay below ${swr(floor.antenna_alone)}.`;
	}
	const least = floor.almost_perfect
		? `On ${target.label} many parts without loss could match almost perfectly`
		: `On ${target.label} no lossless match gets below ${swr(floor.any)}`;
	return `${least}; the wire tuned alone reaches ${swr(floor.antenna_alone)}, with one more tuned circuit ${swr(floor.one_more)}.`;
}

/** The wire in the middle of a band: what its resistance and reactance mean. */
export function standing(target: Reading['targets'][number]): string {
	const { lowest_resistance_ohm: least, highest_resistance_ohm: most } = target;
	const { lowest_reactance_ohm: low, highest_reactance_ohm: high } = target;
	if (isNone(least) || isNone(most) || isNone(low) || isNone(high) || !target.reactance) {
		return 'SWR alone does not say R and X, and a match needs both: sweep with an analyser, or type R and X at a few frequencies.';
	}
	const r = ohm(least, most);
	const size = ohm(
		Math.min(Math.abs(low), Math.abs(high)),
		Math.max(Math.abs(low), Math.abs(high))
	);
	const said: Record<NonNullable<typeof target.reactance>, string> = {
		crosses: ` and X passes through zero inside ${target.label}: the wire resonates there.`,
		small: ', and X is next to nothing.',
		capacitive: `; X is ${size} capacitive: the wire acts as if a capacitor stood in line with it, and wants a coil.`,
		inductive: `; X is ${size} inductive: the wire acts as if a coil stood in line with it, and wants a capacitor.`
	};
	return `R is ${r}${said[target.reactance]}`;
}

/** Resonances of the whole sweep. */
export function resonances(reading: Reading, lowHz: number, highHz: number): string {
	if (reading.resonances.length === 0) {
		return `No resonance between ${megahertz(lowHz)} and ${megahertz(highHz)} MHz: X never crosses zero there.`;
	}
	const shown = reading.resonances.slice(0, 4).map((r) => {
		const what = r.kind === 'series' ? 'resonance' : 'anti-resonance (R high)';
		return `${what} at ${megahertz(r.frequency_hz)} MHz with R ${figures(r.resistance_ohm)} Ω`;
	});
	const more = reading.resonances.length - shown.length;
	return `${shown.join('; ')}${more > 0 ? `; and ${more} more` : ''}.`.replace(/^./, (c) =>
		c.toUpperCase()
	);
}

/** X = 0 against the lowest SWR, with this antenna's numbers: near each other, and not the same. */
export function resonanceIsNotDip(reading: Reading): string {
	const near = [...reading.resonances]
		.filter((r) => r.kind === 'series')
		.sort(
			(a, b) =>
				Math.abs(a.frequency_hz - reading.best_frequency_hz) -
				Math.abs(b.frequency_hz - reading.best_frequency_hz)
		)[0];
	if (!near) return '';
	const at = megahertz(near.frequency_hz);
	const best = megahertz(reading.best_frequency_hz);
	if (at === best) return `X = 0 and the lowest SWR fall together, at ${at} MHz.`;
	return `X = 0 is not the lowest SWR: at ${at} MHz, resonant, it reads ${swr(near.swr)}, the ratio of ${figures(near.resistance_ohm)} to 50 Ω; at ${best} MHz ${swr(reading.best_swr)}.`;
}

/** Best match and how wide it is. */
export function match(reading: Reading): string {
	const best = `Lowest SWR ${swr(reading.best_swr)} at ${megahertz(reading.best_frequency_hz)} MHz`;
	const band = reading.bandwidth;
	if (!band) return `${best}; never below ${swr(reading.swr_limit)}.`;
	const open =
		band.low_open || band.high_open
			? `, and further: the sweep ends ${band.low_open && band.high_open ? 'on both sides' : band.low_open ? 'below' : 'above'}`
			: '';
	const wide = (band.high_hz - band.low_hz) / 1e3;
	return `${best}; within ${swr(reading.swr_limit)} over ${figures(wide)} kHz${open}.`;
}

/** Q at the first target, and what it means. */
export function sharpness(reading: Reading): string {
	if (isNone(reading.q) || !reading.sharpness) return '';
	return `Q about ${figures(reading.q, 2)} at ${megahertz(reading.q_at_hz)} MHz: a ${reading.sharpness} curve by nature.`;
}

const planes: Record<string, string> = {
	feedpoint: 'at the feedpoint',
	line_end: 'at the radio end of the line',
	bench: 'on the bench',
	matched: 'at the coax, with the match in place'
};

/** A setup in one line. */
export function setupText(setup: Setup, lengthText: (m: number) => string): string {
	const line = setup.line ? `, through ${lengthText(setup.line.length_m)} of coax` : '';
	const said = [
		setup.conditions?.height,
		setup.conditions?.hung,
		setup.conditions?.near,
		setup.conditions?.ground
	]
		.filter(Boolean)
		.join(', ');
	return `${planes[setup.plane ?? 'feedpoint'] ?? ''}${line}${said ? `; ${said}` : ''}`.replace(
		/^./,
		(c) => c.toUpperCase()
	);
}

/** An instrument's name as people say it; the simulated one introduces itself at length. */
export function instrumentText(name: string): string {
	return /^yielding coil/i.test(name) ? 'simulated analyser' : name;
}
