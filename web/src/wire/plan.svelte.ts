/** The antenna being planned: what is drawn while it is dragged, what is kept, and the way back. */
import {
	answer,
	api,
	problemText,
	type Schemas,
	type Target,
	type WireAntenna,
	type WirePlan
} from '../lib/api/client';
import type { BuildState } from '../lib/build/buildState.svelte';
import { Latest, latest } from '../lib/api/latest.svelte';
import { units } from '../lib/units/units.svelte';
import type { Labels } from './words';
import { kinds, usualKind, usualRule, type Kind } from './kinds.svelte';

/** Covered wire as it is usually sold. */
const COVERED: WireAntenna = {
	kind: 'wire',
	antenna: 'dipole',
	numbers: {},
	stock: { diameter_m: 0.002, conductor: 'copper', covering_m: 0.0032, permittivity: 2.5 }
};

export class AntennaPlan {
	refused = $state<string | null>(null);
	private undoable = $state.raw<WirePlan[]>([]);
	private redoable = $state.raw<WirePlan[]>([]);

	constructor(
		private readonly page: BuildState,
		/** The band that is looked at. */
		private readonly target: () => Target,
		/** Whether that is another one than the antenna is kept for: then it is brought there to be shown. */
		private readonly elsewhere: () => boolean
	) {
		kinds.load();
	}

	readonly plan = $derived.by((): Partial<WirePlan> => this.page.build.wire ?? {});
	readonly form = $derived(this.plan.form ?? 'dipole');
	/** A plan without an antenna begins with the usual one of its form. */
	private readonly given = latest(
		() =>
			this.plan.antenna
				? null
				: {
						antenna:
							this.form === 'loop' && this.plan.corners === 3 ? 'triangle' : usualKind[this.form],
						target: this.target(),
						others: this.others,
						like: this.plan.covered ? COVERED : null
					},
		(body) => answer(api.POST('/api/structures/starts', { body })),
		{ keeps: true }
	);
	private readonly own = $derived<WireAntenna | null>(this.plan.antenna ?? this.given.value);
	private readonly brought = latest(
		() =>
			this.plan.antenna && this.elsewhere()
				? {
						antenna: this.plan.antenna,
						target: this.target(),
						feed_ohm: this.plan.feed_ohm ?? null
					}
				: null,
		(body) => answer(api.POST('/api/structures/tunings', { body }))
	);
	readonly antenna = $derived.by((): WireAntenna | null =>
		this.plan.antenna && this.elsewhere() ? this.brought.value : this.own
	);
	readonly kind = $derived<Kind | undefined>(kinds.get(this.antenna?.antenna));
	readonly labels = $derived(
		Object.fromEntries((this.kind?.numbers ?? []).map((n) => [n.name, n])) as Labels
	);

	/** Roughly, as it stands or is dragged. */
	readonly sketch = latest(
		() => (this.antenna ? this.asked(this.antenna) : null),
		(body: Schemas['SketchIn']) => answer(api.POST('/api/structures/sketches', { body })),
		{ keeps: true }
	);
	/** In full, as it stands. */
	readonly study = latest(
		() => (this.antenna ? this.inFull(this.antenna) : null),
		(body: Schemas['StudyIn']) => answer(api.POST('/api/structures/studies', { body })),
		{ keeps: true }
	);

	get powerW(): number {
		return this.page.build.power_w;
	}

	private asked(antenna: WireAntenna): Schemas['SketchIn'] {
		return {
			antenna,
			target: this.target(),
			power_w: this.powerW,
			feed_ohm: this.plan.feed_ohm ?? null,
			unit: units.length
		};
	}

	/** The other bands of the build. */
	get others(): Target[] {
		const target = this.target();
		return this.page.build.targets.filter((t) => t !== target);
	}

	private inFull(antenna: WireAntenna): Schemas['StudyIn'] {
		return {
			...this.asked(antenna),
			others: this.others,
			added: this.plan.added ?? 0.045,
			pull_n: this.plan.pull_n ?? null,
			recipe: this.plan.recipe ?? null
		};
	}

	/** Whether what was told in full is of the antenna as it stands. */
	readonly full = $derived.by(() => {
		const asked = this.study.question?.antenna;
		return !this.study.loading && asked && this.study.value && this.dragged === null
			? this.study.value
			: null;
	});
	/** What was told in full of such an antenna before. */
	readonly before = $derived.by(() => {
		const told = this.study.value;
		return told?.sketch.antenna.antenna === this.antenna?.antenna ? told : null;
	});
	/** Dragged, and not yet let go. */
	dragged = $state.raw<WireAntenna | null>(null);
	readonly shown = $derived(this.full?.sketch ?? this.sketch.value);

	/** Apart from `sketch`: what was kept before asks there anew, and would overtake a place that is on its way. */
	private readonly drags = new Latest(
		(body: Schemas['SketchIn']) => answer(api.POST('/api/structures/sketches', { body })),
		{ took: (reply, body) => this.sketch.take(body, reply) }
	);
	private moves = 0;
	/** Whether a place is on its way, or what it came to is not kept yet. */
	get moving(): boolean {
		return this.dragged !== null;
	}

