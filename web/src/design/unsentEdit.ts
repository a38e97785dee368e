/** Edits that could not be sent: kept in the browser until the application answers again. */

import type { Content } from '../lib/api/client';

export interface Pending {
	edited: number;
	content: Content;
}

const nameOf = (designId: string) => `pending:${designId}`;

export function keepPending(designId: string, pending: Pending): void {
	try {
		localStorage.setItem(nameOf(designId), JSON.stringify(pending));
	} catch {
		// A browser that keeps nothing still holds the edit as long as the page is open.
	}
}

export function dropPending(designId: string): void {
	try {
		localStorage.removeItem(nameOf(designId));
	} catch {
		// Nothing was kept.
	}
}

/** An edit left behind by a page that was closed, or null. */
export function pendingOf(designId: string): Pending | null {
	try {
		const kept = JSON.parse(localStorage.getItem(nameOf(designId)) ?? 'null') as Pending | null;
		return kept && typeof kept.edited === 'number' && kept.content ? kept : null;
	} catch {
		return null;
	}
}
