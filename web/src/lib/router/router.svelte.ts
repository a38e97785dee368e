/** Where the page is: path and query, swapped together so that no page sees half of another's address. */
interface Place {
	path: string;
	query: URLSearchParams;
}

function here(): Place {
	return { path: location.pathname, query: new URLSearchParams(location.search) };
}

class Router {
	place = $state.raw<Place>(here());

	constructor() {
		addEventListener('popstate', () => (this.place = here()));
	}

	/** Goes somewhere; `replace` for what a drag leaves behind. */
	go(address: string, replace = false): void {
		if (replace) history.replaceState(null, '', address);
		else history.pushState(null, '', address);
		this.place = here();
	}

	/** Changes the query of the present page without a new entry in the history. */
	note(changes: Record<string, string | null>): void {
		const query = new URLSearchParams(location.search);
		for (const [name, value] of Object.entries(changes)) {
			if (value === null) query.delete(name);
			else query.set(name, value);
		}
		const text = query.toString();
		history.replaceState(null, '', location.pathname + (text ? `?${text}` : ''));
	}
}

export const router = new Router();

/** Lets plain links stay inside the page; the browser keeps those with a modifier. */
export function follow(event: MouseEvent): void {
	const link = (event.target as HTMLElement).closest('a');
	if (!link || link.origin !== location.origin || link.hasAttribute('download')) return;
	if (link.pathname.startsWith('/api/')) return;
	if (event.metaKey || event.ctrlKey || event.shiftKey || event.button !== 0) return;
	event.preventDefault();
	router.go(link.pathname + link.search);
}
