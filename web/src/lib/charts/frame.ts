/** What every chart over frequency shares. */
export interface Frame {
	/** Frequency at the left and right edge, Hz. */
	lowHz: number;
	highHz: number;
	/** Stretches to shade, with the limit that holds on each. */
	targets: { low_hz: number; high_hz: number; label: string; swr_limit: number }[];
	/** Where the marker stands, Hz. */
	markerHz: number;
	/** Called while the marker is dragged, and once more when it is let go. */
	onmarker: (hz: number, settled: boolean) => void;
	/** Height in pixels. */
	height: number;
}

/** What the marks of a chart are drawn with: both scales, and the frame's inner width and height. */
export interface Plotted {
	x: (hz: number) => number;
	y: (value: number) => number;
	width: number;
	height: number;
}

/** Hues of marks: what each stands for is said in the design of colours. */
export type Hue = 'blueprint' | 'copper' | 'heat' | 'verdigris' | 'ink' | 'soft';

type Values = (number | null)[];

/** Values held inside a chart: what lies outside runs along its edge. */
export const held = (values: Values, bottom: number, top: number): Values =>
	values.map((v) => Math.max(bottom, Math.min(v ?? top, top)));

/** A received curve. */
export interface Curve {
	frequency_hz: (number | null)[];
	values: (number | null)[];
}

/** Another curve laid over, with the name that is written on it. */
export interface Overlay extends Curve {
	name: string;
}

/** Dash patterns of overlays, one after the other; the first curve of a chart is solid. */
export const dashes = ['9 3 2 3', '4 4', '1 4', '12 5', '6 2 1 2 1 2'];

/** What no lossless match goes below on a band, and between which it lies nine times in ten. */
export interface FloorMark {
	low_hz: number;
	high_hz: number;
	swr: number;
	low: number;
	high: number;
}

/** The floors to draw: for each target that has one, its edges with the least SWR of any lossless match. */
export function floorsOf(
	found: { label: string; floor?: { any: number; any_low: number; any_high: number } | null }[],
	targets: { label: string; low_hz: number; high_hz: number }[]
): FloorMark[] {
	return found.flatMap(({ label, floor }) => {
		const band = targets.find((t) => t.label === label);
		if (!floor || !band) return [];
		const { low_hz, high_hz } = band;
		return [{ low_hz, high_hz, swr: floor.any, low: floor.any_low, high: floor.any_high }];
	});
}
