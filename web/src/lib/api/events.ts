/** A job as it is told of, by server-sent events. */
import type { JobState } from './client';

/** Follows a job: each newest state, and a promise of the last one. `stop` lets go of it. */
export function follow(
	id: string,
	onstate: (state: JobState) => void
): { ended: Promise<JobState>; stop: () => void } {
	const source = new EventSource(`/api/jobs/${id}/events`);
	let latest: JobState | null = null;
	let settle: (state: JobState) => void = () => undefined;
	const ended = new Promise<JobState>((done) => (settle = done));
	source.onmessage = (event) => {
		latest = JSON.parse(String(event.data)) as JobState;
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
			...(latest ?? {
				id,
				place: null,
				found: null,
				progress: { passes: 0, points: 0, of_points: 0 }
			}),
			state: 'failed',
			problem: {
				type: 'about:blank',
				title: 'No answer',
				status: 0,
				code: 'job_gone',
				detail: 'The application no longer knows this sweep. Start it again'
			}
		} as JobState);
	};
	return { ended, stop: () => source.close() };
}
