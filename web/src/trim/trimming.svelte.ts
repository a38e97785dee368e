/** The trim loop of a build, shared by its desk and its outdoors view: log, next act, and the analyser. */
import {
	answer,
	api,
	type Entry,
	type EntryData,
	type Read,
	Refused,
	problemText,
	type SetupIn,
	type TrimOut
} from '../lib/api/client';
import { Latest } from '../lib/api/latest.svelte';
import { outbox, type Told } from '../lib/api/outbox.svelte';
import { plain } from '../lib/controls/plain.svelte';
import { AnalyserSession } from '../analyser/analyserSession.svelte';
import { utcOffsetMin } from './words';

export type By = 'fold' | 'cut';
export type Done = Extract<EntryData, { kind: 'cut' }>['act'];

const STANDARDS = ['short', 'open', 'load'] as const;
/** How many times as wide it is swept to find a dip that is not in view. */
export const WIDER = 3;
const NEW_WIRE = 'loft-new';
const LEG_OF_LOOP = 234 / 1005;
const POINTS = 161;
const PASSES = 8;

export class Trimming {
	private readonly views = new Latest(
		(query: { by: By; link?: number }) =>
			answer(
				api.GET('/api/builds/{build_id}/trim', {
					params: { path: { build_id: this.buildId }, query }
				})
			),
		{ keeps: true }
	);
	by = $state<By>('fold');
	/** The band that was asked for; none leaves it to the log. */
	link = $state<number | null>(null);
	problem = $state<string | null>(null);
	working = $state(false);
	instrument = $state('');
	/** How the next reading is taken; the last one's until somebody says otherwise. */
	setup = $state.raw<SetupIn | null>(null);
	bench = new AnalyserSession();

	private readonly leave: () => void;

	constructor(readonly buildId: string) {
		// What waited has been sent: the view follows. While it cannot be had, the next look will tell.
		this.leave = outbox.listen(buildId, () => void this.refresh().catch(() => undefined));
	}

	/** The log, and what to do next. */
	get view(): TrimOut | null {
		return this.views.value;
	}

	/** What is done next, and whether a sweep can be had for it. */
	get analyser(): 'none' | 'simulated' | 'real' {
		if (!this.bench.analyser?.connected) return 'none';
		if (this.bench.analyser.kind !== 'simulated') return 'real';
		// Invented readings enter no log of a real wire.
		return this.view?.practice ? 'simulated' : 'none';
	}

	async load(): Promise<void> {
		await this.attempt(async () => {
			await Promise.all([this.refresh(), this.bench.load(), plain.load()]);
		});
	}

	/** The newest view counts: one for another band, or from before the last act, never lands late. */
	async refresh(): Promise<void> {
		const view = await this.views.ask({
			by: this.by,
			...(this.link === null ? {} : { link: this.link })
		});
		if (!view) return;
		if (!this.setup && view.setup) {
			const { plane, line, conditions } = view.setup;
			this.setup = { plane, line, conditions };
			// An analyser says its own name; what a dial was read on is asked once.
			const dial = view.entries.filter(
				(e) => e.data.kind === 'reading' && e.data.reading.kind !== 'sweep'
			);
			this.instrument ||= dial.at(-1)?.setup?.instrument ?? '';
		}
	}

	/** Does something; what is refused is said, and what was typed stays. */
	async attempt(act: () => Promise<unknown>): Promise<boolean> {
		this.problem = null;
		this.working = true;
		try {
			await act();
			return true;
		} catch (why) {
			this.problem = problemText(why);
			return false;
		} finally {
			this.working = false;
		}
	}

	choose(by: By): Promise<boolean> {
		this.by = by;
		return this.attempt(() => this.refresh());
	}

	look(link: number | null): Promise<boolean> {
		this.link = link;
		return this.attempt(() => this.refresh());
	}

	/** An entry at the end of the log; the view follows. */
	async log(data: EntryData, more: { sweep_id?: string; setup?: SetupIn } = {}): Promise<void> {
		const reading = data.kind === 'reading';
		const sent = await outbox.tell(this.buildId, {
			data,
			text: '',
			instrument: this.instrument,
			utc_offset_min: utcOffsetMin(),
			...(reading && !more.sweep_id
				? { setup: this.setup ?? { plane: 'feedpoint', line: null, conditions: {} } }
				: {}),
			...more
		});
		if (sent) await this.refresh();
	}

	/** What was told here and is not in the log yet, oldest first. */
	get waiting(): Told[] {
		return outbox.waiting.filter((told) => told.build === this.buildId);
	}

	/** Lets go of what it listens to. */
	close(): void {
		this.leave();
		this.bench.close();
	}

	/** A reading of the band that is looked at. */
	read(reading: Read): Promise<void> {
		return this.log({ kind: 'reading', link: this.view?.link ?? 0, reading });
	}

