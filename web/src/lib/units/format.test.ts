import { expect, test } from 'vitest';

import {
	edgeMegahertz,
	figures,
	impedance,
	length,
	percent,
	quantity,
	swr,
	turns,
	watts
} from './format';

test.each([
	[2.2799e-6, 'H', '2.28 µH'],
	[0.33e-6, 'H', '0.330 µH'],
	[39.4e-6, 'H', '39.4 µH'],
	[6.535e-12, 'F', '6.54 pF'],
	[1.5e-9, 'F', '1.50 nF'],
	[999.6e-12, 'F', '1.00 nF'],
	[1287, 'V', '1.29 kV'],
	[0, 'V', '0 V'],
	[null, 'V', '– V']
])('%s %s reads %s', (value, unit, text) => {
	expect(quantity(value, unit)).toBe(text);
});

test.each([
	[0.0636, 'm', '64 mm'],
	[0.94, 'm', '94 cm'],
	[1.0471, 'm', '104.7 cm'],
	[17.6, 'm', '17.6 m'],
	[8.753, 'm', '8.753 m'],
	[2.5273, 'ft', '8\' 3 1/2"'],
	[0.0079375, 'ft', '5/16"'],
	[0.3048, 'ft', '1\' 0"'],
	// 11.999 in rounds to a foot, never to 12 inches
	[0.30478, 'ft', '1\' 0"']
] as const)('%s m on a tape in %s is %s', (metres, unit, text) => {
	expect(length(metres, unit)).toBe(text);
});

test('impedance keeps its sign and its unit', () => {
	expect(impedance(85.5, -411.5)).toBe('86 − j412 Ω'.replace('86', '86'));
	expect(impedance(47.29, 3.96)).toBe('47 + j4.0 Ω');
	expect(impedance(null, 1)).toBe('–');
});

test('edges of bands are not rounded away', () => {
	expect(edgeMegahertz(5351500)).toBe('5.3515');
	expect(edgeMegahertz(21e6)).toBe('21.000');
});

test('the rest', () => {
	expect(swr(1.5279)).toBe('1.53');
	expect(swr(41.88)).toBe('41.9');
	expect(swr(null)).toBe('∞');
	expect(watts(1.674)).toBe('1.7 W');
	expect(watts(81.5)).toBe('82 W');
	expect(percent(0.9775)).toBe('98 %');
	expect(percent(0.9962)).toBe('99.6 %');
	expect(turns(7.5)).toBe('7½');
	expect(turns(8)).toBe('8');
	expect(figures(-0.01234)).toBe('−0.0123');
});
