/** What quick-find looks through, and in which order it is offered. */

export interface Found {
	name: string;
	/** What kind of thing it is, and where. */
	detail: string;
	href: string;
}

/** Things whose name or detail holds every word; those whose name begins with the first word come first. */
export function search(all: Found[], text: string): Found[] {
	const words = text.toLowerCase().split(/\s+/).filter(Boolean);
	const rank = (f: Found) => {
		const name = f.name.toLowerCase();
		const first = words[0] ?? '';
		return name.startsWith(first) ? 0 : name.includes(first) ? 1 : 2;
	};
	return all
		.filter((f) => words.every((w) => `${f.name} ${f.detail}`.toLowerCase().includes(w)))
		.sort((a, b) => rank(a) - rank(b))
		.slice(0, 12);
}
