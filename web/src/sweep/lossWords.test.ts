import { expect, test } from 'vitest';

import { lossHeadline, lossSentences, type Loss, staysText } from './lossWords';

const found = (changes: Partial<Loss> = {}): Loss => ({
	state: 'nothing_wrong',
	why: null,
	named: [],
	odds: [
		{ key: 'joint', odds: 0.6 },
		{ key: 'radials', odds: 0.396 },
		{ key: 'none', odds: 0.004 }
	],
	places: [
		{ key: 'soil', likely_w: 33, low_w: 30, high_w: 36 },
		{ key: 'joint', likely_w: 20, low_w: 15, high_w: 24 }
	],
	radiated: { key: 'radiated', likely_w: 47, low_w: 44.6, high_w: 50.2 },
	stays: { key: 'stays', likely_w: 20, low_w: 15.2, high_w: 24.4 },
	settle: null,
	chance: 0.5,
	ceiling_swr: null,
	at_hz: 24.94e6,
	frequency_hz: [],
	read: [],
	fitted: [],
	low: [],
	high: [],
	...changes
});

test('the watts that stay are told with their bounds', () => {
	expect(staysText(found())).toBe(
		'Of 100 W at 24.940 MHz 15 to 24 W stay behind as heat, nine times in ten; 45 to 50 W are radiated.'
	);
	expect(staysText(found({ radiated: null, stays: null }))).toBeNull();
});

test('what looks alike is named together, with its odds, and what would part it', () => {
	const said = lossSentences(
		found({ state: 'loss', named: ['joint', 'radials'], settle: 'more_radials' })
	);
	expect(said[0]).toContain('(60 of 100)');
	expect(said[0]).toContain('; or radials');
	expect(said[1]).toContain('more radials');
});

test('cannot tell says why', () => {
	const alike = found({ state: 'cannot_tell', why: 'alike', named: ['none', 'joint'] });
	expect(lossHeadline(alike)).toBe('Cannot tell');
	expect(lossSentences(alike)[0]).toContain('nothing wrong (1 of 100)');
	const hidden = found({ state: 'cannot_tell', why: 'hidden_by_line', ceiling_swr: 1.32 });
	expect(lossSentences(hidden)[0]).toContain('above 1.32 : 1');
});

test('what is in the plan already is said with where it stays', () => {
	const [first] = lossSentences(found({ state: 'known_loss' }));
	expect(first).toContain('in the joint, 15 to 24 W');
	expect(lossSentences(found({ state: 'shield' }))[0]).toContain('choke');
});
