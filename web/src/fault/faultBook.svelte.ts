/** A search for a fault as the page holds it: what the log says, asked anew after every answer. */

import { answer, api, problemText, type EntryData } from '../lib/api/client';
import { Latest } from '../lib/api/latest.svelte';
import { utcOffsetMin } from '../trim/words';
import type { Begun, Fault, FaultTest, Reading } from './faultWords';

export type School = NonNullable<Begun['school']>;

export class FaultBook {
	school = $state<School>('least_effort');
	working = $state(false);
	problem = $state<string | null>(null);
	/** What was taken back last: it can come back. */
	taken = $state<string | null>(null);
	private readonly views = new Latest<School, Fault>((school) =>
		answer(
			api.GET('/api/builds/{build_id}/fault', {
				params: { path: { build_id: this.buildId }, query: { school } }
			})
		)
	);

	constructor(readonly buildId: string) {}

	get fault(): Fault | null {
		return this.views.value;
	}

	get loading(): boolean {
		return this.views.loading;
	}

	get asking(): string | null {
		return this.views.problem;
	}

	again(): void {
		this.views.show(this.school);
	}

	choose(school: School): void {
		this.school = school;
		this.again();
	}

	/** Does something; what is refused is said. */
	async attempt(act: () => Promise<unknown>): Promise<boolean> {
		if (this.working) return false;
		this.working = true;
		this.problem = null;
		try {
			await act();
			await this.views.ask(this.school);
			return true;
		} catch (why) {
			this.problem = problemText(why);
			return false;
		} finally {
			this.working = false;
		}
	}

	/** An entry at the end of the log. */
	tell(data: EntryData, more: { sweep_id?: string; text?: string } = {}): Promise<boolean> {
		return this.attempt(() =>
			answer(
				api.POST('/api/builds/{build_id}/entries', {
					params: { path: { build_id: this.buildId } },
					body: { data, text: '', utc_offset_min: utcOffsetMin(), ...more }
				})
			)
		);
	}

	/** A test was done. */
	read(act: string, reading: Reading, text: string, sweepId?: string): Promise<boolean> {
		return this.tell(
			{ kind: 'fault_test', act, reading, skipped: false },
			{ text, ...(sweepId ? { sweep_id: sweepId } : {}) }
		);
	}

	/** A test cannot be done. */
	skip(act: string): Promise<boolean> {
		return this.tell({ kind: 'fault_test', act, skipped: true });
	}

	/** The simulated site breaks, and is swept as it was and as it is. */
	breakThere(begun: Begun): Promise<boolean> {
		return this.attempt(async () => {
			await answer(
				api.PUT('/api/analyser/link', {
					body: { kind: 'simulated', address: '', profile: 'plain' }
				})
			);
			await answer(
				api.POST('/api/builds/{build_id}/fault/practice', {
					params: { path: { build_id: this.buildId } },
					body: { begun, utc_offset_min: utcOffsetMin() }
				})
			);
		});
	}

	/** One test on the simulated site. */
	practise(act: string): Promise<boolean> {
		return this.attempt(() =>
			answer(
				api.POST('/api/builds/{build_id}/fault/practised', {
					params: { path: { build_id: this.buildId } },
					body: { act }
				})
			)
		);
	}

	/** A test is taken back; it lies in the bin. */
	takeBack(test: Pick<FaultTest, 'entry_id' | 'revision'>): Promise<boolean> {
		return this.attempt(async () => {
			await answer(
				api.DELETE('/api/entries/{entry_id}', {
					params: { path: { entry_id: test.entry_id }, query: { revision: test.revision } }
				})
			);
			this.taken = test.entry_id;
		});
	}

	/** What was taken back comes back. */
	putBack(): Promise<boolean> {
		const entry = this.taken;
		if (!entry) return Promise.resolve(false);
		return this.attempt(async () => {
			await answer(
				api.POST('/api/entries/{entry_id}/restore', { params: { path: { entry_id: entry } } })
			);
			this.taken = null;
		});
	}
}
