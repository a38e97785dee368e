/** Every kind of antenna and of soil, as the core knows them: read once. */
import { answer, api, type Schemas } from '../lib/api/client';
import { type Form, forms } from './forms';

export type Kind = Schemas['AntennaKindOut'];

class Kinds {
	all = $state.raw<Kind[]>([]);
	soils = $state.raw<Schemas['SoilOut'][]>([]);
	#asked = false;

	/** Reads them, unless they are there; again after a failure. */
	load(): void {
		if (this.#asked) return;
		this.#asked = true;
		Promise.all([
			answer(api.GET('/api/structures/kinds')),
			answer(api.GET('/api/structures/soils'))
		]).then(
			([kinds, soils]) => {
				this.all = kinds;
				this.soils = soils;
			},
			() => (this.#asked = false)
		);
	}

	get(key: string | undefined): Kind | undefined {
		return this.all.find((k) => k.key === key);
	}
}

export const kinds = new Kinds();

/** What a plan made before antennas were modelled is begun as. */
export const usualKind: Record<Form, Kind['key']> = {
	dipole: 'dipole',
	vertical: 'vertical',
	'five-eighths': 'five-eighths',
	loop: 'square',
	'end-fed': 'end-fed',
	'any-length': 'any-length',
	'loaded-dipole': 'loaded-dipole',
	'loaded-vertical': 'loaded-vertical',
	'long-dipole': 'five-eighths-dipole',
	'trap-dipole': 'trap-dipole',
	'trap-vertical': 'trap-vertical'
};

/** The rule that is usual for a kind's form; none where its coil decides. */
export const usualRule = (kind: Kind): string => forms.find((f) => f.key === kind.form)?.rule ?? '';
