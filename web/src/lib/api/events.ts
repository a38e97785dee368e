/** A job as it is told of, by server-sent events. */
import type { JobState, SchoolsJob, SearchJob } from './client';

/** Follows a job: each newest state, and a promise of the last one. `stop` lets go of it, as it is then. */
export function follow<State extends JobState | SearchJob | SchoolsJob = JobState>(
	begun: State,
	onstate: (state: State) => void
): { ended: Promise<State>; stop: () => void } {
	const source = new EventSource(`/api/jobs/${begun.id}/events`);
	let latest = begun;
	let settle: (state: State) => void = () => undefined;
	const ended = new Promise<State>((done) => (settle = done));
	source.onmessage = (event) => {
		latest = JSON.parse(String(event.data)) as State;
		onstate(latest);
		if (latest.state !== 'queued' && latest.state !== 'running') {
			source.close();
			settle(latest);
		}
	};
	source.onerror = () => {
		// The browser tries again by itself; only an answer that is no stream ends it.
		if (source.readyState !== EventSource.CLOSED) return;
		settle({
			...latest,
			state: 'failed',
			problem: {
				type: 'about:blank',
				title: 'No answer',
				status: 0,
				code: 'job_gone',
				detail: 'The application no longer knows this work. Start it again'
			}
		});
	};
	return {
		ended,
		stop: () => {
			source.close();
			settle(latest);
		}
	};
}
