import { afterEach, beforeEach, expect, test, vi } from 'vitest';

import { api, type Content, type Design } from '../lib/api/client';
import { server } from '../lib/api/server.svelte';
import { Saving } from './saving.svelte';

const response = new Response();
const content = (seed: number) =>
	({ version: 1, seed, elements: [], targets: [] }) as unknown as Content;
const design = { id: 'd', name: 'Coil up', revision: { number: 1, content: content(0) } } as Design;

/** A design being saved; `answers` are what the server gives to one edit after the other. */
function saving(answers: (() => object)[]) {
	const sent: { edited: number; seed: number }[] = [];
	const made: string[] = [];
	const walked: number[] = [];
	vi.spyOn(api, 'POST').mockImplementation(((path: string, { body }: { body: never }) => {
		if (path.endsWith('/designs')) {
			made.push((body as { name: string }).name);
			return Promise.resolve({
				data: { ...design, id: 'mine', name: (body as { name: string }).name },
				response
			});
		}
		if (path.endsWith('{way}')) {
			walked.push((body as { edited: number }).edited);
			return Promise.resolve({ response, ...kept((body as { edited: number }).edited + 1, 0) });
		}
		const { edited, content } = body as { edited: number; content: { seed: number } };
		sent.push({ edited, seed: content.seed });
		const answer = answers.shift();
		return Promise.resolve({ response, ...(answer ? answer() : kept(edited + 1, content.seed)) });
	}) as never);
	const known: Design[] = [];
	const found = new Saving('b', (d) => known.push(d));
	found.open(design);
	return { found, sent, made, known, walked };
}

const kept = (number: number, seed: number) => ({
	data: { number, content: content(seed), can_undo: number > 1 && number < 6, can_redo: false }
});
const refused = (code: string) => () => ({ error: { code, detail: code } });

beforeEach(() => {
	vi.stubGlobal('document', { documentElement: { dataset: {} } });
});
afterEach(() => {
	vi.restoreAllMocks();
	vi.unstubAllGlobals();
});

test('edits go one after the other, each on the revision that the one before it made', async () => {
	const { found, sent, known } = saving([]);
	await Promise.all([found.keep(content(1)), found.keep(content(2))]);
	expect(sent).toEqual([
		{ edited: 1, seed: 1 },
		{ edited: 2, seed: 2 }
	]);
	expect([found.design?.revision.number, known.length]).toEqual([3, 2]);
	expect(found.saved).toContain('Saved');
});

test('while nothing answers an edit waits, and is sent when something does', async () => {
	const back = vi.spyOn(server, 'back').mockResolvedValue();
	const { found, sent } = saving([refused('server_gone'), refused('database_gone')]);
	await found.keep(content(1));
	expect(sent.map((s) => s.seed)).toEqual([1, 1, 1]);
	expect(back).toHaveBeenCalledTimes(2);
	expect(found.problem).toBeNull();
});

test('an edit of what was changed elsewhere becomes a design of its own', async () => {
	const { found, made } = saving([refused('stale_edit')]);
	await found.keep(content(1));
	expect(made).toHaveLength(1);
	expect(made[0]).toMatch(/^Coil up \(mine, \d\d:\d\d\)$/);
	expect(found.design?.id).toBe('mine');
	expect(found.news).toContain('kept beside it');
});

test('a refused edit says why, and the next one is sent', async () => {
	const { found, sent } = saving([refused('out_of_domain')]);
	await found.keep(content(1));
	expect(found.problem).toBe('Not saved: out_of_domain');
	await found.keep(content(2));
	expect(sent.at(-1)).toEqual({ edited: 1, seed: 2 });
});

test('undo waits for what is being kept', async () => {
	const { found, sent, walked } = saving([]);
	void found.keep(content(1));
	const shown = await found.walk('undo');
	expect([sent, walked]).toEqual([[{ edited: 1, seed: 1 }], [2]]);
	expect(shown).toEqual(content(0));
});

test('of many quick presses each goes on from where the one before led, and those beyond the end are none', async () => {
	const { found, walked } = saving([]);
	await found.keep(content(1));
	const shown = await Promise.all(Array.from({ length: 12 }, () => found.walk('undo')));
	expect(walked).toEqual([2, 3, 4, 5]);
	expect(shown.filter((c) => c !== null)).toHaveLength(4);
	expect([found.problem, found.news]).toEqual([null, null]);
});

test('while others save, an edit is tried again', async () => {
	vi.useFakeTimers();
	const { found, sent } = saving([refused('busy'), refused('disk_full')]);
	const keeping = found.keep(content(1));
	await vi.runAllTimersAsync();
	await keeping;
	vi.useRealTimers();
	expect(sent).toHaveLength(3);
	expect(found.problem).toBeNull();
});
