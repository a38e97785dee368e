/**
 * What a dial or a tape shows, read by this page while it cannot ask: a number with one unit, by the core's own tables.
 * Whatever else people write waits for the core's reader.
 */
import { answer, api, refused, type Schemas } from '../api/client';
import { units } from '../units/units.svelte';

export type Form = Schemas['PlainFormOut'];

/** The value in SI; null where the text is no number with one unit, or may mean two things. `bare` is the unit of none. */
export function readPlain(text: string, form: Form, bare = ''): number | null {
	const found = /^(\d+(?:[.,]\d+)?|\.\d+)\s*(\D.*)?$/u.exec(text.replaceAll('\u00a0', ' ').trim());
	const digits = found?.[1] ?? '';
	// A thousand, or a decimal.
	if (!found || /^\d{1,3},\d{3}$/.test(digits)) return null;
	const factor = form.units[(found[2] ?? '').trim() || bare];
	if (factor === undefined) return null;
	// As the core does: 0.1 + 0.2 is 0.3 to whoever typed it.
	const value = Number((Number(digits.replace(',', '.')) * factor).toPrecision(15));
	return value >= form.least && value <= form.most ? value : null;
}

class Plain {
	private forms: Record<string, Form> = {};

	/** Fetches the tables, for when nothing can be fetched. */
	async load(): Promise<void> {
		this.forms = await answer(api.GET('/api/quantities/plain'));
	}

	/** The value of a text; null of a kind that it has no table of. Refused in words where this page cannot tell. */
	read(text: string, kind: string): number | null {
		const form = this.forms[kind];
		if (!form) return null;
		const value = readPlain(text, form, kind === 'length' ? units.length : '');
		if (value !== null) return value;
		throw refused(
			`“${text.trim()}” is not understood while the computer is out of reach: write a number and its unit, as in ${form.example}.`
		);
	}
}

export const plain = new Plain();
