/** What is said of a modelled antenna held against a sweep. */

import type { Schemas } from '../lib/api/client';
import { length, type LengthUnit, megahertz, millimetres, quantity } from '../lib/units/format';

export type WireFit = Schemas['WireFitOut'];
type Value = Schemas['MovedValueOut'];

const names: Record<string, string> = {
	length: 'length',
	height: 'height',
	covering: 'covering, outside',
	ground: 'ground',
	radials: 'loss of the radials',
	trap: 'trap',
	coil: 'coil'
};
export const nameOf = (name: string) => names[name] ?? name;

export function fitHeadline(fit: WireFit): string {
	const heads: Record<WireFit['state'], string> = {
		as_modelled: 'It hangs as modelled',
		moved: 'It hangs otherwise than planned',
		far_off: 'Something is far off',
		no_match: 'Like nothing this antenna shows'
	};
	return heads[fit.state];
}

const list = (some: string[]) =>
	some.length < 2 ? (some[0] ?? '') : `${some.slice(0, -1).join(', ')} and ${some.at(-1)}`;

export function fitSentences(fit: WireFit): string[] {
	if (fit.state === 'no_match')
		return [
			'Another antenna, another plane, or something stands in it that the model has not: no length, height or ground makes such a curve.'
		];
	const said: string[] = [];
	const far = fit.values.filter(
		(v) => Math.abs(v.sigmas) === Math.max(...fit.values.map((o) => Math.abs(o.sigmas)))
	);
	if (fit.state === 'far_off')
		said.push(
			`The ${list(far.map((v) => nameOf(v.name)))} would have to be further off than such things are: measure it, or look for what the model has not.`
		);
	if (fit.untold.length)
		said.push(
			`Cannot tell: ${list(fit.untold.map(nameOf))}. The sweep says next to nothing of ${fit.untold.length > 1 ? 'them' : 'it'}.`
		);
	for (const { one, other } of fit.together)
		said.push(
			`${nameOf(one)} and ${nameOf(other)} are told only together: they move this curve alike.`
		);
	if (fit.wider) said.push('A sweep from a fifth below to a fifth above would tell them apart.');
	else if (fit.measure)
		said.push(`Measure the ${nameOf(fit.measure)} by itself: that would tell most.`);
	return said.map((s) => s.charAt(0).toUpperCase() + s.slice(1));
}

/** A value as planned and as it hangs. */
export function movedText(value: Value, unit: LengthUnit) {
	const text = (v: number): string => {
		if (value.field === 'stock') return millimetres(v * 2);
		if (value.field === 'ground' || value.field === 'soil') return `${quantity(v, 'S/m', 2)}`;
		if (value.field.endsWith('_m')) return length(v, unit);
		if (value.field.endsWith('_hz')) return `${megahertz(v)} MHz`;
		if (value.field.endsWith('_h')) return quantity(v, 'H');
		return quantity(v, 'Ω');
	};
	return {
		name: nameOf(value.name),
		planned: text(value.planned),
		found: text(value.found),
		range: `${text(value.low)} to ${text(value.high)}`
	};
}
