/** What is said of a design as it was built. */

import type { Content, Schemas } from '../lib/api/client';
import { partNames } from '../design/stations';
import { percent, quantity, swr } from '../lib/units/format';

export type Fit = Schemas['AsBuiltOut'];
export type Slip = Schemas['BuildSlipOut'];
type Value = Schemas['BuiltValueOut'];

const whats: Record<Slip['what'], string> = {
	turns: 'turn',
	primary_turns: 'primary turn',
	secondary_turns: 'secondary turn',
	length: 'length'
};

/** As in "the coil is a turn short". */
export function slipText(slip: Slip | null, content: Content): string {
	if (!slip) return 'as planned';
	const name = nameOf(slip.key, content);
	if (slip.what === 'length')
		return `${name} is cut ${Math.round(Math.abs(slip.by) * 1000)} mm ${slip.by < 0 ? 'short' : 'long'}`;
	return `${name} is a ${whats[slip.what]} ${slip.by < 0 ? 'short' : 'over'}`;
}

export function nameOf(key: string, content: Content): string {
	return key === 'antenna' ? 'the antenna' : `the ${partNames(content).get(key) ?? key}`;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The figure that decides. */
export function headline(fit: Fit, content: Content): string {
	const first = fit.odds[0];
	if (fit.state === 'no_match')
		return fit.other_plane ? 'Swept at the other end' : 'Like nothing this design shows';
	if (fit.state === 'as_planned') return 'Built as planned';
	if (fit.state === 'nothing_shows') return 'Nothing amiss that shows';
	if (fit.state === 'slipped' && first) return capital(slipText(first.slip, content));
	return 'Cannot tell';
}

/** What stands under it. */
export function explained(fit: Fit, content: Content): string[] {
	if (fit.state === 'no_match')
		return [
			fit.other_plane
				? 'It fits a sweep taken at the other end of the coax: choose that above.'
				: 'Another antenna, another plane, or something in it is broken: none of the tolerances makes such a curve.'
		];
	const said: string[] = [];
	if (fit.state === 'cannot_tell')
		said.push(
			`${capital(
				fit.odds
					.slice(0, 3)
					.map((o) => `${slipText(o.slip, content)}, ${percent(o.odds)}`)
					.join('; or ')
			)}.`
		);
	if (fit.state === 'nothing_shows')
		said.push(
			`Here it would hardly show that ${fit.odds
				.filter((o) => o.slip)
				.map((o) => slipText(o.slip, content))
				.join(', or ')}.`
		);
	if (fit.untold.length)
		said.push(
			`The curve says next to nothing of ${fit.untold.map((k) => nameOf(k, content)).join(' and ')}.`
		);
	for (const { one, other } of fit.alike)
		said.push(
			`${capital(nameOf(one, content))} and ${nameOf(other, content)} look alike here: the sweep tells them only together.`
		);
	return said;
}

/** The one reading more that would tell most; null where nothing is left to tell. */
export function nextReading(fit: Fit, content: Content): string | null {
	if (!fit.measure) return null;
	return fit.measure === 'antenna'
		? 'Sweep the antenna again without the match: that would tell most.'
		: `Sweep ${nameOf(fit.measure, content)} alone: that would tell most.`;
}

const units = { H: 'H', F: 'F' } as const;
const fields: Record<string, string> = {
	permeability_factor: 'permeability',
	leakage_h: 'leakage',
	winding_capacitance_f: 'own capacitance',
	input_capacitance_f: 'input capacitor',
	loss_sqrt: 'loss',
	velocity_factor: 'velocity',
	size: 'size of Γ',
	turn: 'angle of Γ'
};

/** A value, as meant, as found, and between what it lies nine times in ten. */
export function valueText(value: Value): {
	name: string;
	planned: string;
	found: string;
	range: string;
} {
	const name = value.field === 'value' ? '' : (fields[value.field] ?? value.field);
	if (value.unit === 'H' || value.unit === 'F') {
		const unit = units[value.unit];
		return {
			name,
			planned: quantity(value.planned, unit),
			found: quantity(value.found, unit),
			range: `${quantity(value.low, unit)} to ${quantity(value.high, unit)}`
		};
	}
	if (value.unit === 'sd') {
		const far = (v: number) => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(1)} σ`;
		return {
			name,
			planned: 'as modelled',
			found: far(value.found),
			range: `${far(value.low)} to ${far(value.high)}`
		};
	}
	// Of the antenna by how much it is off; of a part its share of what was meant.
	const off = (v: number) => {
		const share = (v - value.planned) * 100;
		const text = Math.abs(share).toFixed(1);
		return text === '0.0' ? '0.0 %' : `${share < 0 ? '−' : '+'}${text} %`;
	};
	return {
		name,
		planned: value.element === 'antenna' ? 'as swept' : 'as in the table',
		found: off(value.found),
		range: `${off(value.low)} to ${off(value.high)}`
	};
}

/** What to change, and what that buys; null where nothing is worth it. */
export function changeText(fit: Fit, content: Content): string | null {
	const change = fit.change;
	if (!change) return null;
	const element = content.elements.find((e) => e.key === change.key);
	const unit = element && 'inductance_h' in element ? 'H' : 'F';
	return (
		`${capital(nameOf(change.key, content))} from ${quantity(change.value_from, unit)} to ${quantity(change.value_to, unit)}: ` +
		`worst SWR ${swr(change.worst_now)} → ${swr(change.worst_then)}, ` +
		`${percent(change.holds_then)} of what it may be then holds, now ${percent(change.holds_now)}.`
	);
}

/** What the sweep says to somebody who names a slip. */
export function claimText(fit: Fit, slip: Slip, content: Content): string {
	const odds =
		fit.odds.find(
			(o) => o.slip?.key === slip.key && o.slip.what === slip.what && o.slip.by === slip.by
		)?.odds ?? 0;
	const first = fit.odds[0];
	if (
		first?.slip &&
		first.slip.key === slip.key &&
		first.slip.by === slip.by &&
		fit.state === 'slipped'
	)
		return `Yes: ${slipText(slip, content)}, ${percent(odds)}.`;
	if (fit.state !== 'slipped' && odds > 0) return `Cannot tell: ${percent(odds)} for it.`;
	return `No: ${percent(odds)} for it; rather ${slipText(first?.slip ?? null, content)}.`;
}

/** What a state is called that was taken as it was built: by which sweep, and what that told. */
export function builtLabel(fit: Fit, content: Content, sweepName: string | undefined): string {
	const told = fit.values
		.filter((v) => v.unit === 'H' || v.unit === 'F')
		.map((v) => `${partNames(content).get(v.element) ?? v.element} ${valueText(v).range}`);
	const label = `as built, by “${sweepName ?? 'a sweep'}”: ${told.join(', ')}`;
	return label.length > 120 ? `${label.slice(0, 119)}…` : label;
}

/** A coil as this sweep found it, for the drawer; null for what is none, or of which the sweep says next to nothing. */
export function pieceOf(value: Value, fit: Fit, content: Content): Schemas['CoilPiece'] | null {
	const part = content.elements.find((e) => e.key === value.element);
	// Known hardly better than before, it is a guess and no piece.
	if (value.unit !== 'H' || part?.kind !== 'coil' || fit.untold.includes(part.key)) return null;
	// Nine of ten lie within 1.645 standard deviations; a piece tells two.
	const error = (value.high - value.low) / 1.645 / value.found;
	return {
		kind: 'coil',
		name: `${partNames(content).get(part.key) ?? 'coil'}, ${quantity(value.found, 'H')}, as built`,
		price: '',
		values: {
			inductance_h: value.found,
			inductance_error: Math.min(error, 1),
			capacitance_f: null,
			q: null,
			q_at_hz: null,
			resonance_hz: null
		}
	} as Schemas['CoilPiece'];
}
