import { expect, test } from 'vitest';

import type { Piece } from '../lib/api/client';
import { besides, contentBeside, contentOf, freeKey, fromDrawer, starts } from './presets';
import { titleOf, windables } from './wound';

const targets = [{ label: '30 m', low_hz: 10.1e6, high_hz: 10.15e6, swr_limit: 3 }];

test('every start is one that can be sent: a primary within its winding, on the resistor of its school', () => {
	for (const start of starts) {
		const content = contentOf(start, targets, null);
		const wound = windables(content)[0];
		expect(wound?.kind).toBe('transformer');
		expect(content.antenna).toMatchObject({ kind: 'resistor', resistance_ohm: start.ohm });
		if (wound?.kind !== 'transformer') continue;
		expect(wound.primary_turns).toBeLessThanOrEqual(wound.secondary_turns);
		const ratio = (wound.secondary_turns / wound.primary_turns) ** 2;
		// A tuned coupler's own loss lies across the wire too: it is wound a little lower.
		expect(Math.abs(Math.log(start.ohm / 50 / ratio))).toBeLessThan(wound.tuning ? 0.25 : 0.05);
	}
});

test('pieces of the drawer go where such a part is, and nowhere else', () => {
	const two = [...targets, { label: '15 m', low_hz: 21e6, high_hz: 21.45e6, swr_limit: 3 }];
	const held = (kind: string, values: object) =>
		({ id: kind, revision: 2, held: { kind, name: kind, values } }) as unknown as Piece;
	const ring = held('core', { mix: '31', size: 'FT240', al_h: null, material: null });
	const wire = held('wire', { diameter_m: 1.25e-3 });
	const mica = held('capacitor', { capacitance_f: 47e-12, tolerance: 0.02, q: 900 });
	const parts = besides.map((b) => {
		const part = b.part(two);
		if (!part) throw new Error(b.name);
		return { usual: part, made: fromDrawer(part, [ring, wire, mica, null]) };
	});

	for (const { usual, made } of parts) {
		const onRing = usual.kind === 'choke' && usual.core !== null;
		expect('core' in made && made.core?.mix === '31').toBe(onRing);
		expect(made.wire_piece?.id).toBe(usual.wire ? 'wire' : undefined);
		if (usual.kind === 'trap' && made.kind === 'trap') {
			expect(made.capacitance_f).toBe(usual.cable ? usual.capacitance_f : 47e-12);
			expect(made.capacitance_spread).toBe(usual.cable ? usual.capacitance_spread : 0.02);
		}
		expect(fromDrawer(usual, [null, null])).toEqual(usual);
	}
	expect(parts.filter(({ made }) => 'core' in made && made.core?.mix === '31')).toHaveLength(2);
});

test('what goes beside an antenna is one part with a key of its own; a trap needs two bands', () => {
	const two = [...targets, { label: '15 m', low_hz: 21e6, high_hz: 21.45e6, swr_limit: 3 }];
	for (const start of besides) {
		const part = start.part(two);
		if (!part) throw new Error(start.name);
		const content = contentBeside(part, two);
		expect(windables(content)).toEqual([part]);
		expect(titleOf(part)).not.toBe('');
		expect(freeKey(content, part.key)).toBe(`${part.key}-2`);
		if (part.kind === 'trap') {
			expect(start.part(targets)).toBeNull();
			expect([part.high_hz, part.low_hz]).toEqual([21.225e6, 10.125e6]);
		}
	}
});
