/**
 * A press belongs to what it began on. A field that is left by a press is settled by it, its answer comes in before the
 * finger is up, and what stood under the pointer has moved: without this that press would be nobody's.
 */

const PRESSED = 'button, a[href], summary, label, input[type=checkbox], input[type=radio]';
/** What answers a press in another way, text that is marked among it. */
const OTHERS = 'input, select, textarea, [contenteditable]';
/** Who goes further than this before letting go has thought better of it. */
const SLIPS_PX = 12;

function begun(event: PointerEvent): void {
	const path = event.composedPath().filter((each) => each instanceof Element);
	// A finger holds what it touches anyway, what is dragged holds itself, and a script has no pointer.
	if (!event.isTrusted || event.button !== 0) return;
	if (path.some((each) => each.hasPointerCapture(event.pointerId))) return;
	const on = path.find((each) => each.matches(`${PRESSED}, ${OTHERS}`));
	if (!on?.matches(PRESSED)) return;
	on.setPointerCapture(event.pointerId);
	const over = new AbortController();
	const { signal } = over;
	const slipped = (at: PointerEvent) => {
		if (at.pointerId !== event.pointerId) return;
		if (Math.hypot(at.clientX - event.clientX, at.clientY - event.clientY) <= SLIPS_PX) return;
		if (on.hasPointerCapture(event.pointerId)) on.releasePointerCapture(event.pointerId);
		over.abort();
	};
	addEventListener('pointermove', slipped, { signal });
	for (const end of ['pointerup', 'pointercancel']) {
		addEventListener(end, () => over.abort(), { signal });
	}
}

/** Watches over the presses of a page, for its life. */
export function keepPresses(): void {
	document.addEventListener('pointerdown', begun);
}
