import { expect, it } from 'vitest';

import { type BoxPart, layout } from './boxLayout';

const part = (key: string, kind: string, place: string, between: string[]): BoxPart => ({
	key,
	kind,
	place,
	between,
	end: null
});

it('leaves the hot rail bare but for what lies in it, and the cold one whole where ground is shared', () => {
	const drawn = layout({
		posts: ['wire post', 'counterpoise'],
		parts: [
			part('capacitor', 'capacitor', 'shunt', ['wire post', 'counterpoise']),
			part('coil', 'coil', 'series', ['wire post', 'coax centre'])
		],
		links: [['counterpoise', 'coax shield']]
	});
	const [capacitor, coil] = drawn.parts;
	expect(capacitor!.y).toBeLessThan(coil!.y);
	expect(drawn.hot).toEqual([
		[drawn.top, coil!.y - coil!.half],
		[coil!.y + coil!.half, drawn.bottom]
	]);
	expect(drawn.cold).toEqual([[drawn.top, drawn.bottom]]);
});

it('cuts both rails at a transformer whose sides share no ground', () => {
	const drawn = layout({
		posts: ['leg 1', 'leg 2'],
		parts: [
			part('balun', 'transformer', 'through', ['leg 1', 'leg 2', 'coax centre', 'coax shield'])
		],
		links: []
	});
	expect(drawn.cold).toHaveLength(2);
	expect(drawn.hot).toHaveLength(2);
});
