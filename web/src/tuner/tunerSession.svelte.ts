/** At a tuner: its dials, what the analyser shows at its input, what the next turn is; on the simulated bench or one's own. */

import { AnalyserSession } from '../analyser/analyserSession.svelte';
import type { Tuner } from '../design/content';
import { answer, api, type Schemas } from '../lib/api/client';
import { Latest } from '../lib/api/latest.svelte';
import { type Advice, type Control, controlsOf, type Dials, fields } from './words';

export type Seen = Schemas['SeenIn'];
export type Round = Schemas['TunerRoundOut'];
export type Aim = 'middle' | 'band';
type Step = Schemas['StepOut'];

/** Passes of a sweep while turning, and for the record; points of each. */
const FAST = 1;
const AVERAGED = 16;
const POINTS = 41;
/** Settings before the present one that are told, and earlier sweeps of it that are: a long practice has more. */
const TOLD = 40;
const STOOD = 20;
/** Over which the practice bench is calibrated: every band of its rounds. */
const CALIBRATED = { name: 'Tuner practice', low_hz: 5e6, high_hz: 26e6, points: 301 };

export class TunerSession {
	readonly bench = new AnalyserSession();
	rounds = $state.raw<Round[]>([]);
	round = $state(0);
	level = $state<'easy' | 'hard'>('easy');
	tuner = $state.raw<Tuner>({ kind: 'tuner', key: 'tuner', place: 'through', network: 'tee' });
	dials = $state.raw<Dials>({ side: 'tee', output_f: 80e-12, coil_h: 2e-6, input_f: 80e-12 });
	inLine = $state(true);
	aim = $state<Aim>('middle');
	/** The band that is swept. */
	band = $state.raw({ low_hz: 14e6, high_hz: 14.35e6 });
	/** Every setting that was left, with its newest sweep: one's own way. */
	way = $state.raw<Seen[]>([]);
	/** Earlier sweeps of the setting that stands now. */
	private stood: Seen[] = [];
	/** What the analyser shows now. */
	now = $state.raw<Seen | null>(null);
	averaged = $state(false);
	/** The shortest way, once one is there. */
	shortest = $state.raw<Step[] | null>(null);
	ready = $state(false);
	private readonly advices = new Latest(
		(body: Schemas['AdviceIn']) => answer(api.POST('/api/tuners/advice', { body })),
		{ keeps: true }
	);
	private turning = false;
	/** Counts antennas, tuners and bands: what was swept before another one came is not its. */
	private era = 0;
	private again: { settled: boolean } | null = null;

	get advice(): Advice | null {
		return this.advices.value;
	}

	get practising(): boolean {
		return this.bench.analyser?.kind === 'simulated';
	}

	get problem(): string | null {
		return this.bench.problem ?? this.advices.problem;
	}

	get present(): Round | undefined {
		return this.rounds.length ? this.rounds[this.round % this.rounds.length] : undefined;
	}

	get controls(): Control[] {
		return controlsOf(this.tuner.network);
	}

	/** Between which values a control can be set. */
	stops(control: Control): [number, number] {
		const t = this.tuner;
		if (control === 'coil') return [t.coil_low_h ?? 0.15e-6, t.coil_high_h ?? 25e-6];
		if (control === 'output') return [t.output_low_f ?? 15e-12, t.output_high_f ?? 250e-12];
		return [t.input_low_f ?? 15e-12, t.input_high_f ?? 250e-12];
	}

	/** Looks at what is connected; on the simulated bench the first antenna is put on. */
	async load(): Promise<void> {
		await this.bench.attempt(async () => {
			const [, rounds] = await Promise.all([
				this.bench.load(),
				answer(api.GET('/api/analyser/bench/tuner/rounds'))
			]);
			this.rounds = rounds;
			if (this.bench.analyser?.connected) await this.start(0);
		});
	}

	/** Connects the simulated bench, and calibrates it at the tuner's input. */
	async practise(): Promise<void> {
		await this.bench.attempt(async () => {
			await this.bench.connect('simulated');
			await this.start(0);
		});
	}

	private async calibrate(): Promise<void> {
		const { bench } = this;
		const known = bench.calibrations.find(
			(c) => c.name === CALIBRATED.name && c.complete && c.age_h < 6
		);
		if (known) {
			bench.choose(known.id);
			return;
		}
		const made = await answer(
			api.POST('/api/calibrations', { body: { ...CALIBRATED, plane: "the tuner's input" } })
		);
		for (const standard of ['short', 'open', 'load'] as const) {
			await bench.screwOn(standard);
			await bench.sweep({ kind: 'standard', calibration_id: made.id, standard, passes: 4 });
		}
		await bench.load();
		bench.choose(made.id);
	}

	/** Begins with an antenna: the dials stand somewhere, and every third time the tuner is out of line. */
	async start(round: number): Promise<void> {
		this.round = round;
		this.era += 1;
		this.way = [];
		this.now = this.shortest = null;
		this.advices.clear();
		if (this.practising) {
			await this.calibrate();
			const place = this.present;
			if (place) this.band = { low_hz: place.low_hz, high_hz: place.high_hz };
			this.inLine = round % 3 !== 2;
			this.dials = {
				side: this.tuner.network === 'ell' ? 'antenna' : 'tee',
				output_f: this.somewhere('output', 0.62 + 0.29 * round),
				coil_h: this.somewhere('coil', 0.37 + 0.41 * round),
				input_f: this.somewhere('input', 0.48 + 0.17 * round)
			};
		}
		this.ready = true;
		await this.look(true);
	}

