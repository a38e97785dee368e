/**
 * One request in flight, and the newest wins: what is asked while it runs waits, each newer one in
 * place of the last.
 */
export class LatestRequest<Asked, Reply> {
	private waiting: { asked: Asked } | null = null;
	private running = false;

	constructor(
		private readonly send: (asked: Asked) => Promise<Reply>,
		private readonly take: (reply: Reply, asked: Asked) => void,
		private readonly refuse: (why: unknown, asked: Asked) => void
	) {}

	/** True while something is under way or waiting. */
	get busy(): boolean {
		return this.running || this.waiting !== null;
	}

	ask(asked: Asked): void {
		this.waiting = { asked };
		if (!this.running) void this.run();
	}

	private async run(): Promise<void> {
		this.running = true;
		while (this.waiting) {
			const { asked } = this.waiting;
			this.waiting = null;
			try {
				const reply = await this.send(asked);
				this.running = this.waiting !== null;
				this.take(reply, asked);
			} catch (why) {
				this.running = this.waiting !== null;
				this.refuse(why, asked);
			}
		}
		this.running = false;
	}
}
