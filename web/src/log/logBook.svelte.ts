/** The line of time as a page reads it: newest first, a piece at a time, what is filtered asked for anew. */

import { answer, api } from '../lib/api/client';
import { Latest } from '../lib/api/latest.svelte';
import type { Group, Logged } from './logWords';

interface Question {
	buildId: string | null;
	groups: Group[];
	text: string;
	/** How many are shown at the least: what one scrolled to stays when something is added. */
	most: number;
}

const PIECE = 60;
const MOST = 200;

export class LogBook {
	items = $state.raw<Logged[]>([]);
	whole = $state<number | null>(null);
	private older = $state<string | null>(null);
	private reading = $state(false);
	groups = $state.raw<Group[]>([]);
	text = $state('');
	everywhere = $state(false);
	private readonly first = new Latest<Question, void>((asked) => this.read(asked));

	constructor(private readonly buildId: string) {}

	get problem(): string | null {
		return this.first.problem;
	}

	/** Whether there is more further back. */
	get more(): boolean {
		return this.older !== null;
	}

	get loaded(): boolean {
		return this.first.question !== null && !this.first.loading;
	}

	/** Reads the newest anew, as after something was told. */
	again(): void {
		this.first.show({
			buildId: this.everywhere ? null : this.buildId,
			groups: this.groups,
			text: this.text,
			most: Math.min(MOST, Math.max(PIECE, this.items.length))
		});
	}

	private async ask(asked: Omit<Question, 'most'>, limit: number, before: string | null) {
		return answer(
			api.GET('/api/log', {
				params: {
					query: {
						...(asked.buildId ? { build_id: asked.buildId } : {}),
						...(before ? { before } : {}),
						groups: asked.groups,
						text: asked.text,
						limit
					}
				}
			})
		);
	}

	private async read(asked: Question): Promise<void> {
		const found = await this.ask(asked, asked.most, null);
		if (this.first.question !== asked) return;
		this.items = found.items;
		this.older = found.older;
		this.whole = found.whole;
	}

	/** Reads on, further back. */
	async further(): Promise<void> {
		const asked = this.first.question;
		if (!asked || this.older === null || this.reading) return;
		this.reading = true;
		try {
			const found = await this.ask(asked, PIECE, this.older);
			// What was asked for anew meanwhile is another line.
			if (this.first.question !== asked) return;
			this.items = [...this.items, ...found.items];
			this.older = found.older;
		} finally {
			this.reading = false;
		}
	}

	toggle(group: Group): void {
		this.groups = this.groups.includes(group)
			? this.groups.filter((g) => g !== group)
			: [...this.groups, group];
		this.items = [];
		this.again();
	}

	find(text: string): void {
		this.text = text;
		this.items = [];
		this.again();
	}

	lookEverywhere(everywhere: boolean): void {
		this.everywhere = everywhere;
		this.items = [];
		this.again();
	}
}
