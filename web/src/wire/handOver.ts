/** A planned antenna handed on: put at the top of a design, with what is wound of it beside. */
import {
	answer,
	api,
	type Accessory,
	type Content,
	type Design,
	type WireAntenna
} from '../lib/api/client';
import type { BuildState } from '../lib/build/buildState.svelte';

/** The design that the build goes by, of those that are there. */
export function chosenOf(page: BuildState): Design | undefined {
	return page.designs.find((d) => d.id === page.build.chosen_design_id) ?? page.designs[0];
}

/** Puts the antenna above the design that the build goes by, or above a new one; gives the design's id. */
export async function standAbove(
	page: BuildState,
	antenna: WireAntenna,
	name: string,
	wound?: Accessory
): Promise<string> {
	const chosen = chosenOf(page);
	const now: Content = chosen?.revision.content ?? {
		version: 1,
		antenna,
		targets: page.build.targets,
		elements: [],
		beside: [],
		seed: 1,
		reading_spread: 0.02
	};
	const others = (now.beside ?? []).filter((b) => b.key !== wound?.key);
	const content: Content = { ...now, antenna, beside: wound ? [...others, wound] : now.beside };
	if (!chosen) {
		const made = await answer(
			api.POST('/api/builds/{build_id}/designs', {
				params: { path: { build_id: page.id } },
				body: { name, content }
			})
		);
		page.keep(made);
		await page.change({ chosen_design_id: made.id });
		return made.id;
	}
	const revision = await answer(
		api.POST('/api/designs/{design_id}/revisions', {
			params: { path: { design_id: chosen.id } },
			body: { edited: chosen.revision.number, content }
		})
	);
	page.keep({ ...chosen, revision });
	return chosen.id;
}

export const COIL_KEY = 'loading coil';

/** A loading coil as a design keeps it: on the former and wire that are usual. */
export function loadingCoil(inductanceH: number): Extract<Accessory, { kind: 'coil' }> {
	return {
		kind: 'coil',
		key: COIL_KEY,
		place: 'series',
		inductance_h: inductanceH,
		former_m: 0.05,
		wire: 'cu-1.6',
		pitch_m: 0.0032,
		spread: 0.04
	};
}

export const TRAP_KEY = 'trap';

/** A trap as a design keeps it: where it is tuned, of which capacitor, on the former and wire that are usual. */
export function trapOf(
	antenna: WireAntenna,
	highHz: number,
	lowHz: number
): Extract<Accessory, { kind: 'trap' }> {
	return {
		kind: 'trap',
		key: TRAP_KEY,
		tuned_hz: antenna.numbers['trap_hz'] ?? highHz,
		high_hz: highHz,
		low_hz: lowHz,
		capacitance_f: antenna.numbers['trap_f'] ?? 30e-12,
		former_m: 0.025,
		wire: 'cu-1.6',
		wire_radius_m: (antenna.stock?.diameter_m ?? 0.002) / 2,
		legs: antenna.antenna === 'trap-dipole' ? 2 : 1
	};
}
