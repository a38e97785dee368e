/** Whether the application answers; while it does not, it is asked again every second and a half. */
class Server {
	/** What the page says while nothing answers; null while all is well. */
	gone = $state<string | null>(null);
	private waiting: (() => void)[] = [];
	private asking = false;

	/** Notes how a request went: what to say when it did not get through, null when it did. */
	note(gone: string | null): void {
		if (gone === null) return this.asking ? undefined : void (this.gone = null);
		this.gone = gone;
		if (!this.asking) void this.ask();
	}

	/** Resolves when the application answers again; at once while it does. */
	back(): Promise<void> {
		if (this.gone === null) return Promise.resolve();
		return new Promise((done) => this.waiting.push(done));
	}

	private async ask(): Promise<void> {
		this.asking = true;
		while (this.gone !== null) {
			await new Promise((done) => setTimeout(done, 1500));
			try {
				// Settings lie in the database: this answers only when both are there.
				const got = await fetch('/api/settings', { signal: AbortSignal.timeout(10_000) });
				if (got.ok && !got.headers.has('x-kept-at')) this.gone = null;
			} catch {
				// Still away: ask again.
			}
		}
		this.asking = false;
		for (const done of this.waiting.splice(0)) done();
	}
}

export const server = new Server();
