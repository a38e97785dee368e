import { afterEach, beforeEach, expect, test, vi } from 'vitest';

import { api, type Build, Refused } from '../api/client';
import { BuildState } from './buildState.svelte';

// The page's address is the browser's.
vi.mock('../router/router.svelte', () => ({
	router: { place: { query: new URLSearchParams() }, note: () => undefined }
}));

const response = new Response();
const build = (revision: number, more: Partial<Build> = {}) =>
	({ id: 'b', revision, name: 'Loft', power_w: 100, ...more }) as Build;

/** A build that is open, and what the server was told, in order. */
async function opened() {
	const told: unknown[] = [];
	let revision = 1;
	vi.spyOn(api, 'GET').mockImplementation(((path: string) =>
		Promise.resolve({
			data: path.endsWith('designs')
				? []
				: build(revision, { targets: [{ low_hz: 21e6, high_hz: 22e6 }] as Build['targets'] }),
			response
		})) as never);
	vi.spyOn(api, 'PATCH').mockImplementation(((
		_: string,
		{ body }: { body: { revision: number; power_w?: number } }
	) => {
		told.push(body);
		if (body.power_w === 0) {
			return Promise.resolve({ error: { code: 'out_of_domain', detail: 'no power' }, response });
		}
		if (body.revision !== revision) {
			return Promise.resolve({ error: { code: 'stale', detail: 'changed elsewhere' }, response });
		}
		revision += 1;
		return Promise.resolve({
			data: build(revision, { ...body, revision } as Partial<Build>),
			response
		});
	}) as never);
	const state = new BuildState('b');
	await state.load();
	return { state, told };
}

beforeEach(() => {
	vi.stubGlobal('document', { documentElement: { dataset: {} } });
});
afterEach(() => {
	vi.restoreAllMocks();
	vi.unstubAllGlobals();
});

test('two quick changes are kept one after the other, each on top of the one before', async () => {
	const { state, told } = await opened();
	await Promise.all([state.change({ power_w: 50 }), state.change({ name: 'Loft, north' })]);
	expect(told).toEqual([
		{ revision: 1, power_w: 50 },
		{ revision: 2, name: 'Loft, north' }
	]);
	expect([state.build.revision, state.build.name]).toEqual([3, 'Loft, north']);
});

test('a refused change is told and holds up none after it', async () => {
	const { state } = await opened();
	const refused = state.change({ power_w: 0 });
	const kept = state.change({ power_w: 25 });
	await expect(refused).rejects.toBeInstanceOf(Refused);
	await kept;
	expect(state.build.power_w).toBe(25);
});

test('the marker begins in the middle of the first band, and a design is taken in once', async () => {
	const { state } = await opened();
	expect(state.markerHz).toBe(21.5e6);
	for (const number of [1, 2]) state.keep({ id: 'd', revision: { number } } as never);
	expect(state.designs.map((d) => d.revision.number)).toEqual([2]);
});

test('before it is there, a desk that asks for it is told so', () => {
	const state = new BuildState('b');
	expect(state.ready).toBe(false);
	expect(() => state.build).toThrow('no build is open yet');
});

test('a marker left outside what a desk shows stands in its middle there, and stays elsewhere', async () => {
	const { state } = await opened();
	state.markerHz = 14.175e6;
	expect(state.markerIn(6.9e6, 7.3e6)).toBe(7.1e6);
	expect(state.markerIn(13.9e6, 14.5e6)).toBe(14.175e6);
	expect(state.markerHz).toBe(14.175e6);
});
