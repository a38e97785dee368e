/** What is said at a tuner: which knob, which way, and what the sweep shows. */

import type { Schemas } from '../lib/api/client';
import { quantity, swr } from '../lib/units/format';

export type Advice = Schemas['AdviceOut'];
export type Control = 'output' | 'coil' | 'input';
export type Dials = Schemas['DialsIn'];

export const names: Record<Control | 'switch', string> = {
	output: 'antenna capacitor',
	coil: 'coil',
	input: 'radio capacitor',
	switch: 'switch'
};

export const fields = { output: 'output_f', coil: 'coil_h', input: 'input_f' } as const;

/** What a control is set to. */
export function valueText(
	control: Control,
	value: number | null | undefined,
	digits?: number
): string {
	return quantity(value, control === 'coil' ? 'H' : 'F', digits);
}

/** Where a control should go, fine enough to differ from where it stands. */
export function wantedText(
	control: Control,
	wanted: number | null | undefined,
	now: number | null | undefined
): string {
	const digits = [3, 4, 5].find(
		(n) => valueText(control, wanted, n) !== valueText(control, now, n)
	);
	return valueText(control, wanted, digits ?? 3);
}

/** Which knob to turn, which way, about how far; from where the dials stand. */
export function turnText(advice: Advice, dials: Dials): string {
	if (advice.control === null) return '';
	if (advice.control === 'switch') {
		const side = { tee: 'C-L-C', antenna: "the antenna's side", radio: "the radio's side" };
		return advice.side === null
			? 'Switch the tuner out.'
			: `Switch the capacitor to ${side[advice.side]}.`;
	}
	return `Turn the ${names[advice.control]}: ${advice.more ? 'more' : 'less'}, to about ${wantedText(advice.control, advice.to, dials[fields[advice.control]])}.`;
}

/** What should then be read, and how many turns that leaves. */
export function expectedText(advice: Advice): string {
	if (advice.expected_swr === null || advice.control === null) return '';
	const after = advice.moves - 1;
	const most = `${swr(advice.expected_swr)} or less, nine times in ten`;
	if (after <= 0) return `It should then read ${most}.`;
	return `${after === 1 ? 'One more turn' : `${after} more turns`} should follow; in between it may read worse: ${most}.`;
}

/** Where one stands, in a sentence. */
export function standingText(advice: Advice, aim: 'middle' | 'band'): string {
	switch (advice.kind) {
		case 'there':
			return `Matched: ${swr(advice.swr)} : 1 in the middle, ${swr(advice.worst_swr)} at the worst of the band.`;
		case 'compromise':
			return `This is the band's compromise: ${swr(advice.worst_swr)} at its worst, ${swr(advice.swr)} in the middle. By what is known no setting holds the whole band better than ${swr(advice.best_swr)}.`;
		case 'nothing_moved':
			return 'Nothing moved. Is the tuner in line?';
		case 'cannot':
			return `By what is known this tuner cannot match it: the nearest it comes is ${swr(advice.best_swr)} : 1.`;
		default:
			return aim === 'band'
				? `${swr(advice.worst_swr)} : 1 at the worst of the band; ${swr(advice.best_swr)} can be held.`
				: `${swr(advice.swr)} : 1 in the middle, ${swr(advice.worst_swr)} at the worst of the band.`;
	}
}

/** What the sweeps tell of the dials, where they tell something. */
export function dialsToldText(advice: Advice): string {
	const known = advice.dials.filter((d) => d.known);
	if (!known.length) return '';
	const said = known.map(
		(d) =>
			`the ${names[d.control]} has ${Math.abs(100 * d.error).toFixed(0)} % ${d.error > 0 ? 'more' : 'less'} than its dial says`
	);
	return `By the sweeps so far ${said.join(', ')}.`;
}

/** The controls that a tuner has, from the antenna down. */
export function controlsOf(network: 'tee' | 'ell' | undefined): Control[] {
	return network === 'ell' ? ['coil', 'input'] : ['output', 'coil', 'input'];
}
