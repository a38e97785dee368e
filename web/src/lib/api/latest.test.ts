import { afterEach, expect, test, vi } from 'vitest';

import { type Problem, Refused } from './client';
import { Latest } from './latest.svelte';
import { server } from './server.svelte';

const problem = (code: string, detail: string): Problem =>
	({ type: '', title: '', status: 422, code, detail }) as Problem;

/** Questions that wait to be answered, by what was asked. */
function asking(more = {}) {
	const open = new Map<string, { done: (reply: string) => void; refuse: (why: Refused) => void }>();
	const sent: string[] = [];
	const latest = new Latest<string, string>((question) => {
		sent.push(question);
		return new Promise((done, refuse) => open.set(question, { done, refuse }));
	}, more);
	const settle = () => new Promise((done) => setTimeout(done));
	return {
		latest,
		sent,
		async answer(question: string, reply = question.toUpperCase()) {
			open.get(question)?.done(reply);
			await settle();
		},
		async refuse(question: string, code = 'out_of_domain') {
			open.get(question)?.refuse(new Refused(problem(code, `not ${question}`)));
			await settle();
		}
	};
}

afterEach(() => vi.restoreAllMocks());

test('a late answer never lands, whichever comes first', async () => {
	const { latest, answer } = asking();
	latest.show('old');
	latest.show('new');
	await answer('new');
	await answer('old');
	expect(latest.value).toBe('NEW');

	latest.show('third');
	latest.show('fourth');
	await answer('third');
	expect([latest.value, latest.loading]).toEqual(['NEW', true]);
	await answer('fourth');
	expect([latest.value, latest.loading]).toEqual(['FOURTH', false]);
});

test('a newer question does not wait for the answer to an older one', () => {
	const { latest, sent } = asking();
	latest.show('old');
	latest.show('new');
	expect(sent).toEqual(['old', 'new']);
});

test('while dragged one is under way, the newest follows, and what comes is shown', async () => {
	const seen: string[] = [];
	const { latest, sent, answer } = asking({ took: (reply: string) => seen.push(reply) });
	for (const at of ['a', 'b', 'c']) latest.show(at, true);
	expect(sent).toEqual(['a']);
	await answer('a');
	expect([sent, seen]).toEqual([['a', 'c'], ['A']]);
	latest.show('settled');
	await answer('settled');
	await answer('c');
	expect([seen, latest.value]).toEqual([['A', 'SETTLED'], 'SETTLED']);
});

test('a refusal is told, and the old picture goes unless it is to stay', async () => {
	for (const keeps of [false, true]) {
		const { latest, answer, refuse } = asking({ keeps });
		latest.show('good');
		await answer('good');
		latest.show('bad');
		expect(latest.value).toBe('GOOD');
		await refuse('bad');
		expect([latest.value, latest.problem]).toEqual([keeps ? 'GOOD' : null, 'not bad']);
		latest.show('good');
		await answer('good');
		expect([latest.value, latest.problem]).toEqual(['GOOD', null]);
	}
});

test('a late refusal is dropped as well', async () => {
	const { latest, answer, refuse } = asking();
	latest.show('old');
	latest.show('new');
	await refuse('old');
	await answer('new');
	expect([latest.value, latest.problem]).toEqual(['NEW', null]);
});

test('whoever waits for an answer gets it, its refusal, or null once it is overtaken', async () => {
	const { latest, answer, refuse } = asking();
	const first = latest.ask('first');
	const second = latest.ask('second');
	await answer('first');
	await answer('second');
	expect([await first, await second]).toEqual([null, 'SECOND']);
	const third = expect(latest.ask('third')).rejects.toThrow('not third');
	await refuse('third');
	await third;
});

test('what nothing answered is asked again when something does, and keeps its picture', async () => {
	vi.spyOn(server, 'back').mockResolvedValue();
	const { latest, sent, answer, refuse } = asking();
	latest.show('here');
	await answer('here');
	latest.show('away');
	await refuse('away', 'server_gone');
	expect([sent, latest.value]).toEqual([['here', 'away', 'away'], 'HERE']);
	await answer('away');
	expect(latest.value).toBe('AWAY');
});

test('cleared, it shows nothing, and nothing lands afterwards', async () => {
	const { latest, answer } = asking();
	latest.show('asked');
	latest.clear();
	await answer('asked');
	expect([latest.value, latest.loading]).toEqual([null, false]);
});

test('an answer that came another way is the newest', async () => {
	const { latest, answer } = asking();
	latest.show('asked');
	latest.take('typed', 'TYPED');
	await answer('asked');
	expect([latest.value, latest.question, latest.loading]).toEqual(['TYPED', 'typed', false]);
});

test('what is dropped never lands, and its picture stays', async () => {
	const { latest, answer } = asking();
	latest.show('here');
	await answer('here');
	latest.show('late');
	latest.drop();
	await answer('late');
	expect([latest.value, latest.loading]).toEqual(['HERE', false]);
});
