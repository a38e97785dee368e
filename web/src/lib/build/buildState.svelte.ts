/** The build that is open, its designs and the marker: shared by every desk of its page. */

import { createContext } from 'svelte';

import { answer, api, type Build, type Design, type Target } from '../api/client';
import { router } from '../router/router.svelte';

export type BuildChanges = Partial<
	Pick<
		Build,
		'power_w' | 'mode' | 'targets' | 'chosen_design_id' | 'baseline_sweep_id' | 'name' | 'wire'
	>
>;

export class BuildState {
	private found = $state.raw<Build | null>(null);
	designs = $state.raw<Design[]>([]);
	markerHz = $state(0);
	private last: Promise<unknown> = Promise.resolve();

	constructor(readonly id: string) {}

	/** Whether it is there to be shown. */
	get ready(): boolean {
		return this.found !== null;
	}

	/** The build; desks are drawn once it is there. */
	get build(): Build {
		if (!this.found) throw new Error('no build is open yet');
		return this.found;
	}

	private get at() {
		return { params: { path: { build_id: this.id } } };
	}

	/** Reads the build and its designs, and puts the marker where the address says. */
	async load(): Promise<void> {
		const [found, designs] = await Promise.all([
			answer(api.GET('/api/builds/{build_id}', this.at)),
			answer(api.GET('/api/builds/{build_id}/designs', this.at))
		]);
		this.designs = designs;
		const asked = Number(router.place.query.get('marker'));
		const first = found.targets[0] as Target;
		this.markerHz = asked > 0 ? asked * 1e6 : (first.low_hz + first.high_hz) / 2;
		this.found = found;
	}

	/** One after the other: each change names the revision that the one before it made, and no old build lands late. */
	private inTurn<T>(act: () => Promise<T>): Promise<T> {
		const next = this.last.then(act);
		this.last = next.catch(() => undefined);
		return next;
	}

	/** Keeps changes of the build. */
	change(changes: BuildChanges): Promise<void> {
		return this.inTurn(async () => {
			this.found = await answer(
				api.PATCH('/api/builds/{build_id}', {
					...this.at,
					body: { revision: this.build.revision, ...changes }
				})
			);
		});
	}

	/** Reads the build anew, as after a sweep or a design came or went. */
	reload(): Promise<void> {
		return this.inTurn(async () => {
			this.found = await answer(api.GET('/api/builds/{build_id}', this.at));
		});
	}

	/** Takes in a design that was kept: in place of its earlier self, or at the end. */
	keep(design: Design): void {
		const known = this.designs.some((d) => d.id === design.id);
		this.designs = known
			? this.designs.map((d) => (d.id === design.id ? design : d))
			: [...this.designs, design];
	}

	/** The marker as a desk shows it: in the middle of what it shows, when it was left somewhere else. */
	markerIn(lowHz: number, highHz: number): number {
		const inside = this.markerHz >= lowHz && this.markerHz <= highHz;
		return inside ? this.markerHz : (lowHz + highHz) / 2;
	}

	/** Moves the marker; once it is let go the address says where it stands. */
	mark(hz: number, settled: boolean): void {
		this.markerHz = hz;
		if (settled) router.note({ marker: (hz / 1e6).toFixed(4) });
	}
}

/** The open build, for whatever is drawn inside its page. */
export const [openBuild, giveBuild] = createContext<BuildState>();
