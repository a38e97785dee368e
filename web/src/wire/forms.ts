/** The kinds of antenna a wire can be planned as: their names, and the rule that is usual for each. */
import type { WirePlan } from '../lib/api/client';

export type Form = NonNullable<WirePlan['form']>;

export const forms: { key: Form; name: string; rule: string }[] = [
	{ key: 'dipole', name: 'half-wave dipole', rule: 'dipole-practice' },
	{ key: 'vertical', name: 'quarter-wave vertical', rule: 'vertical-practice' },
	{ key: 'five-eighths', name: 'five-eighths vertical', rule: 'five-eighths-practice' },
	{ key: 'loop', name: 'full-wave loop', rule: 'loop-practice' }
];
