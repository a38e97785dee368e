/** The search for a match that can be made: begun, followed, stopped; what it has found stays on the page. */

import {
	answer,
	api,
	busy,
	type Build,
	type Content,
	problemText,
	type SearchFound,
	type SearchJob
} from '../lib/api/client';
import { follow } from '../lib/api/events';

export type PartsFrom = 'drawer' | 'sold';

export class MatchSearch {
	job = $state.raw<SearchJob | null>(null);
	running = $state(false);
	problem = $state<string | null>(null);
	/** What it was begun for: antenna, targets, power. */
	askedFor = $state('');
	private leave: (() => void) | null = null;
	private asked = 0;
	/** What is under way; null until it is known by a name. */
	private under: string | null = null;
	/** Stop was pressed, perhaps before it had a name. */
	private stopping = false;

	/** The best compromises so far. */
	get found(): SearchFound | null {
		return this.job?.found ?? null;
	}

	/** Begins, in place of what is under way. */
	async start(content: Content, build: Build, parts: PartsFrom): Promise<void> {
		this.end();
		const mine = ++this.asked;
		this.problem = null;
		this.running = true;
		this.stopping = false;
		this.askedFor = frameOf(content, build.power_w);
		busy(1);
		try {
			const body = {
				kind: 'search' as const,
				content,
				power_w: build.power_w,
				mode: build.mode,
				parts,
				most_parts: 4
			};
			const begun = (await answer(api.POST('/api/jobs', { body }))) as SearchJob;
			if (mine !== this.asked) {
				letGo(begun.id);
				return;
			}
			this.job = begun;
			const { ended, stop } = follow(begun, (state) => {
				if (mine === this.asked) this.job = state;
			});
			this.leave = stop;
			this.under = begun.id;
			if (this.stopping) void this.stop();
			const last = await ended;
			if (mine !== this.asked) return;
			this.job = last;
			this.problem = last.problem?.detail ?? null;
		} catch (why) {
			if (mine === this.asked) this.problem = problemText(why);
		} finally {
			busy(-1);
			if (mine === this.asked) this.running = false;
		}
	}

	/** Stops it; what it has found stays. */
	async stop(): Promise<void> {
		if (!this.running) return;
		this.stopping = true;
		if (!this.under) return;
		try {
			await answer(api.DELETE('/api/jobs/{job_id}', { params: { path: { job_id: this.under } } }));
		} catch (why) {
			this.problem = problemText(why);
		}
	}

	/** Ends what is under way: the page is left, or something else is asked. */
	end(): void {
		this.leave?.();
		this.leave = null;
		if (this.under && this.running) letGo(this.under);
		// What was asked and has no name yet is let go as soon as it has one.
		this.asked += 1;
		this.under = null;
		this.running = false;
	}
}

/** Ends a job even while the browser closes. */
function letGo(id: string): void {
	void fetch(`/api/jobs/${id}`, { method: 'DELETE', keepalive: true }).catch(() => undefined);
}

/** What a search hangs on: what was found for other bands is another answer. A wire cut shorter is the same wire. */
export function frameOf(content: Content, powerW: number): string {
	const { antenna } = content;
	const wire = antenna.kind === 'sweep' ? antenna.sweep_id : antenna;
	return JSON.stringify([wire, content.targets, powerW]);
}
