/*
 * What a phone keeps so that the application opens where the network does not reach: its pages, and the newest answers
 * of what the outdoors view asks. It never answers in place of a computer that is reached, and never acts.
 */
const PAGES = '__VERSION__';
const ANSWERS = 'answers';
const SHELL = ['/', ...JSON.parse('__ASSETS__')];
/** Answers that are worth having from before: the builds, their trim, the page's settings. */
const KEPT =
	/^\/api\/(builds(\/[^/]+(\/trim)?)?|settings|analyser|calibrations|devices|tables\/bands|quantities\/plain|structures\/(kinds|soils))$/;
/** Worked out from what is asked alone: how long a planned wire is as it hangs. */
const WORKED_OUT = /^\/api\/(lengths|structures\/pieces)$/;
/** Longer than a computer near by takes; out of reach nothing says no. */
const PATIENCE_MS = 4000;

self.addEventListener('install', (event) => {
	event.waitUntil(
		caches
			.open(PAGES)
			.then((cache) => cache.addAll(SHELL))
			.then(() => self.skipWaiting())
	);
});

self.addEventListener('activate', (event) => {
	event.waitUntil(
		caches
			.keys()
			.then((names) =>
				Promise.all(
					names.filter((n) => n !== PAGES && n !== ANSWERS).map((name) => caches.delete(name))
				)
			)
			.then(() => self.clients.claim())
	);
});

self.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (url.origin !== location.origin) return;
	if (request.method === 'POST' && WORKED_OUT.test(url.pathname)) {
		event.respondWith(workedOut(request));
		return;
	}
	if (request.method !== 'GET') return;
	if (request.mode === 'navigate') event.respondWith(page(request));
	else if (url.pathname.startsWith('/assets/')) event.respondWith(asset(request));
	else if (KEPT.test(url.pathname)) event.respondWith(answer(request));
});

/** From the computer where it is reached within a while. */
function reached(request) {
	return fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
}

async function page(request) {
	try {
		const got = await reached(request);
		if (got.status === 401) await caches.delete(ANSWERS);
		return got;
	} catch (why) {
		const kept = await caches.match('/', { cacheName: PAGES });
		if (!kept) throw why;
		return kept;
	}
}

async function asset(request) {
	const kept = await caches.match(request, { cacheName: PAGES });
	return kept ?? fetch(request);
}

/** Kept under the question as well: the same one has the same answer. */
async function workedOut(request) {
	const asked = new Uint8Array(await request.clone().arrayBuffer());
	const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', asked));
	const name = [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
	return answer(request, `${request.url}?of=${name}`);
}

async function answer(request, name = request) {
	const cache = await caches.open(ANSWERS);
	try {
		const got = await reached(request);
		// A device that was sent away keeps nothing of what it saw.
		if (got.status === 401) await caches.delete(ANSWERS);
		else if (got.ok) await cache.put(name, stamped(got.clone()));
		return got;
	} catch (why) {
		const kept = await cache.match(name);
		if (!kept) throw why;
		return kept;
	}
}

/** Marked with when it was so: a page that gets it knows that the computer was not reached. */
function stamped(got) {
	const headers = new Headers(got.headers);
	headers.set('x-kept-at', new Date().toISOString());
	return new Response(got.body, { status: got.status, headers });
}
