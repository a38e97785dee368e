import { afterEach, beforeEach, expect, test, vi } from 'vitest';

import type { JobState } from './client';
import { follow } from './events';

const begun = {
	id: 'a',
	state: 'queued',
	place: null,
	found: null,
	progress: { passes: 0, points: 0, of_points: 0 }
} as unknown as JobState;

class Source {
	static readonly CLOSED = 2;
	static last: Source;
	readyState = 1;
	onmessage: ((event: { data: string }) => void) | null = null;
	onerror: (() => void) | null = null;
	constructor(readonly url: string) {
		Source.last = this;
	}
	close(): void {
		this.readyState = Source.CLOSED;
	}
	send(state: string, passes: number): void {
		this.onmessage?.({ data: JSON.stringify({ id: 'a', state, progress: { passes } }) });
	}
}

beforeEach(() => vi.stubGlobal('EventSource', Source));
afterEach(() => vi.unstubAllGlobals());

test('each state is told and the last one ends it', async () => {
	const seen: number[] = [];
	const { ended } = follow(begun, (state) => seen.push(state.progress.passes));
	expect(Source.last.url).toBe('/api/jobs/a/events');
	Source.last.send('running', 0);
	Source.last.send('running', 1);
	Source.last.send('done', 2);
	expect((await ended).state).toBe('done');
	expect(seen).toEqual([0, 1, 2]);
	expect(Source.last.readyState).toBe(Source.CLOSED);
});

test('a stumble is left to the browser, which asks again by itself', async () => {
	let last: JobState | null = null;
	const { ended } = follow(begun, (state) => (last = state));
	Source.last.send('running', 1);
	Source.last.onerror?.();
	Source.last.send('stopped', 1);
	expect((await ended).state).toBe('stopped');
	expect(last).not.toBeNull();
});

test('a job that nobody knows any more fails with what was there', async () => {
	const { ended } = follow(begun, () => undefined);
	Source.last.send('running', 3);
	Source.last.close();
	Source.last.onerror?.();
	const last = await ended;
	expect([last.state, last.problem?.code, last.progress.passes]).toEqual(['failed', 'job_gone', 3]);
});

test('letting go closes the stream', () => {
	follow(begun, () => undefined).stop();
	expect(Source.last.readyState).toBe(Source.CLOSED);
});
