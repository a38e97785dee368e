/** The comparison of schools: begun, followed, stopped; what is through stays on the page. */
import { answer, api, busy, problemText, type Schemas } from '../lib/api/client';
import { follow } from '../lib/api/events';

type Job = Schemas['SchoolsJob'];
export type Asked = Omit<Schemas['SchoolsIn'], 'kind'>;

export class Comparison {
	job = $state.raw<Job | null>(null);
	running = $state(false);
	problem = $state<string | null>(null);
	/** What the cards are of. */
	of = $state.raw<Asked | null>(null);
	private leave: (() => void) | null = null;
	private asked = 0;

	get found(): Schemas['SchoolsFound'] | null {
		return this.job?.found ?? null;
	}

	/** Begins, in place of what is under way; the old cards stay until the first new one is there. */
	async start(body: Asked): Promise<void> {
		const mine = ++this.asked;
		this.end();
		this.problem = null;
		this.running = true;
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
			const last = await ended;
			if (mine !== this.asked) return;
			if (last.found) this.take(last, body);
			this.problem = last.problem?.detail ?? null;
		} catch (why) {
			if (mine === this.asked) this.problem = problemText(why);
		} finally {
			busy(-1);
			if (mine === this.asked) this.running = false;
		}
	}

	private under: string | null = null;
	private take(job: Job, body: Asked): void {
		this.job = job;
		this.of = body;
	}

	/** Stops it; the cards that are through stay. */
	async stop(): Promise<void> {
		if (!this.under || !this.running) return;
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
		this.under = null;
	}
}

/** Ends a job even while the browser closes. */
function letGo(id: string): void {
	void fetch(`/api/jobs/${id}`, { method: 'DELETE', keepalive: true }).catch(() => undefined);
}
