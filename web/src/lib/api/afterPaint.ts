/** Resolves once what has changed on the page is afterPaint; at once where nobody sees it. */
export function afterPaint(): Promise<void> {
	if (document.hidden) return Promise.resolve();
	return new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
}
