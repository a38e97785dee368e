/** What is ticked on a build sheet: kept at every press, followed while another page ticks too. */

import { answer, api, isAway, Refused, type Schemas } from '../lib/api/client';
import { server } from '../lib/api/server.svelte';

export type Tick = Schemas['StepTickOut'];

/** What a person changes of a step; what is left out stays as it is when it arrives. */
export interface TickEdit {
	done?: boolean;
	note?: string;
	/** The note that was on the screen when this one was typed. */
	over?: string;
}

/** How often the page looks for what was ticked elsewhere, milliseconds. */
export const LOOK_MS = 500;

/** An edit on top of what is kept: a tick is the newest finger's, two notes stand one after the other. */
export function edited(kept: Tick | undefined, edit: TickEdit): { done: boolean; note: string } {
	const there = kept?.note ?? '';
	const typed = edit.note;
	const apart =
		typed !== undefined && there !== '' && there !== (edit.over ?? '') && there !== typed;
	return {
		done: edit.done ?? kept?.done ?? false,
		note: typed === undefined ? there : apart ? `${there} · ${typed}` : typed
	};
}

export class TickBook {
	private rows = $state.raw<Record<string, Tick>>({});
	/** Edits that are on their way, by step, oldest first. */
	private waiting = $state.raw<Record<string, TickEdit[]>>({});
	/** Why the newest edit was refused; null when none was. */
	problem = $state<string | null>(null);
	private sending: Record<string, boolean> = {};
	private looking = false;

	constructor(
		readonly designId: string,
		readonly number: number,
		kept: Tick[]
	) {
		this.take(kept);
		for (const [step, edits] of Object.entries(unsentOf(this.name))) {
			for (const edit of edits) this.set(step, edit);
		}
	}

	private get name(): string {
		return `ticks:${this.designId}:${this.number}`;
	}

	private get at() {
		return { params: { path: { design_id: this.designId, number: this.number } } };
	}

	/** A step as it stands, what is on its way included. */
	of(step: string): { done: boolean; note: string; at: string | null } {
		const kept = this.rows[step];
		const shown = (this.waiting[step] ?? []).reduce<Tick | undefined>(
			(row, edit) => ({ ...(row ?? blank(step)), ...edited(row, edit) }),
			kept
		);
		return { done: shown?.done ?? false, note: shown?.note ?? '', at: shown?.ticked_at ?? null };
	}

	/** Whether anything is still on its way. */
	get busy(): boolean {
		return Object.values(this.waiting).some((edits) => edits.length > 0);
	}

	/** Takes in what is kept; an older answer never lands over a newer one. */
	take(kept: Tick[]): void {
		const rows = { ...this.rows };
		for (const row of kept) {
			if (row.revision >= (rows[row.step]?.revision ?? 0)) rows[row.step] = row;
		}
		this.rows = rows;
	}

	/** Ticks a step or notes something at it; kept in order, sent again when the application is back. */
	set(step: string, edit: TickEdit): void {
		this.wait(step, [...(this.waiting[step] ?? []), edit]);
		void this.send(step);
	}

	/** What is on its way also lies in the browser, should the page be closed before it got through. */
	private wait(step: string, edits: TickEdit[]): void {
		this.waiting = { ...this.waiting, [step]: edits };
		const left = Object.entries(this.waiting).filter(([, some]) => some.length > 0);
		try {
			if (left.length > 0)
				localStorage.setItem(this.name, JSON.stringify(Object.fromEntries(left)));
			else localStorage.removeItem(this.name);
		} catch {
			// A browser that keeps nothing still holds them as long as the page is open.
		}
	}

	private async send(step: string): Promise<void> {
		if (this.sending[step]) return;
		this.sending[step] = true;
		try {
			for (let edit = this.waiting[step]?.[0]; edit; edit = this.waiting[step]?.[0]) {
				await this.sendOne(step, edit);
				const [, ...rest] = this.waiting[step] ?? [];
				this.wait(step, rest);
			}
		} finally {
			this.sending[step] = false;
		}
	}

	private async sendOne(step: string, edit: TickEdit): Promise<void> {
		for (;;) {
			const kept = this.rows[step];
			try {
				const body = { step, revision: kept?.revision ?? 0, ...edited(kept, edit) };
				const row = await answer(
					api.PUT('/api/designs/{design_id}/revisions/{number}/ticks', { ...this.at, body })
				);
				this.take([row]);
				this.problem = null;
				return;
			} catch (why) {
				if (!(why instanceof Refused)) throw why;
				const newest = why.problem.newest as Tick | undefined;
				if (newest) this.take([newest]);
				else if (isAway(why.problem)) await server.back();
				else {
					this.problem = why.message;
					return;
				}
			}
		}
	}

	/** Looks for what was ticked elsewhere; quietly, and not while the application is away. */
	async look(): Promise<void> {
		if (this.looking || server.gone) return;
		this.looking = true;
		try {
			const got = await api.GET('/api/designs/{design_id}/revisions/{number}/ticks', this.at);
			if (got.data) this.take(got.data);
		} catch {
			// Away for a moment: the next look will tell, and an edit says so.
		} finally {
			this.looking = false;
		}
	}
}

function blank(step: string): Tick {
	return { step, revision: 0, done: false, note: '', ticked_at: null };
}

/** Ticks left behind by a page that was closed. */
function unsentOf(name: string): Record<string, TickEdit[]> {
	try {
		const kept = JSON.parse(localStorage.getItem(name) ?? '{}') as Record<string, TickEdit[]>;
		return Object.values(kept).every(Array.isArray) ? kept : {};
	} catch {
		return {};
	}
}
