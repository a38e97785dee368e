/** Words about a plane that was moved. */

/** Whether the far end is known at all frequencies, at some, or at none. */
export function knownOver(
	frequencyHz: (number | null)[],
	known: boolean[]
): 'all' | 'some' | 'none' {
	const there = known.filter(Boolean).length;
	return there === frequencyHz.length || there === known.length
		? 'all'
		: there > 0
			? 'some'
			: 'none';
}

const names: Record<string, string> = {
	velocity: 'the velocity of the line',
	loss: 'its loss',
	impedance: 'its impedance',
	length: 'its length',
	reading: 'the reading itself'
};

/** What brings the doubt, largest first; nothing where there is none. */
export function sharesText(shares: { what: string; share: number }[]): string {
	const told = shares.filter((s) => s.share >= 0.05).slice(0, 2);
	if (told.length === 0) return '';
	const parts = told.map((s) => `${Math.round(100 * s.share)} % ${names[s.what] ?? s.what}`);
	return `What is not sure: ${parts.join(', ')}.`;
}

/** The one thing worth measuring. */
export function measureThis(what: string | null): string {
	const advice: Record<string, string> = {
		velocity: 'Measure the velocity of this line: two sweeps and a tape.',
		loss: 'Measure the loss of this line: sweep it with its far end open and shorted.',
		impedance: 'Measure the impedance of this line: sweep it with its far end open and shorted.',
		length: 'Measure the length of this line with a tape.',
		reading: 'Sweep again, calibrated, with more averaging.'
	};
	return (what && advice[what]) || '';
}
