/**
 * The focus belongs to somebody: what had it and went away, or was out of use for a while, gives it to what stands in
 * its place, and gets it back when it is there again.
 */

const FOCUSABLE =
	'button:not(:disabled), a[href], input:not(:disabled), select:not(:disabled), summary, [tabindex="0"]';

/** What had the focus last, and what it stood in, from the inside out. */
let chain: HTMLElement[] = [];

/** So long what is out of use is waited for: then its neighbour has the focus. */
const WAIT_MS = 400;

function mend(): void {
	const [last] = chain;
	if (!last || document.activeElement !== document.body) return;
	if (last.isConnected && !last.matches(':disabled')) last.focus({ preventScroll: true });
	else if (!last.isConnected) give(last);
	else
		setTimeout(() => {
			if (document.activeElement === document.body && chain[0] === last) give(last);
		}, WAIT_MS);
}

/** To what stands nearest after the place that it had, or before it. */
function give(last: HTMLElement): void {
	const home = chain.slice(1).find((each) => each.isConnected && each !== document.body);
	if (!home) return;
	const all = [...home.querySelectorAll<HTMLElement>(FOCUSABLE)].filter((e) => e.checkVisibility());
	const after = last.isConnected
		? all.find((e) => last.compareDocumentPosition(e) & Node.DOCUMENT_POSITION_FOLLOWING)
		: undefined;
	const next = after ?? all[last.isConnected ? all.length - 1 : 0];
	if (!next) home.tabIndex = -1;
	(next ?? home).focus({ preventScroll: true });
}

/** Watches over the focus of a page, for its life. */
export function keepFocus(): void {
	document.addEventListener('focusin', (event) => {
		chain = event.composedPath().filter((each) => each instanceof HTMLElement);
	});
	document.addEventListener('focusout', (event) => {
		const left = event.target as HTMLElement;
		// Left by hand: a press beside it, another window.
		setTimeout(() => {
			if (left.isConnected && !left.matches(':disabled') && chain[0] === left) chain = [];
		});
	});
	let waiting = false;
	new MutationObserver(() => {
		if (waiting) return;
		waiting = true;
		// After the page has done what it does with the focus by itself.
		setTimeout(() => {
			waiting = false;
			mend();
		}, 30);
	}).observe(document.body, { childList: true, subtree: true, attributeFilter: ['disabled'] });
}
