/** What is said of the watts that must stay behind. */

import type { Schemas } from '../lib/api/client';
import { megahertz, swr } from '../lib/units/format';

export type Loss = Schemas['LossVerdictOut'];
type Place = Schemas['LossPlaceOut'];
type Cause = Loss['named'][number];

const causes: Record<Cause, string> = {
	none: 'nothing wrong',
	joint: 'a bad joint, or another resistance in line',
	radials: 'radials that lose more than such radials do',
	across: 'a leak across the feedpoint: wet, soot, a resistor',
	resistor: 'a resistor in the place of the antenna',
	line: 'a line that loses more than its data say: wet, aged, another cable',
	transformer: 'a transformer that loses more than told: hot, undersized',
	tuner: 'a tuner that was left in'
};
const places: Record<string, string> = {
	joint: 'joint',
	radials: 'radials',
	across: 'leak',
	resistor: 'resistor',
	line: 'line',
	transformer: 'transformer',
	tuner: 'tuner',
	coil: 'coils, traps',
	wire: 'wire',
	soil: 'soil',
	parts: 'match'
};
const settling: Record<NonNullable<Loss['settle']>, string> = {
	line_open:
		'Next: sweep the line with its far end open, then shorted. That tells its loss by itself.',
	resistor_in_place:
		'Next: put a resistor of the feed’s value in the place of the antenna and sweep again: what then is lost is not the antenna’s.',
	joint_by_ohmmeter:
		'Next, with the radio disconnected: an ohmmeter across each joint while you move it; clean, solder, sweep again.',
	more_radials:
		'Next: lay out two or four more radials for an hour and sweep again. If R falls, it was the ground.',
	at_the_feed: 'Next: sweep at the feedpoint, without what lies below it.',
	hand_on_coax:
		'Next, with the radio disconnected: sweep once more with a hand round the coax, or a metre more of it, and choose that sweep below.'
};
export const causeOf = (key: Cause) => causes[key];
export const placeOf = (key: string) => places[key] ?? key;

/** A choice of names: a, b or c. */
const either = (some: string[]) =>
	some.length < 2 ? (some[0] ?? '') : `${some.slice(0, -1).join('; ')}; or ${some.at(-1)}`;
const odds = (share: number) => `${Math.max(1, Math.min(99, Math.round(100 * share)))} of 100`;
const range = (low: number | null, high: number | null) => {
	const [a, b] = [Math.round(low ?? 0), Math.round(high ?? 0)];
	return a === b ? `${a} W` : `${a} to ${b} W`;
};

export function lossHeadline(found: Loss): string {
	const heads: Record<Loss['state'], string> = {
		nothing_wrong: 'Nothing looks wrong',
		known_loss: 'As planned, but much of it stays behind',
		loss: 'More is lost than the plan accounts for',
		shield: 'The coax takes part',
		cannot_tell: 'Cannot tell',
		no_match: 'Like nothing this antenna shows'
	};
	return heads[found.state];
}

/** How many watts of a hundred stay behind, with their bounds; nothing where nothing fits. */
export function staysText(found: Loss): string | null {
	const { stays, radiated } = found;
	if (!stays || !radiated || found.state === 'shield') return null;
	return `Of 100 W at ${megahertz(found.at_hz)} MHz ${range(stays.low_w, stays.high_w)} stay behind as heat, nine times in ten; ${range(radiated.low_w, radiated.high_w)} are radiated.`;
}

export function lossSentences(found: Loss): string[] {
	const said: string[] = [];
	const of = (key: Cause) => found.odds.find((o) => o.key === key)?.odds ?? 0;
	const most = found.places.filter((p: Place) => p.key !== 'soil')[0];
	if (found.state === 'known_loss' && most)
		said.push(
			`Most of it stays in the ${placeOf(most.key)}, ${range(most.low_w, most.high_w)}: that is in the plan already. A low SWR here is no proof of a good antenna.`
		);
	if (found.state === 'loss' && found.named.length === 1 && found.named[0])
		said.push(`It looks like ${causeOf(found.named[0])}: ${odds(of(found.named[0]))}.`);
	if (found.state === 'loss' && found.named.length > 1)
		said.push(
			`These look alike: ${either(found.named.map((k) => `${causeOf(k)} (${odds(of(k))})`))}.`
		);
	if (found.state === 'shield')
		said.push(
			'Both sweeps are of the same antenna, and they differ: current flows on the outside of the coax. How many watts that costs cannot be told from here; a choke at the feed, or further down, stops it.'
		);
	if (found.state === 'cannot_tell' && found.why === 'hidden_by_line')
		said.push(
			`Through this line nothing above ${swr(found.ceiling_swr)} : 1 can be read: an antenna and a resistor look alike.`
		);
	if (found.state === 'cannot_tell' && found.why === 'alike')
		said.push(
			`This sweep does not part ${either(found.named.map((k) => `${causeOf(k)} (${odds(of(k))})`))}.`
		);
	if (found.state === 'no_match')
		said.push(
			'Another antenna, another plane, current on the coax, or something else that was not told: no loss that is known here makes such a curve.'
		);
	if (found.settle) said.push(settling[found.settle]);
	return said;
}
