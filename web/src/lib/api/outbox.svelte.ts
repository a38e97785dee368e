/**
 * What was told to a log and is on its way: kept in the browser first, sent in order, once each. Out of reach it
 * waits, over a closed page too; an entry brings an id of its own, so that one whose answer was lost may be sent again.
 */
import { type IDBPDatabase, openDB } from 'idb';

import { answer, api, busy, canWait, isAway, Refused, type Schemas } from './client';
import { server } from './server.svelte';

export interface Told {
	id: string;
	/** When it was told, by this browser's clock (ms); made larger where that would upset the order. */
	seq: number;
	build: string;
	body: Schemas['EntryIn'];
	/** Why it was not taken; null while it waits to be sent. */
	refused: string | null;
}

const STORE = 'outbox';
/** Longer than any answer takes where there is a network at all. */
const PATIENCE_MS = 10_000;
const AGAIN_MS = 2_000;
const MOST_WAITED_S = 366 * 24 * 3600;

/** A random id (RFC 9562, version 4); `crypto.randomUUID` needs HTTPS. */
export function freshId(): string {
	const bytes = crypto.getRandomValues(new Uint8Array(16));
	bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
	bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
	const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
	return [8, 12, 16, 20].reduceRight((text, at) => `${text.slice(0, at)}-${text.slice(at)}`, hex);
}

/** Where it is kept: the browser's own database, or the page alone where there is none. */
interface Shelf {
	/** Oldest first. */
	all(): Promise<Told[]>;
	put(told: Told): Promise<void>;
	remove(id: string): Promise<void>;
}

async function opened(): Promise<Shelf> {
	const base: IDBPDatabase = await openDB('yielding-coil', 1, {
		upgrade: (fresh) => void fresh.createObjectStore(STORE, { keyPath: 'id' })
	});
	return {
		all: async () => ((await base.getAll(STORE)) as Told[]).sort((a, b) => a.seq - b.seq),
		put: async (told) => void (await base.put(STORE, told)),
		remove: (id) => base.delete(STORE, id)
	};
}

type Send = (told: Told) => Promise<unknown>;

/** How long ago it was told (s): by that, and not by an hour, since a phone's clock may be wrong. */
export function waited(told: Told, now = Date.now()): number {
	return Math.min(MOST_WAITED_S, Math.max(0, (now - told.seq) / 1000));
}

function sent(told: Told): Promise<unknown> {
	return answer(
		api.POST('/api/builds/{build_id}/entries', {
			params: { path: { build_id: told.build } },
			body: { ...told.body, waited_s: waited(told) },
			signal: AbortSignal.timeout(PATIENCE_MS)
		})
	);
}

export class Outbox {
	/** All that is not in a log yet, oldest first. */
	waiting = $state.raw<Told[]>([]);
	/** Whether a closed page would lose it. */
	forgetful = $state(false);
	/** The one that is being sent just now. */
	private flying: string | null = null;
	private sending = false;
	/** Whether nothing can be sent just now. */
	private holding = false;
	private shelf: Promise<Shelf | null>;
	private loaded: Promise<void>;
	// Neither is shown.
	/* eslint-disable svelte/prefer-svelte-reactivity */
	private readonly asked = new Map<string, (end: true | false | Refused) => void>();
	private readonly listeners = new Map<() => void, string>();
	/* eslint-enable svelte/prefer-svelte-reactivity */

	constructor(
		open: () => Promise<Shelf> = opened,
		private readonly send: Send = sent,
		private readonly back: () => Promise<void> = () => server.back()
	) {
		this.shelf = open().catch(() => null);
		this.loaded = this.load();
	}

	/** What a page that was closed has left is sent. */
	private async load(): Promise<void> {
		const shelf = await this.shelf;
		this.forgetful = shelf === null;
		this.waiting = shelf ? await shelf.all() : [];
		if (this.waiting.some((told) => !told.refused)) void this.flush();
	}

	/** Tells something: true once it is in the log, false where it waits for the network; throws when refused. */
	async tell(build: string, body: Schemas['EntryIn']): Promise<boolean> {
		busy(1);
		try {
			await this.loaded;
			const id = freshId();
			const seq = Math.max(Date.now(), (this.waiting.at(-1)?.seq ?? 0) + 1);
			const told = { id, seq, build, body: { ...body, id }, refused: null };
			this.waiting = [...this.waiting, told];
			await this.keep(told);
			if (this.holding) return false;
			const end = new Promise<true | false | Refused>((done) => this.asked.set(id, done));
			void this.flush();
			const got = await end;
			if (got instanceof Refused) throw got;
			return got;
		} finally {
			busy(-1);
		}
	}

	/** Called when something of a build came into its log; gives what ends it. */
	listen(build: string, heard: () => void): () => void {
		this.listeners.set(heard, build);
		return () => this.listeners.delete(heard);
	}

	/** Forgets one that was not sent yet; false where it is on its way just now. */
	async takeBack(id: string): Promise<boolean> {
		if (this.flying === id) return false;
		await this.drop(id);
		return true;
	}

	/** Sends one again that was refused. */
	async again(id: string): Promise<void> {
		this.waiting = this.waiting.map((t) => (t.id === id ? { ...t, refused: null } : t));
		await this.flush();
	}

	private async keep(told: Told): Promise<void> {
		try {
			await (await this.shelf)?.put(told);
		} catch {
			// A browser without room: it is held as long as the page is open, and that is said.
			this.forgetful = true;
		}
	}

	private async drop(id: string): Promise<void> {
		const gone = this.waiting.find((t) => t.id === id);
		this.waiting = this.waiting.filter((t) => t.id !== id);
		if (gone) await (await this.shelf)?.remove(gone.id).catch(() => undefined);
	}

	private end(id: string, how: true | false | Refused): boolean {
		const done = this.asked.get(id);
		this.asked.delete(id);
		done?.(how);
		return done !== undefined;
	}

	/** Sends all that waits, in order, one after the other. */
	private async flush(): Promise<void> {
		if (this.sending) return;
		this.sending = true;
		try {
			for (;;) {
				const told = this.waiting.find((t) => !t.refused);
				if (!told) return;
				await this.sendOne(told);
			}
		} finally {
			this.sending = false;
		}
	}

	private async sendOne(told: Told): Promise<void> {
		this.flying = told.id;
		try {
			await this.send(told);
			await this.drop(told.id);
			if (this.end(told.id, true)) return;
			for (const [heard, build] of this.listeners) if (build === told.build) heard();
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			this.flying = null;
			const away = isAway(why.problem);
			if (away || canWait(why.problem)) {
				// Nobody waits on a screen for what may take the afternoon.
				for (const id of [...this.asked.keys()]) this.end(id, false);
				this.holding = true;
				await (away ? this.back() : new Promise((on) => setTimeout(on, AGAIN_MS)));
				this.holding = false;
			} else if (this.asked.has(told.id)) {
				await this.drop(told.id);
				this.end(told.id, why);
			} else {
				const kept = { ...told, refused: why.message };
				this.waiting = this.waiting.map((t) => (t.id === told.id ? kept : t));
				await this.keep(kept);
			}
		} finally {
			this.flying = null;
		}
	}
}

export const outbox = new Outbox();
