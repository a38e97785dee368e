import { beforeEach, expect, test, vi } from 'vitest';

const element = { dataset: {} as Record<string, string> };
vi.stubGlobal('document', { documentElement: element });
const { answer, Refused } = await import('./client');

const response = new Response();

beforeEach(() => {
	element.dataset = {};
});

test('data go through, and the page says that it has settled', async () => {
	const asked = answer(Promise.resolve({ data: 42, response }));
	expect(element.dataset.settled).toBe('false');

	expect(await asked).toBe(42);
	expect(element.dataset.settled).toBe('true');
});

test('a problem is a refusal with the words of the server', async () => {
	const problem = { title: 'Refused', status: 422, detail: 'line 3: no', code: 'unreadable' };
	const asked = answer(Promise.resolve({ error: problem, response }));

	await expect(asked).rejects.toBeInstanceOf(Refused);
	await expect(asked).rejects.toThrow('line 3: no');
	expect(element.dataset.settled).toBe('true');
});

test('no answer says that the application is gone and what to do', async () => {
	const asked = answer(Promise.reject(new TypeError('failed')));

	await expect(asked).rejects.toThrow('./start');
	await expect(asked).rejects.toMatchObject({ problem: { code: 'server_gone' } });
});

test('an error that is no problem document is told as no answer', async () => {
	await expect(answer(Promise.resolve({ error: '<html>', response }))).rejects.toMatchObject({
		problem: { code: 'server_gone' }
	});
});

test('it has settled only when the last of several is back', async () => {
	let finish: (value: { data: number; response: Response }) => void = () => undefined;
	const slow = answer(new Promise<{ data: number; response: Response }>((r) => (finish = r)));
	await answer(Promise.resolve({ data: 1, response }));
	expect(element.dataset.settled).toBe('false');

	finish({ data: 2, response });
	await slow;
	expect(element.dataset.settled).toBe('true');
});
