import { afterEach, expect, test, vi } from 'vitest';

import { afterPaint } from './afterPaint';

afterEach(() => vi.unstubAllGlobals());

test('it waits for the frame, and for what comes after it', async () => {
	const order: string[] = [];
	vi.stubGlobal('document', { hidden: false });
	vi.stubGlobal('requestAnimationFrame', (draw: () => void) => {
		setTimeout(() => {
			order.push('frame');
			draw();
			queueMicrotask(() => order.push('drawn'));
		});
	});

	await afterPaint().then(() => order.push('painted'));

	expect(order).toEqual(['frame', 'drawn', 'painted']);
});

test('where nobody looks no frame is drawn, and nothing is waited for', async () => {
	vi.stubGlobal('document', { hidden: true });

	await expect(afterPaint()).resolves.toBeUndefined();
});
