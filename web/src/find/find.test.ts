import { expect, test } from 'vitest';

import { search } from './find';

const all = [
	{ name: 'Orchard sloping wire', detail: 'build', href: '/a' },
	{ name: 'Series coil 2.28 µH', detail: 'part of Allotment long vertical', href: '/b' },
	{ name: 'Match', detail: 'desk of Orchard sloping wire', href: '/c' },
	{ name: 'Bin', detail: 'what can be taken back', href: '/bin' }
];

test('every word must be there, in the name or the detail', () => {
	expect(search(all, 'coil allot').map((f) => f.href)).toEqual(['/b']);
	expect(search(all, 'coil orchard')).toEqual([]);
});

test('a name that begins so comes first', () => {
	expect(search(all, 'or').map((f) => f.href)[0]).toBe('/a');
	expect(search(all, 'MATCH').map((f) => f.href)).toEqual(['/c']);
});

test('nothing typed offers everything', () => {
	expect(search(all, ' ')).toHaveLength(4);
});
