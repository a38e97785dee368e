/** How a design is kept: every settled edit one after the other, none lost, and the way back and forward. */

import {
	answer,
	api,
	canWait,
	isAway,
	Refused,
	type Content,
	type Design,
	type Revision
} from '../lib/api/client';
import { server } from '../lib/api/server.svelte';
import { dropUnsent, keepUnsent, type UnsentEdit, unsentOf } from './unsentEdit';

/** Between tries while others save, or the disk is full. */
const AGAIN_MS = 1000;

export class Saving {
	/** The design as it is kept. */
	design = $state.raw<Design | null>(null);
	/** When it was last kept, or that it is not yet. */
	saved = $state<string | null>(null);
	/** What happened to it elsewhere. */
	news = $state<string | null>(null);
	problem = $state<string | null>(null);
	private last: Promise<void> = Promise.resolve();

	constructor(
		private readonly buildId: string,
		/** Tells the page that a design was kept. */
		private readonly onkept: (design: Design) => void
	) {}

	/** Takes up a kept design; gives its content, with an edit that could not be sent earlier. */
	open(design: Design): Content {
		this.design = design;
		const left = unsentOf(design.id);
		if (!left) return design.revision.content;
		this.news = 'An edit that could not be saved earlier is being saved now.';
		this.last = this.last.then(() => this.send(design, left));
		return left.content;
	}

	/** Keeps an edit, after those before it: each names the revision that the one before it made. */
	keep(content: Content, label = ''): Promise<void> {
		this.last = this.last.then(async () => {
			const design = this.design;
			if (design) await this.send(design, { edited: design.revision.number, content, label });
		});
		return this.last;
	}

	/** Sends an edit until it is kept or refused; while nothing answers it waits in the browser. */
	private async send(design: Design, edit: UnsentEdit): Promise<void> {
		for (;;) {
			try {
				const revision = await answer(
					api.POST('/api/designs/{design_id}/revisions', {
						params: { path: { design_id: design.id } },
						body: { label: '', ...edit }
					})
				);
				dropUnsent(design.id);
				return this.kept(design, revision);
			} catch (why) {
				if (!(why instanceof Refused)) throw why;
				if (isAway(why.problem)) {
					keepUnsent(design.id, edit);
					this.saved = 'Not saved yet; kept here until the application answers';
					await server.back();
					continue;
				}
				if (canWait(why.problem)) {
					keepUnsent(design.id, edit);
					this.saved = `Not saved yet; kept here and tried again: ${why.message}`;
					await new Promise((again) => setTimeout(again, AGAIN_MS));
					continue;
				}
				dropUnsent(design.id);
				if (why.problem.code === 'stale_edit') return this.saveAsCopy(design, edit.content);
				this.problem = `Not saved: ${why.message}`;
				return;
			}
		}
	}

	/** Somebody changed the design meanwhile: both are kept, this one under a name of its own. */
	private async saveAsCopy(design: Design, content: Content): Promise<void> {
		try {
			const mine = await answer(
				api.POST('/api/builds/{build_id}/designs', {
					params: { path: { build_id: this.buildId } },
					body: { name: `${design.name} (mine, ${clock()})`, content }
				})
			);
			this.design = mine;
			this.onkept(mine);
			this.saved = `Saved ${clock()}`;
			this.news = `“${design.name}” was changed elsewhere meanwhile. Yours is kept beside it as “${mine.name}”; choose either above.`;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			this.problem = why.message;
		}
	}

	private kept(design: Design, revision: Revision): void {
		this.design = { ...design, revision };
		this.onkept(this.design);
		this.saved = `Saved ${clock()}`;
	}

	/** Its name was changed elsewhere on the page. */
	renamed(design: Design): void {
		if (this.design) this.design = { ...this.design, ...design };
	}

	/** One step back or forward, kept like any edit; gives the content to show, or null where it was refused. */
	walk(way: 'undo' | 'redo'): Promise<Content | null> {
		// As fast as one presses: each step from where the one before it led, after what is being saved.
		const step = this.last.then(() => this.step(way));
		this.last = step.then(() => undefined);
		return step;
	}

	private async step(way: 'undo' | 'redo'): Promise<Content | null> {
		const design = this.design;
		// A press more than there are steps is none.
		if (!design?.revision[way === 'undo' ? 'can_undo' : 'can_redo']) return null;
		try {
			const revision = await answer(
				api.POST('/api/designs/{design_id}/{way}', {
					params: { path: { design_id: design.id, way } },
					body: { edited: design.revision.number }
				})
			);
			this.kept(design, revision);
			return revision.content;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			if (why.problem.code !== 'stale_edit') {
				this.problem = why.message;
				return null;
			}
			const newest = await answer(
				api.GET('/api/designs/{design_id}', { params: { path: { design_id: design.id } } })
			);
			const content = this.open(newest);
			this.news = `“${design.name}” was changed elsewhere meanwhile; this is the newest.`;
			return content;
		}
	}
}

function clock(): string {
	return new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}