	/** A place between the stops, by a share of the way whose whole part does not count. */
	private somewhere(control: Control, share: number): number {
		const [low, high] = this.stops(control);
		return low * (high / low) ** (share % 1);
	}

	/** Turns a dial; let go, it counts as a turn. */
	turn(control: Control, value: number, settled: boolean): void {
		this.dials = { ...this.dials, [fields[control]]: value };
		void this.bench.attempt(() => this.look(settled));
	}

	/** Switches the capacitor of an L to the other side. */
	switchTo(side: 'antenna' | 'radio'): void {
		this.dials = { ...this.dials, side };
		void this.bench.attempt(() => this.look(true));
	}

	putInLine(inLine: boolean): void {
		this.inLine = inLine;
		this.era += 1;
		// What was seen so far was seen of the antenna alone.
		this.way = [];
		this.advices.clear();
		void this.bench.attempt(() => this.look(true));
	}

	aimAt(aim: Aim): void {
		this.aim = aim;
		this.ask();
	}

	/** Another tuner, or another band: what was seen before tells nothing of it. */
	become(changes: { tuner?: Tuner; band?: { low_hz: number; high_hz: number } }): void {
		if (changes.tuner) {
			this.tuner = changes.tuner;
			const inside = (control: Control) => {
				const [low, high] = this.stops(control);
				return Math.min(high, Math.max(low, this.dials[fields[control]] ?? low));
			};
			this.dials = {
				side: changes.tuner.network === 'ell' ? 'antenna' : 'tee',
				output_f: changes.tuner.network === 'ell' ? null : inside('output'),
				coil_h: inside('coil'),
				input_f: inside('input')
			};
		}
		if (changes.band) this.band = changes.band;
		this.era += 1;
		this.way = [];
		this.shortest = null;
		void this.bench.attempt(() => this.look(true));
	}

	/** One sweep for the record, averaged. */
	record(): void {
		void this.bench.attempt(async () => {
			const { era } = this;
			const seen = await this.sweep(AVERAGED);
			if (!seen || era !== this.era) return;
			this.averaged = true;
			this.now = seen;
			this.left(seen);
		});
	}

	/** Turns the bench's dials and sweeps; the newest dials count, those in between are passed over. */
	async look(settled: boolean): Promise<void> {
		if (this.turning) {
			this.again = { settled: settled || (this.again?.settled ?? false) };
			return;
		}
		this.turning = true;
		try {
			let next: { settled: boolean } | null = { settled };
			while (next) {
				this.again = null;
				const { dials, era } = this;
				if (this.practising) await this.tune(dials);
				const seen = await this.sweep(FAST);
				// Turned on meanwhile: that sweep follows.
				const later = this.again as { settled: boolean } | null;
				if (seen && era === this.era) {
					this.averaged = false;
					this.now = seen;
					if (next.settled) this.left(seen);
				}
				next = later;
			}
		} finally {
			this.turning = false;
		}
	}

	/** A setting that was left standing: one more turn of one's way, or the same one seen anew. */
	private left(seen: Seen): void {
		const last = this.way[this.way.length - 1];
		const same = last && JSON.stringify(last.dials) === JSON.stringify(seen.dials);
		this.stood = same ? [...this.stood, last].slice(-STOOD) : [];
		this.way = [...(same ? this.way.slice(0, -1) : this.way), seen];
		this.ask();
	}

	private ask(): void {
		const { tuner, way, aim } = this;
		const [begun, ...turned] = way;
		if (!begun) return;
		const last = way.length - 1;
		const seen = [...way.slice(Math.max(0, last - TOLD), last), ...this.stood, ...way.slice(last)];
		this.advices
			.ask({ tuner, seen, aim })
			.then(async (said) => {
				const found =
					said?.kind === 'there' && way.length > 1
						? await answer(
								api.POST('/api/tuners/ways', {
									body: { tuner, seen: [begun, ...turned.slice(-TOLD)] }
								})
							)
						: null;
				// Turned on meanwhile, or another antenna: that way is another one.
				if (way === this.way) this.shortest = found;
			})
			.catch(() => undefined);
	}

	private async tune(dials: Dials): Promise<void> {
		await this.bench.put(() =>
			answer(
				api.PUT('/api/analyser/bench/tuner', {
					body: {
						round: this.round,
						level: this.level,
						tuner: this.tuner,
						dials,
						in_line: this.inLine
					}
				})
			)
		);
	}

	private async sweep(passes: number): Promise<Seen | null> {
		const { dials, band } = this;
		const last = await this.bench.sweep({
			kind: 'sweep',
			...band,
			points: POINTS,
			passes,
			calibration_id: this.bench.calibrationId
		});
		const curves = last.found?.curves;
		if (!curves) return null;
		const numbers = (row: (number | null)[]) => row.map((v) => Math.max(-2, Math.min(2, v ?? 0)));
		return {
			dials,
			frequency_hz: curves.frequency_hz.map((hz) => hz ?? 0),
			gamma_real: numbers(curves.gamma_real),
			gamma_imag: numbers(curves.gamma_imag)
		};
	}

	close(): void {
		this.bench.close();
	}
}
