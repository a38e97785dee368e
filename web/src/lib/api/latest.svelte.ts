/** Asking again and again as a question changes: the one way in which a page fetches what it shows. */

import { untrack } from 'svelte';

import { isAway, Refused } from './client';
import { server } from './server.svelte';

interface More<Question, Reply> {
	/** Called with each answer that counts, in the order of its question. */
	took?: (reply: Reply, question: Question) => void;
	/** Whether the old picture stays when the newest question is refused; left out, it goes. */
	keeps?: boolean;
}

/**
 * The newest question wins: an answer to an older one never lands, and until the newest is there the
 * old picture stays. While something is dragged one question is under way at a time, the newest
 * waiting one follows it, and the pictures in between are shown as they come.
 */
export class Latest<Question, Reply> {
	/** The newest answer. */
	value = $state.raw<Reply | null>(null);
	/** Why the newest question was refused; null when it was not. */
	problem = $state<string | null>(null);
	/** Whether an answer is awaited. */
	loading = $state(false);
	/** The newest question. */
	question: Question | null = null;
	private asked = 0;
	private answered = 0;
	/** Answers to questions before this one do not count any more. */
	private since = 0;
	private underWay = 0;
	private waiting: ((go: boolean) => void) | null = null;

	constructor(
		private readonly send: (question: Question) => Promise<Reply>,
		private readonly more: More<Question, Reply> = {}
	) {}

	/**
	 * Asks. Gives the answer, or null when a newer question was asked meanwhile; throws `Refused` when
	 * the newest is refused. While nothing answers it is asked again as soon as something does.
	 */
	async ask(question: Question, dragged = false): Promise<Reply | null> {
		const mine = ++this.asked;
		this.question = question;
		this.loading = true;
		this.follow(false);
		if (!dragged) this.since = mine;
		else if (this.underWay > 0 && !(await new Promise<boolean>((go) => (this.waiting = go)))) {
			return null;
		}
		this.underWay += 1;
		try {
			const reply = await this.send(question);
			if (mine < this.since || mine < this.answered) return null;
			this.answered = mine;
			this.value = reply;
			this.problem = null;
			this.more.took?.(reply, question);
			return reply;
		} catch (why) {
			if (mine !== this.asked) return null;
			if (!(why instanceof Refused)) throw why;
			if (isAway(why.problem)) void server.back().then(() => this.asked === mine && this.again());
			else {
				this.problem = why.message;
				if (!this.more.keeps) this.value = null;
			}
			throw why;
		} finally {
			this.underWay -= 1;
			if (mine === this.asked) this.loading = false;
			if (this.underWay === 0) this.follow(true);
		}
	}

	/** Lets the waiting question go, or tells it that it was overtaken. */
	private follow(go: boolean): void {
		const waiting = this.waiting;
		this.waiting = null;
		waiting?.(go);
	}

	/** Asks where nobody waits for the answer: a refusal is told by `problem`. */
	show(question: Question, dragged = false): void {
		this.ask(question, dragged).catch((why: unknown) => {
			if (!(why instanceof Refused)) throw why;
		});
	}

	/** The same question anew, as after something that it hangs on was changed. */
	again(): void {
		if (this.question !== null) this.show(this.question);
	}

	/** An answer that came another way: it counts as the newest, and what is under way does not land. */
	take(question: Question, reply: Reply): void {
		this.since = this.answered = ++this.asked;
		this.question = question;
		this.value = reply;
		this.problem = null;
		this.loading = false;
	}

	/** What is under way does not land any more; the picture stays. */
	drop(): void {
		this.since = ++this.asked;
		this.loading = false;
	}

	/** Nothing is asked any more, and nothing shown. */
	clear(): void {
		this.drop();
		this.question = this.value = this.problem = null;
	}
}

/** A `Latest` that follows what its component asks: null asks nothing and shows nothing. */
export function latest<Question, Reply>(
	question: () => Question | null,
	send: (question: Question) => Promise<Reply>,
	more: More<Question, Reply> = {}
): Latest<Question, Reply> {
	const asking = new Latest(send, more);
	$effect(() => {
		const asked = question();
		const text = JSON.stringify(asked);
		untrack(() => {
			if (asked === null) asking.clear();
			else if (text !== JSON.stringify(asking.question)) asking.show(asked);
		});
	});
	return asking;
}
