/** A design being worked on: what is on the rulers, what it predicts, and what is kept. */

import {
	answer,
	api,
	isAway,
	Refused,
	type Candidate,
	type Content,
	type Design,
	type Prediction,
	type Revision,
	type Target,
	type Yield
} from '../lib/api/client';
import { LatestRequest } from '../lib/api/LatestRequest';
import { afterPaint } from '../lib/api/afterPaint';
import { server } from '../lib/api/server.svelte';
import { lowest } from '../lib/charts/curve';
import { dropPending, keepPending, pendingOf } from './unsentEdit';
import { isWound, parts, sameShape, shapeOf } from './content';

interface Asked {
	content: Content;
	power_w: number;
	low_hz: number;
	high_hz: number;
}

const settledPoints = 201;
const draggedPoints = 101;
const settledBuilds = 2048;
const draggedBuilds = 256;

export class Work {
	design = $state.raw<Design | null>(null);
	content = $state.raw<Content | null>(null);
	prediction = $state.raw<Prediction | null>(null);
	/** The prediction before the present edit began, to show which way the curve went. */
	former = $state.raw<Prediction | null>(null);
	yielded = $state.raw<Yield | null>(null);
	candidates = $state.raw<Candidate[] | null>(null);
	problem = $state<string | null>(null);
	news = $state<string | null>(null);
	saved = $state<string | null>(null);
	private editing = false;
	private saving: Promise<void> = Promise.resolve();

	private readonly curves = new LatestRequest<Asked & { settled: boolean }, Prediction>(
		({ settled, ...asked }) =>
			answer(
				api.POST('/api/predictions', {
					body: { ...asked, points: settled ? settledPoints : draggedPoints, carried: false }
				})
			),
		(reply, asked) => {
			this.prediction = reply;
			this.problem = null;
			// The builds come after the curves: together they would hold each other up.
			this.builds.ask(asked);
		},
		(why) => this.refuse(why)
	);
	private readonly builds = new LatestRequest<Asked & { settled: boolean }, Yield>(
		({ settled, ...asked }) =>
			// The curves are painted first: a busy server would hold them up on a small computer.
			answer(
				afterPaint().then(() =>
					api.POST('/api/yields', {
						body: {
							...asked,
							points: 81,
							builds: settled ? settledBuilds : draggedBuilds,
							trimmed: settled
						}
					})
				)
			),
		(reply) => (this.yielded = reply),
		(why) => this.refuse(why)
	);
	private readonly networks = new LatestRequest<{ content: Content; power_w: number }, Candidate[]>(
		({ content, power_w }) => this.ask(content, power_w),
		(reply) => (this.candidates = reply),
		(why) => this.refuse(why)
	);

	constructor(
		private readonly buildId: string,
		/** Power and stretch of frequency, read when needed. */
		private readonly frame: () => Omit<Asked, 'content'>,
		/** Tells the page that a design was kept. */
		private readonly onkept: (design: Design) => void
	) {}

	private refuse(why: unknown): void {
		if (!(why instanceof Refused)) throw why;
		// Nothing answers: the page says so once, and asks for the picture again when it is back.
		if (isAway(why.problem)) void server.back().then(() => this.refresh());
		else this.problem = why.message;
	}

	/** Opens a kept design. */
	open(design: Design): void {
		this.design = design;
		const left = pendingOf(design.id);
		if (left) {
			this.news = 'An edit that could not be saved earlier is being saved now.';
			this.saving = this.saving.then(() => this.send(design, left));
		}
		this.show(left?.content ?? design.revision.content, true);
		this.compare();
	}

	/** The L networks for this antenna and these targets, at their best, or exactly at one frequency. */
	ask(content: Content, power_w: number, at_hz: number | null = null): Promise<Candidate[]> {
		const coil = parts(content).find((p) => p.kind === 'coil');
		const stub = parts(content).find((p) => p.kind === 'coax_capacitor');
		return answer(
			api.POST('/api/matches', {
				body: {
					content,
					power_w,
					at_hz,
					template: {
						former_m: coil?.kind === 'coil' ? coil.former_m : 0.032,
						wire: coil?.kind === 'coil' ? coil.wire : 'cu-1.6',
						pitch_m: coil?.kind === 'coil' ? coil.pitch_m : null,
						cable: stub?.kind === 'coax_capacitor' ? stub.cable : 'pe-5'
					}
				}
			})
		);
	}

	/** Compares the networks anew. */
	compare(): void {
		// What is wound on a ring is no L network: there is nothing to compare it with here.
		if (this.content?.elements.some(isWound)) this.candidates = [];
		else if (this.content)
			this.networks.ask({ content: this.content, power_w: this.frame().power_w });
	}

	private show(content: Content, settled: boolean): void {
		// The request first: it is on its way while the page redraws its rulers.
		this.curves.ask({ content, ...this.frame(), settled });
		this.content = content;
	}

