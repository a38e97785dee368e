/** Which window lies over the page: quick-find, the keys, or none. */
class Panels {
	shown = $state<'find' | 'keys' | null>(null);

	open(panel: 'find' | 'keys'): void {
		this.shown = panel;
	}

	close(): void {
		this.shown = null;
	}
}

export const panels = new Panels();
