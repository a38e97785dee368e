/** What the design on the rulers predicts: its curves, and after them how many builds hold. */

import { answer, api, type Content, type Prediction, type Yield } from '../lib/api/client';
import { afterPaint } from '../lib/api/afterPaint';
import { predict } from '../lib/api/predict';
import { Latest } from '../lib/api/latest.svelte';
import type { Frame } from './frame';

interface Question extends Frame {
	content: Content;
	settled: boolean;
}

const settledPoints = 201;
const draggedPoints = 101;
const settledBuilds = 2048;
const draggedBuilds = 256;

export class Predicted {
	private readonly curves = new Latest<Question, Prediction>(
		({ settled, ...asked }) =>
			predict({ ...asked, points: settled ? settledPoints : draggedPoints, carried: false }),
		// The builds come after the curves: together they would hold each other up.
		{ keeps: true, took: (_, question) => this.builds.show(question, !question.settled) }
	);
	private readonly builds = new Latest<Question, Yield>(
		({ settled, ...asked }) =>
			// The curves are painted first: a busy server would hold them up on a small computer.
			answer(
				afterPaint().then(() =>
					api.POST('/api/yields', {
						body: {
							...asked,
							points: 81,
							builds: settled ? settledBuilds : draggedBuilds,
							trimmed: settled
						}
					})
				)
			),
		{ keeps: true }
	);

	get prediction(): Prediction | null {
		return this.curves.value;
	}

	get yielded(): Yield | null {
		return this.builds.value;
	}

	get problem(): string | null {
		return this.curves.problem ?? this.builds.problem;
	}

	/** Asks what a design predicts: roughly while it is dragged, in full when it is settled. */
	ask(content: Content, frame: Frame, settled: boolean): void {
		// Builds of what stood there before do not land beside what stands there now.
		if (settled) this.builds.drop();
		this.curves.show({ content, ...frame, settled }, !settled);
	}
}
