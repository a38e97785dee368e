import { readFileSync } from 'node:fs';

import { expect, test } from 'vitest';

/** Contrast of two colours: WCAG 2.2, relative luminance and its ratio. */
function contrast(a: string, b: string): number {
	const light = (hex: string) => {
		const [r, g, bl] = [1, 3, 5].map((at) => {
			const v = parseInt(hex.slice(at, at + 2), 16) / 255;
			return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
		}) as [number, number, number];
		return 0.2126 * r + 0.7152 * g + 0.0722 * bl;
	};
	const [x, y] = [light(a), light(b)].sort((p, q) => q - p) as [number, number];
	return (x + 0.05) / (y + 0.05);
}

const css = readFileSync(new URL('./tokens.css', import.meta.url), 'utf8');
const declared = (block: string) =>
	[...block.matchAll(/--([a-z-]+): (?:light-dark\((#\w{6}), (#\w{6})\)|(#\w{6}));/g)].map((m) => ({
		name: m[1] as string,
		day: (m[2] ?? m[4]) as string,
		night: (m[3] ?? m[4]) as string
	}));
const root = declared(css.slice(0, css.indexOf("[data-theme='day']")));
const outdoors = declared(css.slice(css.indexOf("[data-theme='outdoors'] {"), css.indexOf('*,')));
const themes = {
	day: Object.fromEntries(root.map((t) => [t.name, t.day])),
	night: Object.fromEntries(root.map((t) => [t.name, t.night])),
	outdoors: Object.fromEntries(outdoors.map((t) => [t.name, t.day]))
};

// Text on each ground that it is used on.
const grounds = ['paper', 'sheet', 'selected'] as const;
const texts = [
	'ink',
	'soft',
	'copper-ink',
	'blueprint',
	'verdigris',
	'enamel',
	'heat-ink'
] as const;
const pairs: [string, string][] = [
	...texts.flatMap((t) => grounds.map((g): [string, string] => [t, g])),
	['tape-ink', 'tape'],
	['tape-soft', 'tape'],
	['tape', 'tape-ink'],
	['ink', 'tape-wash'],
	['ink', 'caution'],
	['enamel', 'caution'],
	['on-ink', 'ink'],
	['verdigris', 'verdigris-wash']
];
// Lines and edges that carry meaning.
const edges = [
	'control-edge',
	'copper',
	'blueprint',
	'verdigris',
	'enamel',
	'heat',
	'ink'
] as const;

test('every theme declares every colour', () => {
	const names = root.map((t) => t.name);
	expect(outdoors.map((t) => t.name).sort()).toEqual([...names].sort());
});

test.each(Object.entries(themes))('text in %s can be read', (name, colours) => {
	const least = name === 'outdoors' ? 7 : 4.5;
	const poor = pairs
		.map(([t, g]) => [t, g, contrast(colours[t] as string, colours[g] as string)] as const)
		.filter(([, , ratio]) => ratio < least);
	expect(poor).toEqual([]);
});

test.each(Object.entries(themes))(
	'lines and edges in %s can be told from their ground',
	(_, colours) => {
		const poor = edges
			.flatMap((e) => (['sheet', 'paper'] as const).map((g) => [e, g] as const))
			.map(([e, g]) => [e, g, contrast(colours[e] as string, colours[g] as string)] as const)
			.filter(([, , ratio]) => ratio < 3);
		expect(poor).toEqual([]);
	}
);

test('contrast is that of the standard: black on white is 21', () => {
	expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
});
