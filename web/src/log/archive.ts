/** Archives on their way: the browser fetches and sends them, and asks meanwhile how far they are. */

import { answer, api, busy } from '../lib/api/client';

/** A share of the way, 0 to 1. */
export type Told = (share: number) => void;

const LOOK_MS = 250;
/** Asked so often without an answer, nobody begins any more. */
const PATIENCE = 240;

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A name that its page gives an archive on its way. */
const named = (): string => `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}`;

async function far(token: string): Promise<number | null> {
	// Quietly: it is only looked whether something goes on.
	const got = await api.GET('/api/archives/transfers/{token}', { params: { path: { token } } });
	return got.data ? got.data.done / Math.max(got.data.of, 1) : null;
}

/** Lets the browser save a build, or everything when null, as a file; resolves once it is written. */
export async function takeOut(
	buildId: string | null,
	positions: boolean,
	told: Told
): Promise<void> {
	const token = named();
	const query = new URLSearchParams({ token, positions: String(positions) });
	if (buildId) query.set('build_id', buildId);
	const link = document.createElement('a');
	link.href = `/api/archives?${query}`;
	link.download = '';
	document.body.append(link);
	link.click();
	link.remove();
	busy(1);
	try {
		for (let asked = 0; asked < PATIENCE; asked += 1) {
			await wait(LOOK_MS);
			const share = await far(token).catch(() => null);
			if (share !== null) told(share);
			if (share === 1) return;
		}
	} finally {
		busy(-1);
	}
}

/** Sends an archive; throws `Refused` with the reason where anything of it cannot be kept. */
export async function takeIn(file: File, told: Told, stop: AbortSignal) {
	const token = named();
	let going = true;
	const looking = (async () => {
		while (going) {
			await wait(LOOK_MS);
			const share = await far(token).catch(() => null);
			if (going && share !== null) told(share);
		}
	})();
	try {
		return await answer(
			api.POST('/api/archives', {
				params: { query: { token } },
				body: file as unknown as string,
				bodySerializer: (body) => body as unknown as BodyInit,
				headers: { 'Content-Type': 'application/octet-stream' },
				signal: stop
			})
		);
	} finally {
		going = false;
		await looking;
	}
}
