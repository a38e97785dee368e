/** The networks that match this antenna over these targets, each at its best. */

import { answer, api, type Candidate, type Content } from '../lib/api/client';
import { Latest } from '../lib/api/latest.svelte';
import { isWound, makingOf, sameShape, shapeOf } from './content';

/** The L networks at their best over the targets, or exact at one frequency; made as the parts in hand are. */
export function networksFor(
	content: Content,
	power_w: number,
	at_hz: number | null = null
): Promise<Candidate[]> {
	return answer(
		api.POST('/api/matches', {
			body: {
				content,
				power_w,
				at_hz,
				template: makingOf(content)
			}
		})
	);
}

export class Compared {
	private readonly networks = new Latest<{ content: Content; power_w: number }, Candidate[]>(
		({ content, power_w }) => networksFor(content, power_w),
		{ keeps: true }
	);
	/** What is wound on a ring is no L network: there is nothing to compare it with. */
	private none = $state(false);

	/** The candidates, best first; null until they are known. */
	get candidates(): Candidate[] | null {
		return this.none ? [] : this.networks.value;
	}

	get problem(): string | null {
		return this.networks.problem;
	}

	/** Compares anew. */
	ask(content: Content, power_w: number): void {
		this.none = content.elements.some(isWound);
		if (!this.none) this.networks.show({ content, power_w });
	}

	/** The network of the same shape, at its best. */
	like(content: Content): Candidate | undefined {
		const shape = shapeOf(content);
		return this.candidates?.find((c) => sameShape(c, shape));
	}
}
