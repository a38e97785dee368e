/** What is said of a design band by band. */

import type { Content, Schemas } from '../lib/api/client';
import { feedline, isWound, woundTitle } from '../design/content';
import { figures, impedance, quantity, swr, watts } from '../lib/units/format';

export type Bands = Schemas['BandsPredictionOut'];
export type Band = Schemas['BandFlowOut'];
type Loss = Schemas['LossOut'];

const plain: Record<Loss['kind'], string> = {
	tuner: 'tuner',
	line: 'coax',
	section: 'section of coax',
	transformer: 'unun',
	coil: 'coil',
	capacitor: 'capacitor',
	stub: 'stub',
	wire: 'wire',
	loads: 'loads in the wire',
	ground: 'ground'
};

/** A cable's name without its class, and without the 50 Ω that most have. */
export function shortCable(name: string): string {
	return name.replace(/ \(.*\)$/, '').replace(/, 50 Ω$/, '');
}

/** What a thing of the way is called. */
export function lossName(kind: Loss['kind']): string {
	return plain[kind];
}

/** What stays in a thing; of a line how much of it by its SWR. */
export function lossText(loss: Loss): string {
	const said = `${watts(loss.watts)} ${lossName(loss.kind)}`;
	if (loss.kind !== 'line' || loss.matched_w === null || loss.watts === null) return said;
	const extra = loss.watts - loss.matched_w;
	if (Math.abs(extra) < 0.5) return said;
	return extra > 0
		? `${said}, ${watts(extra)} of it by its SWR`
		: `${said}, ${watts(-extra)} less than matched`;
}

/** What goes up, and between what nine of ten builds lie. */
export function upText(band: Band): string {
	if (band.up_w === null) return 'takes no power: R is not above zero';
	const low = band.up_low_w ?? 0;
	const high = band.up_high_w ?? 0;
	const what = band.radiated ? 'go up' : 'go into the wire';
	const range = high - low < 0.6 ? '' : `, ${low.toFixed(0)} to ${high.toFixed(0)}`;
	return `${watts(band.up_w)} ${what}${range}`;
}

/** A place of the system in the words of the desk. */
export function placeName(key: string, content: Content): string {
	if (key === 'antenna') return 'the wire';
	const element = content.elements.find((e) => e.key === key);
	if (!element) return key;
	if (element.kind === 'line') return 'the coax';
	if (element.kind === 'tuner') return 'the tuner';
	if (isWound(element))
		return element.kind === 'transformer' ? `the ${woundTitle(element)}` : 'the ring coil';
	return `the ${element.kind.replace('coax_capacitor', 'coax capacitor').replace('_', ' ')}`;
}

/** Where one stands when one looks both ways from a station. */
export function standingAt(key: string, content: Content): string {
	if (key === 'antenna') return "at the wire's terminals";
	return `below ${placeName(key, content)}`;
}

/** What the radio's own meter says, and why a meter elsewhere says something else. */
export function meterText(band: Band, content: Content): string {
	const line = feedline(content);
	const said = [`At the radio ${swr(band.swr_radio)} on ${band.label}`];
	if (content.elements.some((e) => e.kind === 'tuner')) {
		said.push(
			`above the tuner a meter reads ${swr(band.swr_meter)}, while the line carries ${swr(band.swr_line ?? band.swr_meter)}: the tuner changes nothing there`
		);
	} else if (line && line.length_m > 0) {
		const hidden = (band.swr_box ?? 1) - (band.swr_radio ?? 1);
		said.push(
			hidden > 0.02
				? `at the far end of the coax it is ${swr(band.swr_box)}: the loss of the line hides the rest`
				: `at the far end of the coax ${swr(band.swr_box)}`
		);
	}
	if (band.swr_antenna !== band.swr_box) said.push(`the wire itself has ${swr(band.swr_antenna)}`);
	return `${said.join('; ')}.`;
}

/** Both schools of what comes back, with the watts of this band. */
export function reflectedText(band: Band): string {
	const back = band.reflected_w ?? 0;
	const forth = band.forward_w ?? 0;
	if (back < 0.05) return 'Nothing comes back worth a word.';
	return `A meter above shows ${watts(forth)} forward and ${watts(back)} reflected. One school sees those ${watts(back)} burnt in the final stage; the other sees them sent up again. The sum is the same for both: ${watts(forth - back)} pass that place, whichever way one counts.`;
}

