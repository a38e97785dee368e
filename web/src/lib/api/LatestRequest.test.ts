import { expect, test } from 'vitest';

import { LatestRequest } from './LatestRequest';

function setUp() {
	const sent: number[] = [];
	const taken: number[] = [];
	const refused: number[] = [];
	const finish: ((ok: boolean) => void)[] = [];
	const lane = new LatestRequest<number, number>(
		(asked) => {
			sent.push(asked);
			return new Promise((resolve, reject) =>
				finish.push((ok) => (ok ? resolve(asked * 10) : reject(new Error('no'))))
			);
		},
		(reply) => taken.push(reply),
		(_, asked) => refused.push(asked)
	);
	const settle = async (ok = true) => {
		finish.shift()?.(ok);
		await new Promise((resolve) => setTimeout(resolve));
	};
	return { lane, sent, taken, refused, settle };
}

test('what is asked while one runs is sent once it is back, the newest only', async () => {
	const { lane, sent, taken, settle } = setUp();
	for (const n of [1, 2, 3, 4]) lane.ask(n);
	expect(sent).toEqual([1]);

	await settle();
	expect(sent).toEqual([1, 4]);
	expect(lane.busy).toBe(true);

	await settle();
	expect(taken).toEqual([10, 40]);
	expect(lane.busy).toBe(false);
});

test('a refusal does not stop the lane', async () => {
	const { lane, refused, taken, settle } = setUp();
	lane.ask(1);
	lane.ask(2);
	await settle(false);
	await settle();

	expect(refused).toEqual([1]);
	expect(taken).toEqual([20]);
});
