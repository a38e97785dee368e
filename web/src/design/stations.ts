/** What is seen at each place of the system at the marker: numbers read off received curves, put in order for the eye. */

import type { Content, Prediction, Station } from '../lib/api/client';
import { lowest, valueAt } from '../lib/charts/curve';
import { type LengthUnit, length, megahertz } from '../lib/units/format';
import {
	feedline,
	isBelow,
	isOfLine,
	isWound,
	type Lumped,
	parts,
	shortenedOf,
	tunerOf,
	woundName,
	woundTitle
} from './content';
import { lineLoss, secondOf, shorterText } from './words';

/** What a station shows at one frequency; null where it is not known. */
export function at(station: Station | undefined, hz: number) {
	const read = (values: (number | null)[] | undefined) =>
		station && values ? valueAt(station.frequency_hz, values, hz) : null;
	return {
		key: station?.key ?? '',
		r: read(station?.resistance_ohm),
		x: read(station?.reactance_ohm),
		swr: read(station?.swr),
		re: read(station?.gamma_real),
		im: read(station?.gamma_imag),
		halfRe: read(station?.halfway_real),
		halfIm: read(station?.halfway_imag),
		power: read(station?.power_w),
		loss: read(station?.loss_w)
	};
}

export type Seen = ReturnType<typeof at>;

/** A place on the chart of Γ, where it is known. */
export function point(
	p: { re: number | null; im: number | null } | undefined
): { re: number; im: number } | null {
	return p && p.re !== null && p.im !== null ? { re: p.re, im: p.im } : null;
}

/** The name of the sweep that a design hangs on; nothing where it hangs on none that is here. */
export function sweptNameOf(
	content: Content | null,
	sweeps: { id: string; name: string }[]
): string {
	const antenna = content?.antenna;
	if (antenna?.kind !== 'sweep') return '';
	return sweeps.find((s) => s.id === antenna.sweep_id)?.name ?? '';
}

/** What the parts are called in the drop and on the chart; with their place where both are of one kind. */
export function partNames(content: Content): Map<string, string> {
	const found = parts(content);
	const short = { coil: 'coil', coax_capacitor: 'coax C', capacitor: 'C' };
	const lumped = found.filter((p): p is Lumped => !isOfLine(p));
	const alike = (p: Lumped) =>
		lumped.filter((o) => (o.kind === 'coil') === (p.kind === 'coil')).length > 1;
	return new Map([
		...found.map((p): [string, string] => {
			if (isOfLine(p)) return [p.key, p.kind === 'stub' ? 'stub' : 'section'];
			const name = alike(p) ? `${p.place} ${short[p.kind]}` : short[p.kind];
			return [p.key, `${secondOf(p)}${name}`];
		}),
		...content.elements
			.filter(isWound)
			.map((w): [string, string] => [w.key, w.kind === 'transformer' ? 'unun' : 'ring coil'])
	]);
}

/** The way that each part takes on the chart of Γ, from the wire to the box. */
export function roadOf(seen: Seen[], box: number, names: Map<string, string>) {
	return seen.slice(1, box + 1).flatMap((leg, i) => {
		const from = point(seen[i]);
		const to = point(leg);
		const half = point({ re: leg.halfRe, im: leg.halfIm });
		return from && to && half ? [{ from, half, to, name: names.get(leg.key) ?? leg.key }] : [];
	});
}

interface Shown {
	content: Content;
	prediction: Prediction;
	/** All stations at the marker, the wire first. */
	seen: Seen[];
	/** Name of the wire's sweep, and where it is looked at. */
	sweepName: string;
	sweepHref: string;
	markerHz: number;
	unit: LengthUnit;
}

/** Where what goes into a modelled wire ends, in its middle band. */
function wireText(split: Prediction['wire']): string {
	if (!split) return 'as modelled';
	const share = (value: number) => `${Math.round(100 * value)} %`;
	const lost = [
		['ground', split.ground],
		['coil', split.loads],
		['wire', split.wire]
	] as const;
	const told = lost.filter(([, value]) => value >= 0.005).map(([name, v]) => `${share(v)} ${name}`);
	return `modelled: ${share(split.radiated)} radiated, ${told.join(', ')}`;
}

