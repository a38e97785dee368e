/** The analyser as this page sees it: its link, what is screwed on, calibrations, and the sweep under way. */
import {
	type Analyser,
	answer,
	api,
	busy,
	type Calibration,
	type JobIn,
	type JobState,
	Refused,
	problemText
} from '../lib/api/client';
import { Latest } from '../lib/api/latest.svelte';
import { follow as followJob } from '../lib/api/events';

const remembered = 'calibration';

export class AnalyserSession {
	private readonly states = new Latest((act: () => Promise<Analyser>) => act(), { keeps: true });
	calibrations = $state.raw<Calibration[]>([]);
	/** The calibration used for sweeps; null for none. */
	calibrationId = $state<string | null>(null);
	job = $state.raw<JobState | null>(null);
	running = $state(false);
	/** What the newest sweep was of. */
	kind = $state<JobIn['kind'] | null>(null);
	problem = $state<string | null>(null);
	private leave: (() => void) | null = null;

	get calibration(): Calibration | null {
		return this.calibrations.find((c) => c.id === this.calibrationId) ?? null;
	}

	/** The analyser as it last said; an answer to an older question never lands. */
	get analyser(): Analyser | null {
		return this.states.value;
	}

	/** Looks at it anew. */
	async look(): Promise<void> {
		await this.states.ask(() => answer(api.GET('/api/analyser')));
	}

	/** Changes what it is on; what it answers is how it is now. */
	async put(act: () => Promise<Analyser>): Promise<void> {
		await this.states.ask(act);
	}

	async load(): Promise<void> {
		const [, calibrations] = await Promise.all([this.look(), answer(api.GET('/api/calibrations'))]);
		this.calibrations = calibrations;
		const kept = sessionStorage.getItem(remembered);
		if (this.calibrationId === null && kept && calibrations.some((c) => c.id === kept)) {
			this.calibrationId = kept;
		}
	}

	choose(id: string | null): void {
		this.calibrationId = id;
		sessionStorage.setItem(remembered, id ?? '');
	}

	/** Does something; what is refused is said, and the analyser looked at anew. */
	async attempt(act: () => Promise<unknown>): Promise<void> {
		this.problem = null;
		try {
			await act();
		} catch (why) {
			this.problem = problemText(why);
			try {
				await this.look();
			} catch (gone) {
				if (!(gone instanceof Refused)) throw gone;
			}
		}
	}

	async connect(
		kind: 'none' | 'simulated' | 'address',
		address = '',
		profile = 'plain'
	): Promise<void> {
		await this.states.ask(() =>
			answer(api.PUT('/api/analyser/link', { body: { kind, address, profile } }))
		);
	}

	async screwOn(thing: string): Promise<void> {
		await this.put(() => answer(api.PUT('/api/analyser/bench', { body: { thing } })));
	}

	/** Begins a sweep and follows it to its end; gives its last state. */
	async sweep(asked: JobIn): Promise<JobState> {
		// What is asked for here is a sweep, so what begins is one.
		const begun = (await answer(api.POST('/api/jobs', { body: asked }))) as JobState;
		this.job = begun;
		this.kind = asked.kind;
		this.running = true;
		// A sweep without end is never settled; tests wait for the others.
		const endless = asked.kind === 'sweep' && asked.passes === null;
		if (!endless) busy(1);
		try {
			const { ended, stop } = followJob(begun, (state) => (this.job = state));
			this.leave = stop;
			const last = await ended;
			this.job = last;
			const calibration = last.found?.calibration;
			if (calibration) {
				this.calibrations = this.calibrations.map((c) =>
					c.id === calibration.id ? calibration : c
				);
			}
			if (last.problem) this.problem = last.problem.detail;
			return last;
		} finally {
			this.leave = null;
			this.running = false;
			if (!endless) busy(-1);
			await this.look().catch(() => undefined);
		}
	}

	/** Stops the sweep under way; whole passes that are there are kept. */
	async stop(): Promise<void> {
		const id = this.job?.id;
		if (!id || !this.running) return;
		await answer(api.DELETE('/api/jobs/{job_id}', { params: { path: { job_id: id } } }));
	}

	/** When the page is left: what is under way ends, even while the browser closes. */
	close(): void {
		this.leave?.();
		if (this.job && this.running) {
			void fetch(`/api/jobs/${this.job.id}`, { method: 'DELETE', keepalive: true });
		}
	}
}