/** What is seen from a station both ways, and whether one is the other's mirror image. */
export function conjugateText(ways: Schemas['WaysOut'], content: Content): string {
	const up = impedance(ways.up_resistance_ohm, ways.up_reactance_ohm);
	const down = impedance(ways.down_resistance_ohm, ways.down_reactance_ohm);
	return `Seen ${standingAt(ways.key, content)} it is ${up} upwards and ${down} downwards.`;
}

/** How far the two ways of a station are from mirror images, as the share of power that a perfect match would add. */
export function mismatchShare(ways: Schemas['WaysOut']): number | null {
	const { up_resistance_ohm: r, up_reactance_ohm: x } = ways;
	const { down_resistance_ohm: a, down_reactance_ohm: b } = ways;
	if (r === null || x === null || a === null || b === null || r <= 0 || a <= 0) return null;
	return 1 - (4 * r * a) / ((r + a) ** 2 + (x + b) ** 2);
}

/** Better coax, worse reading: in words, of two lines of one length on a band; null where it is not so. */
export function betterCoax(bands: Bands, band: number, own: number): string | null {
	const here = bands.cables.find((c) => c.here);
	const best = [...bands.cables].sort(
		(a, b) => (b.up_w[own]?.[band] ?? 0) - (a.up_w[own]?.[band] ?? 0)
	)[0];
	if (!here || !best || best.here) return null;
	const gain = (best.up_w[own]?.[band] ?? 0) - (here.up_w[own]?.[band] ?? 0);
	const reads = best.meter_swr[own]?.[band] ?? 1;
	const read = here.meter_swr[own]?.[band] ?? 1;
	if (gain < 0.5) return null;
	const said = `With ${shortCable(best.name)} ${watts(gain)} more go up`;
	return reads > read + 0.005
		? `${said}, and the meter reads worse: ${swr(reads)} instead of ${swr(read)}. Loss hides SWR.`
		: `${said}; the meter reads ${swr(reads)} instead of ${swr(read)}.`;
}

/** What may be sent in each mode, and what decides. */
export function allowedText(bands: Bands, content: Content): string {
	const rows = bands.allowed;
	if (rows.every((r) => r.power_w === null))
		return 'Nothing known here limits the power: coax, and what hangs in the wire, have no ratings here.';
	const first = rows.find((r) => r.power_w !== null)!;
	const names: Record<string, string> = {
		speech: 'speech',
		telegraphy: 'telegraphy',
		digital: 'constant carrier'
	};
	const told = rows.map((r) =>
		r.power_w === null
			? `${names[r.mode]} without limit`
			: `${names[r.mode]} ${figures(r.power_w, 2)} W`
	);
	const why = first.by === 'heat' ? 'warms by 40 °C at that' : 'has its volts at that';
	const said = `${told.join(', ')}: ${placeName(first.key ?? '', content)} ${why}, on ${first.label}.`;
	return said.charAt(0).toUpperCase() + said.slice(1);
}

/** What a change is called on its button. */
export function betterName(better: Bands['better'][number], bands: Bands): string {
	switch (better.by) {
		case 'cable':
			return shortCable(bands.cables.find((c) => c.cable === better.key)?.name ?? better.key);
		case 'stack':
			return 'One ring more';
		case 'tuner_nowhere':
			return 'No tuner';
		case 'tuner_radio':
			return 'A tuner at the radio';
		case 'tuner_antenna':
			return 'A tuner at the antenna';
	}
}

/** Where a tuner's controls stand. */
export function dialsText(setting: Schemas['TunerSettingOut']): string {
	if (setting.side === null) return 'switched out';
	const coil = quantity(setting.coil_h, 'H');
	const input = quantity(setting.input_f, 'F');
	if (setting.side === 'tee') return `${quantity(setting.output_f, 'F')} · ${coil} · ${input}`;
	return setting.side === 'antenna'
		? `${input} across the line · ${coil}`
		: `${coil} · ${input} across the radio`;
}
