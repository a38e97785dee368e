/** What is said of a coil near its own resonance: the same words wherever it is met. */
import type { Finding } from '../lib/api/client';
import { figures, quantity } from '../lib/units/format';

type Code = 'own_capacitance' | 'near_self_resonance';

/** A sentence for each; the ratio is that of the upper end of the highest band. */
export const ownResonance: Record<Code, (f: Finding) => string> = {
	near_self_resonance: ({ values }) =>
		`Your highest band reaches ${figures(100 * Number(values.ratio), 2)} % of the self-resonance of the ${values.key} (${quantity(Number(values.self_resonance_hz), 'Hz')}): what it reads there moves by a third with little. Take fewer turns, or a smaller former or core.`,
	own_capacitance: ({ values }) =>
		`The own capacitance of the ${values.key} already raises its reading by a tenth or more on your highest band: it resonates with itself at ${quantity(Number(values.self_resonance_hz), 'Hz')}.`
};