	/** A place is taken along; kept when let go. */
	async move(handle: string, xM: number, zM: number, settled: boolean): Promise<void> {
		const antenna = this.antenna;
		if (!antenna) return;
		const body = { ...this.asked(antenna), drag: { handle, x_m: xM, z_m: zM } };
		const mine = ++this.moves;
		this.dragged = this.dragged ?? antenna;
		try {
			const found = await this.drags.ask(body, !settled);
			if (settled && found) await this.keep({ antenna: found.antenna });
			this.refused = null;
		} catch (why) {
			this.refused = problemText(why);
			// What cannot be stays where it was.
			this.sketch.show(this.asked(antenna));
		} finally {
			// Moved on meanwhile: that one ends it.
			if (settled && mine === this.moves) this.dragged = null;
		}
	}

	private last: Promise<unknown> = Promise.resolve();

	/** Keeps other numbers, another wire, other soil. Throws what refuses it, for the field to say. */
	change(edit: (antenna: WireAntenna) => WireAntenna): Promise<void> {
		return this.keep((antenna) => ({ antenna: edit(antenna) }));
	}

	/** One after the other: each builds on what the one before it left, however fast they come. */
	keep(given: Partial<WirePlan> | ((antenna: WireAntenna) => Partial<WirePlan>)): Promise<void> {
		const next = this.last.then(() => {
			const now = this.antenna ?? this.own;
			if (typeof given !== 'function') return this.kept(given);
			return now ? this.kept(given(now)) : undefined;
		});
		this.last = next.catch(() => undefined);
		return next;
	}

	private async kept(given: Partial<WirePlan>): Promise<void> {
		const changes = { ...given };
		const name = this.kind?.tuned_by;
		const before = name ? this.own?.numbers[name] : undefined;
		// What was only brought to this band keeps the length that it has on its own one.
		if (changes.antenna && this.elsewhere() && name && before !== undefined)
			changes.antenna = {
				...changes.antenna,
				numbers: { ...changes.antenna.numbers, [name]: before }
			};
		const now = this.plan as WirePlan;
		const kept = this.page.build.wire !== null;
		await this.page.change({ wire: this.told({ ...now, ...changes }) as WirePlan });
		if (kept) this.undoable = [...this.undoable.slice(-49), now];
		this.redoable = [];
	}

	/** What is kept always says what rules ask: the form that it is cut by, its covering, its corners. */
	private told(plan: Partial<WirePlan>): Partial<WirePlan> {
		const { antenna } = plan;
		if (!antenna) return this.kind ? { ...plan, form: this.kind.form } : plan;
		const form = kinds.get(antenna.antenna)?.form ?? plan.form;
		const corners = antenna.antenna === 'triangle' ? 3 : 4;
		return { ...plan, form, corners, covered: Boolean(antenna.stock?.covering_m) };
	}

	private kindsAsked = 0;
	/** Another kind, in the same wire over the same soil, brought to the band. */
	async become(key: string): Promise<void> {
		const kind = kinds.get(key);
		if (!kind) return;
		const mine = ++this.kindsAsked;
		await this.attempt(async () => {
			const antenna = await answer(
				api.POST('/api/structures/starts', {
					body: {
						antenna: kind.key,
						target: this.target(),
						others: this.others,
						like: this.antenna
					}
				})
			);
			// Another kind was chosen meanwhile: that one counts.
			if (mine !== this.kindsAsked) return;
			const { form } = kind;
			const same = this.plan.form === form;
			await this.keep({
				antenna,
				form,
				rule: same ? this.plan.rule : usualRule(kind),
				arrangement: kind.bands > 1 ? kind.arrangement : this.plan.arrangement,
				recipe: null,
				feed_ohm: null
			});
		});
	}

	/** Its numbers as they dip in the middle of the band. */
	async bring(): Promise<void> {
		const tuned = this.full?.tuned;
		if (!tuned) return;
		await this.attempt(async () => this.keep({ antenna: await this.together(tuned) }));
	}

	/** A kind that serves two bands at once dips on the other one as well. */
	private async together(antenna: WireAntenna): Promise<WireAntenna> {
		if ((this.kind?.bands ?? 1) < 2 || !this.others.length) return antenna;
		const feed_ohm = this.plan.feed_ohm ?? null;
		const body = { antenna, target: this.target(), others: this.others, feed_ohm };
		return answer(api.POST('/api/structures/tunings', { body }));
	}

	async attempt(act: () => Promise<unknown>): Promise<void> {
		try {
			await act();
			this.refused = null;
		} catch (why) {
			this.refused = problemText(why);
		}
	}

	get canUndo(): boolean {
		return this.undoable.length > 0;
	}
	get canRedo(): boolean {
		return this.redoable.length > 0;
	}

	/** One step back or forward. */
	async walk(way: 'undo' | 'redo'): Promise<void> {
		const [from, to] =
			way === 'undo' ? [this.undoable, this.redoable] : [this.redoable, this.undoable];
		const plan = from.at(-1);
		if (!plan) return;
		const now = this.plan as WirePlan;
		await this.attempt(async () => {
			await this.page.change({ wire: plan });
			const [rest, more] = [from.slice(0, -1), [...to, now]];
			[this.undoable, this.redoable] = way === 'undo' ? [rest, more] : [more, rest];
		});
	}
}
