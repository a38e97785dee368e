/** How values are written: three significant figures, engineering prefixes, lengths as a tape reads them. */

export type LengthUnit = 'm' | 'ft';

const prefixes: [number, string][] = [
	[1e9, 'G'],
	[1e6, 'M'],
	[1e3, 'k'],
	[1, ''],
	[1e-3, 'm'],
	[1e-6, 'µ'],
	[1e-9, 'n'],
	[1e-12, 'p'],
	[1e-15, 'f']
];

/** Three significant figures, without an exponent; larger values to the unit. */
export function figures(value: number, digits = 3): string {
	if (value === 0) return '0';
	const rounded = Number(value.toPrecision(digits));
	const size = Math.floor(Math.log10(Math.abs(rounded)));
	return rounded.toFixed(Math.max(0, digits - 1 - size)).replace('-', '−');
}

/** A value in SI with its prefix and unit, as in "2.28 µH". Henry stays in µH below 1 mH, farad in pF below 1 nF. */
export function quantity(value: number | null | undefined, unit: string, digits = 3): string {
	if (value === null || value === undefined || !Number.isFinite(value)) return `– ${unit}`;
	const size = Math.abs(Number(value.toPrecision(digits)));
	if (unit === 'H' && size < 1e-3 && size >= 1e-8) return `${figures(value * 1e6, digits)} µH`;
	const [scale, prefix] = prefixes.find(([s]) => size >= s) ?? [1e-15, 'f'];
	if (value === 0) return `0 ${unit}`;
	return `${figures(value / scale, digits)} ${prefix}${unit}`;
}

/** A frequency in MHz to 1 kHz. */
export function megahertz(hz: number): string {
	return (hz / 1e6).toFixed(3);
}

/** An edge of a band in MHz: to 1 kHz, and finer where it lies between. */
export function edgeMegahertz(hz: number): string {
	const exact = Number((hz / 1e6).toFixed(6));
	return exact.toFixed(Math.max(3, String(exact).split('.')[1]?.length ?? 0));
}

/** An SWR with two decimals, one above 10; what is endless says so. */
export function swr(value: number | null | undefined): string {
	if (value === null || value === undefined) return '∞';
	if (value >= 99.5) return value.toFixed(0);
	return value >= 9.995 ? value.toFixed(1) : value.toFixed(2);
}

/** R ± jX in ohm, to the ohm above ten. */
export function impedance(resistance: number | null, reactance: number | null): string {
	if (resistance === null || reactance === null) return '–';
	const part = (v: number) =>
		Math.abs(v) >= 10000 ? `${figures(v / 1000)} k` : v.toFixed(Math.abs(v) < 9.95 ? 1 : 0);
	return `${part(resistance).replace('-', '−')} ${reactance < -0.005 ? '−' : '+'} j${part(Math.abs(reactance))} Ω`;
}

/** Watts: one decimal below 10. */
export function watts(value: number | null | undefined): string {
	if (value === null || value === undefined) return '– W';
	return `${value.toFixed(Math.abs(value) < 9.95 ? 1 : 0)} W`;
}

/** A share as whole percent; one decimal within two percent of the ends. */
/** A tolerance in percent, without zeros that say nothing. */
export function tolerance(share: number): string {
	return `±${Number((100 * share).toFixed(1))} %`;
}

export function percent(share: number): string {
	const value = 100 * share;
	const near = value > 98 && value < 99.95;
	return `${near ? value.toFixed(1) : value.toFixed(0)} %`;
}

/** A length as a tape reads it: mm below 10 cm, cm below 2 m, m to the mm; or feet, inches, sixteenths. */
export function length(metres: number, unit: LengthUnit): string {
	if (unit === 'ft') return feetAndInches(metres);
	if (metres < 0.1) return `${(metres * 1e3).toFixed(0)} mm`;
	if (metres < 2) return `${(metres * 100).toFixed(1).replace(/\.0$/, '')} cm`;
	return `${metres.toFixed(3).replace(/0{1,2}$/, '')} m`;
}

/** A distance that is known to three figures at best. */
export function distance(metres: number, unit: LengthUnit): string {
	return unit === 'ft' ? `${figures(metres / 0.3048)} ft` : `${figures(metres)} m`;
}

function feetAndInches(metres: number): string {
	let sixteenths = Math.round((metres / 0.0254) * 16);
	const feet = Math.floor(sixteenths / 192);
	sixteenths -= feet * 192;
	const inches = Math.floor(sixteenths / 16);
	let over = sixteenths % 16;
	let under = 16;
	while (over > 0 && over % 2 === 0) {
		over /= 2;
		under /= 2;
	}
	const fraction = over ? `${over}/${under}` : '';
	const inch = [inches || !fraction ? `${inches}` : '', fraction].filter(Boolean).join(' ');
	return feet ? `${feet}' ${inch}"` : `${inch}"`;
}

/** Small sizes of wire and formers: mm in both worlds, with inches beside where feet are read. */
export function millimetres(metres: number): string {
	return `${Number((metres * 1e3).toFixed(2))} mm`;
}

/** Turns with a half written as a half. */
export function turns(count: number): string {
	const whole = Math.floor(count);
	return count - whole >= 0.25 && count - whole < 0.75 ? `${whole || ''}½` : `${Math.round(count)}`;
}
