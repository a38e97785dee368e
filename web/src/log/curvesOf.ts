import { answer, api } from '../lib/api/client';

/** Curves of a sweep as a small chart draws them. */
export const curvesOf = (id: string) =>
	answer(
		api.GET('/api/sweeps/{sweep_id}/curves', {
			params: { path: { sweep_id: id }, query: { points: 301 } }
		})
	);

/** A day in a list. */
export const dayOf = (at: string): string =>
	new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
