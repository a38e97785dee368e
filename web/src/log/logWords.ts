/** What the log says: days, kinds of things, what moved since; codes and values come in, sentences go out. */

import type { Schemas } from '../lib/api/client';
import { figures, length, type LengthUnit, megahertz, percent, swr } from '../lib/units/format';

export type Logged = Schemas['LoggedOut'];
export type Photograph = Schemas['PhotographOut'];
export type Moved = Schemas['MovedSinceOut'];
export type Then = Schemas['ThenOut'];
export type Group =
	'sweeps' | 'acts' | 'readings' | 'checks' | 'designs' | 'notes' | 'photographs' | 'air';

/** What can be filtered by, in the order of the buttons. */
export const groups: { key: Group; name: string }[] = [
	{ key: 'sweeps', name: 'Sweeps' },
	{ key: 'acts', name: 'Acts on the wire' },
	{ key: 'readings', name: 'Readings' },
	{ key: 'checks', name: 'Bench checks' },
	{ key: 'designs', name: 'Designs' },
	{ key: 'notes', name: 'Notes' },
	{ key: 'photographs', name: 'Photographs' },
	{ key: 'air', name: 'On the air' }
];

/** A stretch of the line: one day, with what happened on it. */
export interface Day {
	key: string;
	title: string;
	items: Logged[];
}

/** By days of this place, the newest first. */
export function days(items: Logged[], now: Date): Day[] {
	const found: Day[] = [];
	for (const item of items) {
		const at = new Date(item.at);
		const key = `${at.getFullYear()}-${at.getMonth() + 1}-${at.getDate()}`;
		const last = found[found.length - 1];
		if (last?.key === key) last.items.push(item);
		else found.push({ key, title: dayTitle(at, now), items: [item] });
	}
	return found;
}

/** A day as people say it. */
export function dayTitle(at: Date, now: Date): string {
	const midnight = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime();
	const ago = Math.round((midnight(now) - midnight(at)) / 864e5);
	if (ago === 0) return 'Today';
	if (ago === 1) return 'Yesterday';
	return at.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
}

/** The mark of a thing on the wire: what it is at a glance. */
export function markOf(item: Logged): 'act' | 'sweep' | 'design' | 'note' {
	if (item.what === 'state' || item.entry?.data.kind === 'built') return 'design';
	if (item.what === 'sweep' || item.entry?.data.kind === 'reading') return 'sweep';
	return ['hung', 'cut', 'use_so'].includes(item.entry?.data.kind ?? '') ? 'act' : 'note';
}

/** A design as it was begun, or a state of it. */
export function stateText(state: NonNullable<Logged['state']>): string {
	const what =
		state.number === 1 && !state.label
			? `Design begun: ${state.design}`
			: `${state.design}, state ${state.number}${state.label ? `: ${state.label}` : ''}`;
	const came =
		state.worst_swr === null
			? ''
			: `; worst SWR ${swr(state.worst_swr)}${state.share === null ? '' : `, ${percent(state.share)} hold`}`;
	return `${what}${came}`;
}

/** What a sweep covers. */
export const sweptText = (sweep: NonNullable<Logged['sweep']>): string =>
	`${sweep.name}, ${megahertz(sweep.low_hz)} to ${megahertz(sweep.high_hz)} MHz, ${sweep.points} points${sweep.source === 'simulated' ? ', simulated' : ''}`;

/** What of a build is so weak a proof that it is called so. */
export const weak = (item: Logged): string =>
	item.entry?.data.kind === 'on_air'
		? 'Weak as a proof: the path changes within minutes, and so does the other station.'
		: '';

const states: Record<Moved['state'], (m: Moved) => string> = {
	cannot_tell: () => 'Cannot tell: the two sweeps have no frequency in common.',
	still: (m) =>
		`Nothing moved beyond what two readings differ by on their own (${figures(m.doubt ?? 0, 2)} of Γ).`,
	moved: (m) =>
		`It moved${moveSize(m)}, and it does not matter: no band was lost, and no part is off by 2 %.`,
	matters: (m) => `It moved${moveSize(m)}, and it matters: set it again before you go on.`
};

function moveSize(m: Moved): string {
	const share = m.reactance_share;
	return share === null
		? `, most at ${megahertz(m.at_hz ?? 0)} MHz`
		: `: its reactance by ${share < 0 ? '−' : '+'}${figures(Math.abs(100 * share), 2)} %`;
}

/** What became of the same thing after something was done to it. */
export const movedText = (moved: Moved): string => states[moved.state](moved);

/** How the wire was at a moment. */
export function legsText(found: Then, unit: LengthUnit): string {
	if (found.legs.length === 0) return 'The wire did not hang yet.';
	return found.legs
		.map(
			(leg) =>
				`${length(leg.reach_m, unit)} from the feedpoint${leg.folded_m > 0 ? `, ${length(leg.folded_m, unit)} of it folded back` : ''}`
		)
		.join('; ');
}

/** A size of a file. */
export const sizeText = (bytes: number): string =>
	bytes < 1e6 ? `${Math.round(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
