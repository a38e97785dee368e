/** The kinds of antenna a wire can be planned as: their names, and the rule that is usual for each. */
import type { WirePlan } from '../lib/api/client';

export type Form = NonNullable<WirePlan['form']>;

// A kind without a name fails the type check.
const named: Record<Form, { name: string; rule: string; upright: boolean }> = {
	dipole: { name: 'half-wave dipole', rule: 'dipole-practice', upright: false },
	vertical: { name: 'quarter-wave vertical', rule: 'vertical-practice', upright: true },
	'five-eighths': { name: 'five-eighths vertical', rule: 'five-eighths-practice', upright: true },
	'any-length': { name: 'wire of any length', rule: '', upright: false },
	'end-fed': { name: 'end-fed wire', rule: 'end-fed-practice', upright: false },
	'loaded-dipole': { name: 'short dipole with coils', rule: '', upright: false },
	'loaded-vertical': { name: 'short vertical with a coil', rule: '', upright: true },
	'long-dipole': { name: 'dipole longer than half a wave', rule: '', upright: false },
	'trap-dipole': { name: 'dipole with traps', rule: '', upright: false },
	'trap-vertical': {
		name: 'vertical for two bands, parted by a trap or a coil',
		rule: '',
		upright: true
	},
	loop: { name: 'full-wave loop', rule: 'loop-practice', upright: false }
};

export const forms = (Object.keys(named) as Form[]).map((key) => ({ key, ...named[key] }));

/** Whether it stands on the ground rather than hangs between supports. */
export const isUpright = (form: Form): boolean => named[form].upright;
