/** The whole report of one wound thing, over the bands that ununs and baluns are used on. */

import { answer, api, type Content, type Schemas } from '../lib/api/client';

export interface Reported {
	content: Content;
	/** Which element of it. */
	key: string;
	power_w: number;
	/** The resistor on the bench; what the design carries, or what fits, when null. */
	resistor_ohm?: number | null;
}

/** Asks for it; throws `Refused` for what cannot be wound. */
export function report(of: Reported): Promise<Schemas['WindingOut']> {
	return answer(api.POST('/api/windings', { body: { ...of, low_hz: 1.8e6, high_hz: 30e6 } }));
}
