/** What became of one sweep in another, in words. */

import type { Comparison } from '../lib/api/client';
import { figures, megahertz, swr } from '../lib/units/format';

/** Second against first, a sentence each. */
export function differences(found: Comparison): string[] {
	const said: string[] = [];
	const shift = found.second_best_hz - found.first_best_hz;
	const best = `SWR ${swr(found.first_best_swr)} → ${swr(found.second_best_swr)}`;
	if (Math.abs(shift) < 1e3) {
		said.push(`The lowest SWR stays at ${megahertz(found.first_best_hz)} MHz; ${best}.`);
	} else {
		const way = shift > 0 ? 'higher' : 'lower';
		said.push(
			`The lowest SWR lies ${figures(Math.abs(shift) / 1e3)} kHz ${way}, at ${megahertz(found.second_best_hz)} MHz; ${best}.`
		);
	}
	for (const t of found.targets) {
		if (t.second_worst_swr === null && t.resistance_change_ohm === null) {
			said.push(`${t.label}: one of the two does not reach there.`);
			continue;
		}
		const worst = `worst SWR ${swr(t.first_worst_swr)} → ${swr(t.second_worst_swr)}`;
		const r = t.resistance_change_ohm;
		const x = t.reactance_change_ohm;
		const change = (name: string, v: number) =>
			Math.abs(v) < 0.05
				? `${name} the same`
				: `${name} ${figures(Math.abs(v), 2)} Ω ${v > 0 ? 'more' : 'less'}`;
		const z =
			r === null || r === undefined || x === null || x === undefined
				? ''
				: `; at ${megahertz(t.center_hz)} MHz ${change('R', r)}, ${change('X', x)}`;
		said.push(`${t.label}: ${worst}${z}.`);
	}
	return said;
}
