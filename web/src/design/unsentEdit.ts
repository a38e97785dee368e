/** Edits that could not be sent: kept in the browser until the application answers again. */

import type { Content } from '../lib/api/client';

export interface UnsentEdit {
	edited: number;
	content: Content;
	/** What the state is called, where it has a name. */
	label?: string;
}

const nameOf = (designId: string) => `pending:${designId}`;

export function keepUnsent(designId: string, edit: UnsentEdit): void {
	try {
		localStorage.setItem(nameOf(designId), JSON.stringify(edit));
	} catch {
		// A browser that keeps nothing still holds the edit as long as the page is open.
	}
}

export function dropUnsent(designId: string): void {
	try {
		localStorage.removeItem(nameOf(designId));
	} catch {
		// Nothing was kept.
	}
}

/** An edit left behind by a page that was closed, or null. */
export function unsentOf(designId: string): UnsentEdit | null {
	try {
		const kept = JSON.parse(localStorage.getItem(nameOf(designId)) ?? 'null') as UnsentEdit | null;
		return kept && typeof kept.edited === 'number' && kept.content ? kept : null;
	} catch {
		return null;
	}
}