	/** Redraws what is on the rulers, as after a change of power. */
	refresh(): void {
		if (this.content) this.show(this.content, true);
	}

	/** An edit: shown at once, kept when settled. */
	edit(content: Content, settled: boolean): void {
		if (!this.editing) this.former = this.prediction;
		this.editing = !settled;
		this.show(content, settled);
		if (settled) void this.keep(content);
	}

	/** Takes another network, or the present one at its best. */
	take(candidate: Candidate): void {
		if (candidate.content) this.edit(candidate.content, true);
	}

	/** Takes other targets; the networks are compared anew for them. */
	serve(targets: Target[]): void {
		if (!this.content) return;
		this.edit({ ...this.content, targets }, true);
		this.compare();
	}

	/** The present network at its best over the targets. */
	best(): void {
		const shape = this.content && shapeOf(this.content);
		const found = this.candidates?.find((c) => sameShape(c, shape));
		if (found) this.take(found);
	}

	/** The present network, exact at one frequency. */
	async exactAt(hz: number): Promise<void> {
		if (!this.content) return;
		try {
			const shape = shapeOf(this.content);
			const found = await this.ask(this.content, this.frame().power_w, hz);
			const same = found.find((c) => sameShape(c, shape)) ?? found[0];
			if (same?.refused) this.problem = same.refused;
			else if (same) this.take(same);
		} catch (why) {
			this.refuse(why);
		}
	}

	private keep(content: Content): Promise<void> {
		// One after the other, so that each names the revision that the one before it made.
		this.saving = this.saving.then(() => this.keepNow(content));
		return this.saving;
	}

	private async keepNow(content: Content): Promise<void> {
		const design = this.design;
		if (!design) return;
		await this.send(design, { edited: design.revision.number, content });
	}

	/** Sends an edit until it is kept or refused; while nothing answers it waits in the browser. */
	private async send(design: Design, pending: { edited: number; content: Content }): Promise<void> {
		for (;;) {
			try {
				const revision = await answer(
					api.POST('/api/designs/{design_id}/revisions', {
						params: { path: { design_id: design.id } },
						body: pending
					})
				);
				dropPending(design.id);
				return this.kept(design, revision);
			} catch (why) {
				if (!(why instanceof Refused)) throw why;
				if (isAway(why.problem)) {
					keepPending(design.id, pending);
					this.saved = 'Not saved yet; kept here until the application answers';
					await server.back();
					continue;
				}
				dropPending(design.id);
				if (why.problem.code === 'stale_edit') return this.keepBeside(design, pending.content);
				this.problem = `Not saved: ${why.message}`;
				return;
			}
		}
	}

	/** Somebody changed the design meanwhile: both are kept, this one under a name of its own. */
	private async keepBeside(design: Design, content: Content): Promise<void> {
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
			this.refuse(why);
		}
	}

	private kept(design: Design, revision: Revision): void {
		this.design = { ...design, revision };
		this.onkept(this.design);
		this.saved = `Saved ${clock()}`;
	}

	/** One step back or forward, kept like any edit. */
	async walk(way: 'undo' | 'redo'): Promise<void> {
		await this.saving;
		const design = this.design;
		if (!design) return;
		try {
			const revision = await answer(
				api.POST('/api/designs/{design_id}/{way}', {
					params: { path: { design_id: design.id, way } },
					body: { edited: design.revision.number }
				})
			);
			this.former = this.prediction;
			this.kept(design, revision);
			this.show(revision.content, true);
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			if (why.problem.code !== 'stale_edit') return this.refuse(why);
			const newest = await answer(
				api.GET('/api/designs/{design_id}', { params: { path: { design_id: design.id } } })
			);
			this.open(newest);
			this.news = `“${design.name}” was changed elsewhere meanwhile; this is the newest.`;
		}
	}
}

/** Ctrl Z and Ctrl Y, outside of fields, walk through the states of a design. */
export function walkByKey(event: KeyboardEvent, walk: (way: 'undo' | 'redo') => void): void {
	const held = event.ctrlKey || event.metaKey;
	if (!held || (event.target as HTMLElement).tagName === 'INPUT') return;
	const key = event.key.toLowerCase();
	if (key !== 'z' && key !== 'y') return;
	event.preventDefault();
	walk(key === 'y' || event.shiftKey ? 'redo' : 'undo');
}

/** Where a prediction dips, and its worst SWR in the targets. */
export function standingOf(prediction: Prediction | null): {
	dipHz: number | null;
	worst: number | null;
} {
	const box = prediction?.stations[prediction.box];
	if (!prediction || !box) return { dipHz: null, worst: null };
	const worst = prediction.targets.map((t) => t.worst_swr ?? null);
	return {
		dipHz: lowest(box.frequency_hz, box.swr),
		worst: worst.includes(null) ? null : Math.max(...(worst as number[]))
	};
}

function clock(): string {
	return new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}
