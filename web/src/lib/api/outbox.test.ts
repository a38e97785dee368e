import { describe, expect, it, vi } from 'vitest';

import { Refused, type Schemas } from './client';
import { freshId, Outbox, type Told, waited } from './outbox.svelte';

vi.stubGlobal('document', { documentElement: { dataset: {} } });

const note = (text: string) => ({ data: { kind: 'note' }, text }) as Schemas['EntryIn'];

/** A browser's shelf, and a computer that is reached or not; what arrives there is kept by id. */
function made(kept: Told[] = []) {
	const shelf = new Map(kept.map((t) => [t.id, t]));
	const log = new Map<string, string>();
	let reached = true;
	let back: () => void = () => undefined;
	const faults: ('lost' | 'refused' | 'busy')[] = [];
	const problem = (code: string) =>
		new Refused({ type: '', title: '', status: 0, code, detail: `said ${code}` });
	const box = new Outbox(
		() =>
			Promise.resolve({
				all: () => Promise.resolve([...shelf.values()].sort((a, b) => a.seq - b.seq)),
				put: (t) => Promise.resolve(void shelf.set(t.id, t)),
				remove: (id) => Promise.resolve(void shelf.delete(id))
			}),
		(told) => {
			if (!reached) return Promise.reject(problem('server_gone'));
			const fault = faults.shift();
			if (fault === 'refused') return Promise.reject(problem('out_of_domain'));
			if (fault === 'busy') return Promise.reject(problem('busy'));
			if (!log.has(told.id)) log.set(told.id, told.body.text ?? '');
			return fault === 'lost' ? Promise.reject(problem('server_gone')) : Promise.resolve();
		},
		() => (reached ? Promise.resolve() : new Promise((on) => (back = on)))
	);
	return {
		box,
		shelf,
		log,
		faults,
		cut: () => (reached = false),
		mend: () => {
			reached = true;
			back();
		}
	};
}

const settled = () => new Promise((on) => setTimeout(on, 5));

describe('what is told to a log', () => {
	it('goes at once where the computer is reached, with an id', async () => {
		const { box, log, shelf } = made();
		expect(await box.tell('b', note('one'))).toBe(true);
		expect([...log.values()]).toEqual(['one']);
		expect(box.waiting).toEqual([]);
		expect(shelf.size).toBe(0);
	});

	it('waits out of reach and is sent once, in order, when it is back', async () => {
		const { box, log, shelf, cut, mend } = made();
		const heard = vi.fn();
		box.listen('b', heard);
		cut();
		const told = await Promise.all(['one', 'two', 'three'].map((t) => box.tell('b', note(t))));
		expect(told).toEqual([false, false, false]);
		expect(shelf.size).toBe(3);
		mend();
		await settled();
		expect([...log.values()]).toEqual(['one', 'two', 'three']);
		expect(box.waiting).toEqual([]);
		expect(heard).toHaveBeenCalledTimes(3);
	});

	it('is there once where its answer was lost', async () => {
		const { box, log, faults } = made();
		faults.push('lost');
		expect(await box.tell('b', note('one'))).toBe(false);
		await settled();
		expect([...log.values()]).toEqual(['one']);
		expect(box.waiting).toEqual([]);
	});

	it('says at once what is refused while somebody waits, and keeps what is refused later', async () => {
		const { box, log, faults, cut, mend } = made();
		faults.push('refused');
		await expect(box.tell('b', note('odd'))).rejects.toThrow('said out_of_domain');
		expect(box.waiting).toEqual([]);
		cut();
		await box.tell('b', note('one'));
		await box.tell('b', note('two'));
		faults.push('refused');
		mend();
		await settled();
		expect([...log.values()]).toEqual(['two']);
		expect(box.waiting.map((t) => [t.body.text, t.refused])).toEqual([
			['one', 'said out_of_domain']
		]);
		await box.again(box.waiting[0]!.id);
		expect([...log.values()]).toEqual(['two', 'one']);
	});

	it('outlives its page', async () => {
		const first = made();
		first.cut();
		await first.box.tell('b', note('one'));
		const second = made([...first.shelf.values()]);
		await settled();
		expect([...second.log.values()]).toEqual(['one']);
		expect(second.shelf.size).toBe(0);
	});

	it('forgets what is taken back before it was sent', async () => {
		const { box, log, cut, mend } = made();
		cut();
		await box.tell('b', note('one'));
		await box.tell('b', note('two'));
		expect(await box.takeBack(box.waiting[1]!.id)).toBe(true);
		mend();
		await settled();
		expect([...log.values()]).toEqual(['one']);
	});
});

describe('how long it waited', () => {
	it('is what has passed since, whatever the clock says, and nothing where the clock was set back', () => {
		const told = { id: 'a', seq: 1_000_000, build: 'b', body: note('one'), refused: null };
		expect(waited(told, 1_601_500)).toBe(601.5);
		expect(waited(told, 400_000)).toBe(0);
		expect(waited(told, 1e15)).toBe(366 * 24 * 3600);
	});
});

describe('an id', () => {
	it('is a version 4 one and never the same', () => {
		const some = new Set(Array.from({ length: 500 }, freshId));
		expect(some.size).toBe(500);
		for (const id of some)
			expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
	});
});
