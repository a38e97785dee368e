/** Resolves once what has changed on the page is painted; at once where nobody sees it. */
export function painted(): Promise<void> {
	if (document.hidden) return Promise.resolve();
	return new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
}
