/** What is typed into a field until it is taken or refused; the newest text counts. */
import { Refused } from '../api/client';
import { settling } from './settling.svelte';

/** Takes a text; `current` says whether nothing newer was typed meanwhile. Throws `Refused`. */
type Take = (text: string, current: () => boolean) => unknown;

export class Typed {
	/** What stands in the field and is not taken; null when the value does. */
	text = $state<string | null>(null);
	/** Why it was refused. */
	problem = $state<string | null>(null);
	/** What was most likely meant, offered in one press. */
	meant = $state<string | null>(null);
	#shown: () => string;
	#take: Take;
	/** The settling that is under way, of which text, and the how manyth it is. */
	#taking: Promise<void> | null = null;
	#asked: string | null = null;
	#newest = 0;

	constructor(shown: () => string, take: Take) {
		this.#shown = shown;
		this.#take = take;
	}

	/** Acts wait for the field under this name from now on, until what is returned is called. */
	join(label: string, element: () => HTMLElement | undefined): () => void {
		return settling.join({
			label,
			element,
			typed: () => this.open,
			settle: () => this.settle(),
			drop: () => this.drop()
		});
	}

	/** What an act has to wait for. */
	get open(): string | null {
		return this.text === this.#shown() ? null : this.text;
	}

	drop(): void {
		this.text = this.problem = this.meant = null;
	}

	settle(): Promise<void> {
		const text = this.open;
		if (text === null) {
			this.text = this.problem = null;
			return Promise.resolve();
		}
		if (this.#taking && this.#asked === text) return this.#taking;
		this.#asked = text;
		const mine = ++this.#newest;
		const taking = this.#taken(text, mine).finally(() => {
			if (mine === this.#newest) this.#taking = this.#asked = null;
		});
		this.#taking = taking;
		return taking;
	}

	async #taken(text: string, mine: number): Promise<void> {
		const current = () => mine === this.#newest;
		try {
			await this.#take(text, current);
			if (!current()) return;
			this.problem = null;
			if (this.text === text) this.text = null;
		} catch (why) {
			if (!(why instanceof Refused)) throw why;
			if (!current()) return;
			this.problem = why.message;
			this.meant = why.problem.suggested ?? null;
		}
	}
}