	/** An act on the band that is looked at. On the simulated bench the wire is cut with it. */
	async act(done: Done, perLeg: number[]): Promise<void> {
		await this.log({ kind: 'cut', link: this.view?.link ?? 0, act: done, per_leg_m: perLeg });
	}

	/** What was taken back last. */
	get taken(): Entry | null {
		return this.view?.taken[0] ?? null;
	}

	/** An entry is taken back, the last one where none is named; it stays in the bin. */
	async takeBack(entry = this.view?.entries.at(-1)): Promise<void> {
		if (!entry) return;
		await answer(
			api.DELETE('/api/entries/{entry_id}', {
				params: { path: { entry_id: entry.id }, query: { revision: entry.revision } }
			})
		);
		await this.refresh();
	}

	/** What was taken back comes back, the last one where none is named. */
	async putBack(entry = this.taken): Promise<void> {
		if (!entry) return;
		await answer(
			api.POST('/api/entries/{entry_id}/restore', { params: { path: { entry_id: entry.id } } })
		);
		await this.refresh();
	}

	/** Measured again, and it is so: the newest dip is read once more, as it was. */
	async again(): Promise<void> {
		const hz = this.view?.trail.at(-1)?.dip_hz;
		if (!hz) return;
		const ratio = this.view?.trail.at(-1)?.swr ?? null;
		const swr = ratio !== null && ratio >= 1 && ratio <= 1000 ? ratio : null;
		await this.read({ kind: 'dip', meter: 'meter', dip_hz: hz, swr });
	}

	/** The simulated analyser with its calibration, and on its bench the wire that is trimmed here. */
	async practise(): Promise<void> {
		const view = this.view;
		if (!view) return;
		await this.bench.connect('simulated');
		const made = await answer(
			api.POST('/api/calibrations', {
				body: {
					name: `${view.label}, for trimming`,
					low_hz: Math.floor(view.rule_low_hz),
					high_hz: Math.ceil(view.rule_high_hz),
					points: POINTS
				}
			})
		);
		for (const standard of STANDARDS) {
			await this.bench.screwOn(standard);
			await this.bench.sweep({
				kind: 'standard',
				calibration_id: made.id,
				standard,
				passes: PASSES
			});
		}
		await this.bench.load();
		this.bench.choose(made.id);
	}

	/** A sweep over the frequency rule, or over so many times its width where the dip lies beyond; kept and read. */
	async sweep(times = 1): Promise<void> {
		const view = this.view;
		if (!view) return;
		const low_hz = view.target_hz - times * (view.target_hz - view.rule_low_hz);
		const high_hz = view.target_hz + times * (view.rule_high_hz - view.target_hz);
		if (this.analyser === 'simulated') await this.hang(view);
		const covers = this.bench.calibrations
			.filter((c) => c.complete && c.low_hz <= low_hz + 1 && c.high_hz >= high_hz - 1)
			.sort((a, b) => (a.made_at < b.made_at ? 1 : -1));
		const calibration = covers.find((c) => c.id === this.bench.calibrationId) ?? covers[0];
		const end = await this.bench.sweep({
			kind: 'sweep',
			low_hz,
			high_hz,
			points: POINTS,
			passes: PASSES,
			calibration_id: calibration?.id ?? null,
			widen: false,
			keep: {
				name: `${view.label}, ${view.rounds === 0 ? 'as hung' : `after ${view.rounds} ${view.rounds === 1 ? 'act' : 'acts'}`}`,
				build_id: this.buildId,
				setup: this.setup ?? { plane: 'feedpoint', line: null, conditions: {} }
			}
		});
		if (end.problem) throw new Refused(end.problem);
		const kept = end.found?.sweep;
		if (kept) {
			await this.log(
				{ kind: 'reading', link: view.link, reading: { kind: 'sweep' } },
				{ sweep_id: kept.id }
			);
		}
	}

	/** What hands did to the wire, done to the simulated one. */
	private async hang(view: TrimOut): Promise<void> {
		const link = view.links[view.link];
		if (!link || !view.hung) return;
		const planned = view.planned;
		if (planned) {
			const { antenna, unun } = planned;
			// Of several bands at once each has its wire; of a set the one that is trimmed.
			const links = planned.together ? view.links : [link];
			const hands = links.map((l) => ({
				near_hz: l.target_hz,
				leg_m: l.leg_m,
				folded_m: l.folded_m
			}));
			await answer(api.PUT('/api/analyser/bench/hung', { body: { antenna, hands, unun } }));
			return;
		}
		// A loop is trimmed there as the dipole of the same frequency.
		const share = view.form === 'loop' ? LEG_OF_LOOP : 1;
		await answer(
			api.PUT('/api/analyser/bench', {
				body: {
					thing: NEW_WIRE,
					leg_m: share * link.leg_m,
					folded_m: share * link.folded_m
				}
			})
		);
	}
}
