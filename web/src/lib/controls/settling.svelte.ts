/**
 * No act reads a field that has not settled. Fields say what was typed and not yet taken; a press on a button or a
 * link waits until all are, and is not done where one of them was refused.
 */
import { tick } from 'svelte';

/** A field whose value is taken some time after it was typed. */
export interface SettlingField {
	/** Name for the eye. */
	label: string;
	/** Where it stands; presses inside it do not wait for it. */
	element: () => HTMLElement | undefined;
	/** What was typed and is not taken; null when all is. */
	typed: () => string | null;
	/** Takes what was typed; resolves when it is taken or refused. */
	settle: () => Promise<void>;
	/** Forgets what was typed. */
	drop: () => void;
}

/** What is pressed to do something or to go somewhere. */
const ACTS = 'button, a[href], [role="button"]';

const JUST_NOW_MS = 1000;

class Settling {
	/** The act that waits, by its words; null when none does. */
	waiting = $state<string | null>(null);
	/** What kept the act from being done: it was typed here and refused. */
	refused = $state.raw<{ label: string; typed: string } | null>(null);
	#fields = new Set<SettlingField>();
	#left: { label: string; text: string; at: number }[] = [];
	#act: HTMLElement | null = null;
	#passing = false;

	/** A field joins, and leaves by what is returned. */
	join(field: SettlingField): () => void {
		this.#fields.add(field);
		return () => {
			this.#fields.delete(field);
			const text = field.typed();
			if (text !== null) this.#left.push({ label: field.label, text, at: performance.now() });
			this.#left.splice(0, this.#left.length - 12);
		};
	}

	/** What stood in fields that went away just now, as when their page failed. */
	get lost(): { label: string; text: string }[] {
		return this.#left.filter((each) => performance.now() - each.at < JUST_NOW_MS);
	}

	/** A press anywhere, before anything else hears of it. */
	pressed(event: MouseEvent): void {
		if (this.#passing) return;
		const act = event.target instanceof Element ? event.target.closest<HTMLElement>(ACTS) : null;
		// What only opens a help, or belongs to a field, waits for nothing.
		if (!act || act.closest('[data-free]')) return;
		const open = this.#open(act);
		if (open.length === 0) {
			this.refused = null;
			return;
		}
		event.preventDefault();
		event.stopImmediatePropagation();
		void this.#wait(act, open);
	}

	/** The act that waits, or was refused, is not done. */
	cancel(): void {
		this.#act?.removeAttribute('aria-busy');
		this.#act = null;
		this.waiting = this.refused = null;
	}

	/** The act that was refused is done without what was typed. */
	async without(): Promise<void> {
		const act = this.#act;
		for (const field of this.#open(act)) field.drop();
		this.cancel();
		if (act) await this.#pass(act);
	}

	#open(act: HTMLElement | null): SettlingField[] {
		return [...this.#fields].filter((f) => f.typed() !== null && !f.element()?.contains(act));
	}

	async #wait(act: HTMLElement, open: SettlingField[]): Promise<void> {
		this.cancel();
		this.#act = act;
		this.waiting = act.getAttribute('aria-label') ?? act.textContent.trim();
		act.setAttribute('aria-busy', 'true');
		try {
			let before: (string | null)[];
			do {
				before = open.map((field) => field.typed());
				await Promise.all(open.map((field) => field.settle()));
				// Typed on meanwhile: that is waited for as well.
			} while (
				this.#act === act &&
				open.some((field, i) => field.typed() !== null && field.typed() !== before[i])
			);
		} catch (why) {
			this.cancel();
			throw why;
		}
		// Cancelled meanwhile, or pressed elsewhere.
		if (this.#act !== act) return;
		this.waiting = null;
		act.removeAttribute('aria-busy');
		const [left] = this.#open(act);
		if (left) {
			this.refused = { label: left.label, typed: left.typed() ?? '' };
			left.element()?.querySelector('input')?.focus();
			return;
		}
		this.#act = null;
		await this.#pass(act);
	}

	async #pass(act: HTMLElement): Promise<void> {
		// What hangs on the value is redrawn first: the act may have been out of reach without it.
		await tick();
		this.#passing = true;
		act.click();
		this.#passing = false;
	}
}

export const settling = new Settling();
