/** What is said of ways to match: names, what each is good for, how its parts are made. */

import type { IdealWay, Way, WayPart } from '../lib/api/client';
import { figures, length, type LengthUnit, quantity, turns } from '../lib/units/format';

type Parts = Pick<WayPart, 'place' | 'kind' | 'quarter_wave'>[];

const part: Record<WayPart['kind'], string> = {
	coil: 'coil',
	capacitor: 'C',
	section: 'coax',
	pair: 'two coaxes',
	stub: 'stub',
	hairpin: 'hairpin',
	transformer: 'unun'
};

/** A name for a network, by its parts from the wire down. */
export function wayName(way: { family: Way['family']; parts: Parts }): string {
	const [first, second] = way.parts;
	switch (way.family) {
		case 'none':
			return 'No match at all';
		case 'one':
			return first
				? `${capital(part[first.kind])} ${first.place === 'series' ? 'in series' : 'across'}`
				: '';
		case 'l': {
			const series = way.parts.find((p) => p.place === 'series');
			const shunt = way.parts.find((p) => p.place === 'shunt');
			if (!series || !shunt) return 'L';
			const where = first?.place === 'shunt' ? 'wire' : 'coax';
			return `${capital(part[series.kind])} in series, ${part[shunt.kind]} across the ${where}`;
		}
		case 'pi':
			return `Pi: ${way.parts.map((p) => part[p.kind]).join(', ')}`;
		case 'tee':
			return `T: ${way.parts.map((p) => part[p.kind]).join(', ')}`;
		case 'section': {
			const two = first?.kind === 'pair' ? ', two side by side' : '';
			return first?.quarter_wave ? `Quarter-wave of coax${two}` : `Length of coax${two}`;
		}
		case 'series_section':
			return `Two lengths of coax${second?.kind === 'pair' ? ', the second doubled' : ''}`;
		case 'stub':
			return way.parts.length === 1 ? 'Stub at the feedpoint' : 'Coax and a stub';
		case 'hairpin':
			return 'Hairpin across the feedpoint';
		case 'transformer':
			return 'Unun';
		case 'transformer_and': {
			const other = way.parts.find((p) => p.kind !== 'transformer');
			const where = other?.place === 'shunt' ? 'across the wire' : 'in series';
			return `Unun, ${other ? part[other.kind] : ''} ${where}${first?.kind === 'transformer' ? ' below it' : ''}`;
		}
	}
}

function capital(text: string): string {
	return text.replace(/^./, (c) => c.toUpperCase());
}

/** What a kind of network is good for, in one line. */
export const purpose: Record<Way['family'], string> = {
	none: 'The wire is near enough by itself: nothing to make, nothing to lose.',
	one: 'Takes out the reactance alone. Good where R is near 50 Ω already.',
	l: 'Two parts for any R and X. The usual match of one band.',
	pi: 'Three parts: a freer choice of values, more current in them.',
	tee: 'Three parts: may be wider than an L, for one part more.',
	transformer: 'Carries R down on many bands at once; leaves the reactance.',
	transformer_and: 'One part tunes, the core carries R. Wide, but the core warms.',
	section: 'Only coax, for an R that is one step away. Nothing to wind.',
	series_section: 'Only coax: a length of the line, then one of another kind.',
	stub: 'Only coax: so far from the wire, then a piece across.',
	hairpin: 'A loop of wire across the feedpoint of a shortened wire.'
};

/** How a part is made, with its value: what one counts first. */
export function made(of: WayPart, unit: LengthUnit): string {
	switch (of.kind) {
		case 'coil':
			return `${turns(of.make ?? 0)} ${of.make === 1 ? 'turn' : 'turns'}, ${quantity(of.value, 'H')}`;
		case 'capacitor':
			return of.make
				? `${length(of.make, unit)} of coax, ${quantity(of.value, 'F')}`
				: quantity(of.value, 'F');
		case 'transformer':
			return `${figures(of.value, 2)} : 1`;
		default:
			return `${of.kind === 'pair' ? '2 × ' : ''}${length(of.make ?? 0, unit)}, ${figures(of.value, 2)}°`;
	}
}

/** The value of a part of an ideal network. */
export function idealValue(of: WayPart): string {
	switch (of.kind) {
		case 'coil':
			return quantity(of.value, 'H');
		case 'capacitor':
			return quantity(of.value, 'F');
		case 'transformer':
			return `${figures(of.value, 2)} : 1`;
		default:
			return `${figures(of.value, 2)}°`;
	}
}

/** The best that a network could be, in a few words. */
export function idealText(ideal: IdealWay): string {
	return `${wayName(ideal)}${ideal.parts.length ? ` (${ideal.parts.map(idealValue).join(', ')})` : ''}`;
}

/** What of a way lies in the drawer, with what it cost, and what is to be bought. */
export function shopping(way: Way): { have: string[]; buy: string[] } {
	const names = (mine: boolean) =>
		way.things
			.filter((t) => t.mine === mine)
			.map((t) => (t.price ? `${t.name} (${t.price})` : t.name));
	return { have: names(true), buy: names(false) };
}

/** The worst SWR of a way: over its limit where all limits are one, else the highest there is. */
export function worstOf(way: Pick<Way, 'excess' | 'worst_swr'>, limit: number | null): number {
	return limit === null
		? Math.max(...way.worst_swr.map((w) => w ?? 99))
		: (way.excess ?? 0) * limit;
}
