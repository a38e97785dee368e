/** The stages of the work, in order; those with a desk can be gone to. */
export const stages = [
	{ key: 'wire', name: 'Wire', desk: true },
	{ key: 'sweep', name: 'Sweep', desk: true },
	{ key: 'match', name: 'Match', desk: true },
	{ key: 'wind', name: 'Wind', desk: true },
	{ key: 'predict', name: 'Predict', desk: true },
	{ key: 'build', name: 'Build', desk: true },
	{ key: 'trim', name: 'Trim', desk: true },
	{ key: 'log', name: 'Log', desk: true }
] as const;

export type Stage = (typeof stages)[number]['key'];
