import { beforeEach, expect, it, vi } from 'vitest';

import type { Tick } from './tickBook.svelte';

vi.stubGlobal('document', { documentElement: { dataset: {} } });
const kept = new Map<string, string>();
vi.stubGlobal('localStorage', {
	getItem: (key: string) => kept.get(key) ?? null,
	setItem: (key: string, value: string) => void kept.set(key, value),
	removeItem: (key: string) => void kept.delete(key)
});
const { api } = await import('../lib/api/client');
const { edited, TickBook } = await import('./tickBook.svelte');

const response = new Response();
const row = (more: Partial<Tick> = {}): Tick => ({
	step: 'solder',
	revision: 1,
	done: false,
	note: '',
	ticked_at: null,
	...more
});

/** Answers to one tick after the other; what was sent. */
function answering(answers: object[]): unknown[] {
	const sent: unknown[] = [];
	vi.spyOn(api, 'PUT').mockImplementation(((_: string, { body }: { body: unknown }) => {
		sent.push(body);
		const found = answers.shift();
		return found ? Promise.resolve({ response, ...found }) : new Promise(() => undefined);
	}) as never);
	return sent;
}

beforeEach(() => kept.clear());

it('puts two notes one after the other, and never one over the other', () => {
	expect(edited(row({ note: 'from the bench' }), { note: 'from the phone', over: '' }).note).toBe(
		'from the bench · from the phone'
	);
	expect(edited(row({ note: 'old' }), { note: 'new', over: 'old' }).note).toBe('new');
	expect(edited(row({ note: 'kept' }), { done: true })).toEqual({ done: true, note: 'kept' });
});

it('an older answer never lands over a newer one', () => {
	const book = new TickBook('d', 1, [row({ revision: 3, done: true })]);
	book.take([row({ revision: 2, done: false })]);
	expect(book.of('solder').done).toBe(true);
});

it('sends what it could not keep again, on what was kept elsewhere meanwhile', async () => {
	const newest = row({ revision: 4, note: 'theirs' });
	const sent = answering([
		{ error: { detail: 'changed elsewhere', code: 'stale', status: 409, newest } },
		{ data: row({ revision: 5, done: true, note: 'theirs' }) }
	]);
	const book = new TickBook('d', 1, []);
	book.set('solder', { done: true });
	expect(book.of('solder').done).toBe(true);
	await vi.waitFor(() => expect(book.busy).toBe(false));
	expect(sent).toEqual([
		{ step: 'solder', revision: 0, done: true, note: '' },
		{ step: 'solder', revision: 4, done: true, note: 'theirs' }
	]);
	expect(book.of('solder')).toMatchObject({ done: true, note: 'theirs' });
});

it('says why an edit was refused, and shows what is kept', async () => {
	answering([{ error: { detail: 'too long', code: 'not_taken', status: 422 } }]);
	const book = new TickBook('d', 1, [row()]);
	book.set('solder', { note: 'x' });
	await vi.waitFor(() => expect(book.busy).toBe(false));
	expect(book.problem).toBe('too long');
	expect(book.of('solder').note).toBe('');
});

it('sends what a closed page left behind', async () => {
	answering([]);
	new TickBook('d', 1, []).set('solder', { done: true });
	const sent = answering([{ data: row({ done: true }) }]);
	const book = new TickBook('d', 1, []);
	await vi.waitFor(() => expect(book.busy).toBe(false));
	expect(sent).toEqual([{ step: 'solder', revision: 0, done: true, note: '' }]);
	expect(kept.size).toBe(0);
});
