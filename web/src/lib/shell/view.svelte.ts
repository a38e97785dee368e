/** How this browser shows things; kept in the browser alone. */

export const themes = [
	['', 'as the system'],
	['day', 'day'],
	['night', 'night'],
	['outdoors', 'outdoors']
] as const;
export type Theme = (typeof themes)[number][0];

function kept(name: string): string {
	try {
		return localStorage.getItem(name) ?? '';
	} catch {
		return '';
	}
}

function keep(name: string, value: string): void {
	try {
		localStorage.setItem(name, value);
	} catch {
		// A browser that keeps nothing still shows it.
	}
}

class View {
	theme = $state<Theme>(themes.find(([t]) => t === kept('theme'))?.[0] ?? '');
	/** Whether single keys act. */
	keys = $state(kept('keys') !== 'off');

	/** Gives the page its theme. */
	apply(): void {
		if (this.theme) document.documentElement.dataset.theme = this.theme;
		else delete document.documentElement.dataset.theme;
	}

	choose(theme: Theme): void {
		this.theme = theme;
		keep('theme', theme);
		this.apply();
	}

	switchKeys(on: boolean): void {
		this.keys = on;
		keep('keys', on ? 'on' : 'off');
	}
}

export const view = new View();

/** Whether a single key may act: not while something is typed, not with a modifier, not when switched off. */
export function singleKey(event: KeyboardEvent): boolean {
	if (!view.keys || event.ctrlKey || event.metaKey || event.altKey) return false;
	const target = event.target as HTMLElement;
	if (target.closest('dialog[open]')) return false;
	return !['INPUT', 'SELECT', 'TEXTAREA'].includes(target.tagName);
}
