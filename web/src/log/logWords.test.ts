import { expect, it } from 'vitest';

import { dayTitle, days, type Logged, movedText, weak } from './logWords';

const at = (text: string, id = text): Logged =>
	({ what: 'entry', id, at: text, entry: { data: { kind: 'note' } } }) as unknown as Logged;

it('parts the line into days, the newest first, and leaves nothing out', () => {
	const now = new Date(2026, 10, 30, 12);
	const found = days(
		[
			at(new Date(2026, 10, 30, 9).toISOString()),
			at(new Date(2026, 10, 30, 1).toISOString()),
			at(new Date(2026, 10, 29, 23).toISOString()),
			at(new Date(2025, 4, 14, 8).toISOString())
		],
		now
	);
	expect(found.map((d) => [d.title, d.items.length])).toEqual([
		['Today', 2],
		['Yesterday', 1],
		['14 May 2025', 1]
	]);
});

it('knows yesterday over the change of the clocks', () => {
	expect(dayTitle(new Date(2026, 9, 24, 12), new Date(2026, 9, 25, 12))).toBe('Yesterday');
});

it('says whether a move matters, and by how much', () => {
	const moved = { at_hz: 14e6, reflection_change: 0.1, doubt: 0.02, targets: [] };
	expect(movedText({ ...moved, state: 'matters', reactance_share: -0.031 })).toContain('−3.1 %');
	expect(movedText({ ...moved, state: 'moved', reactance_share: null })).toContain('14.000 MHz');
	expect(movedText({ ...moved, state: 'still', reactance_share: null })).not.toContain('matters');
});

it('calls evidence from the air weak, and nothing else', () => {
	const heard = { what: 'entry', entry: { data: { kind: 'on_air' } } } as unknown as Logged;
	expect(weak(heard)).toContain('Weak');
	expect(weak(at('2026-01-01T00:00:00Z'))).toBe('');
});
