import { expect, test } from 'vitest';

import { knownOver, measureThis, sharesText } from './plane';

test('where the far end is known', () => {
	expect(knownOver([1, 2, 3], [true, true, true])).toBe('all');
	expect(knownOver([1, 2, 3], [true, false, true])).toBe('some');
	expect(knownOver([1, 2, 3], [false, false, false])).toBe('none');
});

test('the doubt is told by its two largest parts, the small ones left out', () => {
	const shares = [
		{ what: 'velocity', share: 0.93 },
		{ what: 'length', share: 0.06 },
		{ what: 'loss', share: 0.01 }
	];
	expect(sharesText(shares)).toBe(
		'What is not sure: 93 % the velocity of the line, 6 % its length.'
	);
	expect(sharesText([{ what: 'velocity', share: 0 }])).toBe('');
});

test('one thing is worth measuring, or none', () => {
	expect(measureThis('velocity')).toContain('two sweeps and a tape');
	expect(measureThis(null)).toBe('');
});
