/** A design being worked on: what is on the rulers, what it predicts, and what is kept. */

import {
	Refused,
	type Candidate,
	type Content,
	type Design,
	type Prediction,
	type Target
} from '../lib/api/client';
import { Compared, networksFor } from './compared.svelte';
import { adopted, frameOf, sameShape, shapeOf } from './content';
import type { Frame } from './frame';
import { Predicted } from './predicted.svelte';
import { Saving } from './saving.svelte';

export class DesignEditor {
	/** What is on the rulers. */
	content = $state.raw<Content | null>(null);
	/** The prediction before the present edit began, to show which way the curve went. */
	former = $state.raw<Prediction | null>(null);
	readonly predicted = new Predicted();
	readonly compared = new Compared();
	readonly saving: Saving;
	private refused = $state<string | null>(null);
	private editing = false;
	private comparedFor = '';

	constructor(
		buildId: string,
		/** Power and stretch of frequency, read when needed. */
		private readonly frame: () => Frame,
		/** Tells the page that a design was kept. */
		onkept: (design: Design) => void
	) {
		this.saving = new Saving(buildId, onkept);
	}

	get design(): Design | null {
		return this.saving.design;
	}

	/** What was refused last, whatever it was. */
	get problem(): string | null {
		return this.refused ?? this.saving.problem ?? this.predicted.problem ?? this.compared.problem;
	}

	/** Tells what another part of the desk was refused. */
	refuse(why: unknown): void {
		if (!(why instanceof Refused)) throw why;
		this.refused = why.message;
	}

	/** Opens a kept design. */
	open(design: Design): void {
		this.show(this.saving.open(design), true);
		this.compare();
	}

	private show(content: Content, settled: boolean): void {
		this.refused = this.saving.problem = null;
		// The request first: it is on its way while the page redraws its rulers.
		this.predicted.ask(content, this.frame(), settled);
		this.content = content;
	}

	/** Compares the networks anew. */
	compare(): void {
		if (!this.content) return;
		this.comparedFor = frameOf(this.content);
		this.compared.ask(this.content, this.frame().power_w);
	}

	/** Redraws what is on the rulers, as after a change of power. */
	refresh(): void {
		if (this.content) this.show(this.content, true);
	}

	/** An edit: shown at once, kept when settled, under a name where it has one. */
	edit(content: Content, settled: boolean, label = ''): void {
		if (!this.editing) this.former = this.predicted.prediction;
		this.editing = !settled;
		this.show(content, settled);
		if (!settled) return;
		void this.saving.keep(content, label);
		// Another former, cable or line makes other networks best.
		if (frameOf(content) !== this.comparedFor) this.compare();
	}

	/** Takes another network, or the present one at its best. */
	take(candidate: Candidate | undefined): void {
		if (candidate?.content && this.content)
			this.edit(adopted(candidate.content, this.content), true);
	}

	/** Takes other targets; the networks are compared anew for them. */
	serve(targets: Target[]): void {
		if (!this.content) return;
		this.edit({ ...this.content, targets }, true);
	}

	/** The present network at its best over the targets. */
	best(): void {
		if (this.content) this.take(this.compared.like(this.content));
	}

	/** The present network, exact at one frequency. */
	async exactAt(hz: number): Promise<void> {
		const content = this.content;
		if (!content) return;
		try {
			const found = await networksFor(content, this.frame().power_w, hz);
			// What was edited meanwhile is the newer word.
			if (content !== this.content) return;
			const same = found.find((c) => sameShape(c, shapeOf(content))) ?? found[0];
			if (same?.refused) this.refused = same.refused;
			else this.take(same);
		} catch (why) {
			this.refuse(why);
		}
	}

	/** One step back or forward. */
	async walk(way: 'undo' | 'redo'): Promise<void> {
		const before = this.predicted.prediction;
		const content = await this.saving.walk(way);
		if (!content) return;
		this.former = before;
		this.show(content, true);
	}
}
