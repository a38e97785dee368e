import { answer, api } from '../api/client';
import type { LengthUnit } from './format';

/** Metres or feet: one switch for all lengths, kept with the settings. */
class Units {
	length = $state<LengthUnit>('m');
	private revision = 1;

	async load(): Promise<void> {
		const kept = await answer(api.GET('/api/settings'));
		this.length = kept.units;
		this.revision = kept.revision;
	}

	async choose(unit: LengthUnit): Promise<void> {
		this.length = unit;
		const ask = () =>
			answer(api.PATCH('/api/settings', { body: { revision: this.revision, units: unit } }));
		let kept;
		try {
			kept = await ask();
		} catch {
			// Another page switched meanwhile: the newest choice is this one.
			this.revision = (await answer(api.GET('/api/settings'))).revision;
			kept = await ask();
		}
		this.revision = kept.revision;
	}
}

export const units = new Units();
