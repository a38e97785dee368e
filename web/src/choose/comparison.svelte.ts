/** The comparison of schools: begun, followed, stopped; what is through stays on the page. */
import { answer, api, busy, problemText, type Schemas } from '../lib/api/client';
import { follow } from '../lib/api/events';

type Job = Schemas['SchoolsJob'];
export type Asked = Omit<Schemas['SchoolsIn'], 'kind'>;

export class Comparison {
	job = $state.raw<Job | null>(null);
	running = $state(false);
	problem = $state<string | null>(null);
	/** How far it was when it ended before its end; null where all are compared, or still under way. */
	cutAt = $state.raw<Job['progress'] | null>(null);
	/** What the cards are of. */
	of = $state.raw<Asked | null>(null);
	private leave: (() => void) | null = null;
	private asked = 0;
	/** What is under way; null until it is known by a name. */
	private under: string | null = null;
	/** Stop was pressed, perhaps before it had a name. */
	private stopping = false;

	get found(): Schemas['SchoolsFound'] | null {
		return this.job?.found ?? null;
	}

	/** Begins, in place of what is under way; the old cards stay until the first new one is there. */
	async start(body: Asked): Promise<void> {
		this.end();
		const mine = ++this.asked;
		this.problem = this.cutAt = null;
		this.running = true;
		this.stopping = false;
		busy(1);
		try {
			const begun = (await answer(
				api.POST('/api/jobs', { body: { kind: 'schools', ...body } })
			)) as Job;
			if (mine !== this.asked) return letGo(begun.id);
			const { ended, stop } = follow(begun, (state) => {
				if (mine === this.asked && state.found) this.take(state, body);
			});
			this.leave = stop;
			this.under = begun.id;
			if (this.stopping) void this.stop();
			const last = await ended;
			if (mine !== this.asked) return;
			if (last.found) this.take(last, body);
			if (last.state !== 'done') this.cutAt = last.progress;
			this.problem = last.problem?.detail ?? null;
		} catch (why) {
			if (mine === this.asked) this.problem = problemText(why);
		} finally {
			busy(-1);
			if (mine === this.asked) this.running = false;
		}
	}

	private take(job: Job, body: Asked): void {
		this.job = job;
		this.of = body;
	}

	/** Stops it; the cards that are through stay. */
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