/** The stops of the drop, from the wire down to the radio. */
export function stopsOf({
	content,
	prediction,
	seen,
	sweepName,
	sweepHref,
	markerHz,
	unit
}: Shown) {
	const wire = seen[0];
	const box = seen[prediction.box];
	const last = seen[seen.length - 1];
	if (!wire || !box || !last) return [];
	const names = partNames(content);
	const line = feedline(content);
	const tuner = tunerOf(content);
	const lineMade = prediction.made.find((m) => m.kind === 'line');
	const stop = (
		key: string,
		title: string,
		detail: string,
		of: Seen,
		more: { heat?: number; measured?: boolean; here?: boolean; href?: string } = {}
	) => ({
		key,
		title,
		detail,
		resistance: of.r,
		reactance: of.x,
		swr: of.swr,
		watts: of.power,
		heat: 0,
		measured: false,
		here: false,
		...more
	});
	const inMatch = content.elements.filter((e) => !isBelow(e) && e.kind !== 'transformer');
	const made = inMatch.map((e) => {
		const name = (names.get(e.key) ?? '').replace(/^(series|shunt) /, '');
		return e.place === 'through' ? name : `${e.place} ${name}`;
	});
	// An unun or a balun is a stop of its own: its watts branch off where it hangs.
	const wound = content.elements.flatMap((e, i) => {
		const below = seen[i + 1];
		if (e.kind !== 'transformer' || !below) return [];
		const href = sweepHref.replace(/sweep$/, `wind?piece=${e.key}`);
		return [
			stop(e.key, woundTitle(e), woundName(e), below, {
				heat: below.loss ?? 0,
				href,
				here: !made.length
			})
		];
	});
	const firstWound = content.elements.findIndex((e) => e.kind === 'transformer');
	const matchFirst = firstWound > 0 && content.elements.indexOf(inMatch[0]!) < firstWound;
	const aboveWound = seen[firstWound] ?? box;
	const inWound = wound.reduce((sum, w) => sum + w.heat, 0);
	const heat =
		seen.slice(1, prediction.box + 1).reduce((sum, s) => sum + (s.loss ?? 0), 0) - inWound;
	const shortened = shortenedOf(content);
	const match = made.length
		? [
				stop('match', 'Match', made.join(' · '), matchFirst ? aboveWound : box, {
					heat,
					here: true
				})
			]
		: [];
	return [
		content.antenna.kind === 'sweep'
			? stop(
					'wire',
					'The wire',
					shortened < 1 ? `${sweepName}, cut ${shorterText(shortened)}` : sweepName,
					wire,
					{ measured: shortened === 1, href: sweepHref }
				)
			: content.antenna.kind === 'wire'
				? stop('wire', 'The wire', wireText(prediction.wire), wire, {
						href: sweepHref.replace(/sweep$/, 'wire')
					})
				: stop('wire', 'The wire', 'taken as a resistor', wire),
		// In the order in which they hang.
		...(matchFirst ? [...match, ...wound] : [...wound, ...match]),
		...(line
			? [
					stop(
						'line',
						`Coax, ${length(line.length_m, unit)}`,
						lineMade?.kind === 'line' ? lineLoss(lineMade) : '',
						tuner ? (seen[seen.length - 2] ?? last) : last,
						{ heat: (tuner ? seen[seen.length - 2]?.loss : last.loss) ?? 0 }
					)
				]
			: []),
		...(tuner
			? [
					stop('tuner', 'Tuner', tuner.network === 'ell' ? 'L' : 'C-L-C', last, {
						heat: last.loss ?? 0
					})
				]
			: []),
		stop('radio', 'Radio', `${megahertz(markerHz)} MHz`, last)
	];
}

/** Where a prediction dips, and its worst SWR in the targets. */
export function standingOf(prediction: Prediction | null): {
	dipHz: number | null;
	worst: number | null;
} {
	const box = prediction?.stations[prediction.box];
	if (!prediction || !box) return { dipHz: null, worst: null };
	const worst = prediction.targets.map((t) => t.worst_swr ?? null);
	const at = lowest(box.frequency_hz, box.swr);
	const edges = [box.frequency_hz[0], box.frequency_hz[box.frequency_hz.length - 1]];
	return {
		// Lowest at an edge is no dip: it lies beyond what is drawn.
		dipHz: at === null || edges.includes(at) ? null : at,
		worst: worst.includes(null) ? null : Math.max(...(worst as number[]))
	};
}
