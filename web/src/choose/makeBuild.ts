/** A build made of a planned antenna: its bands, its wire, and the design that it hangs above. */
import { answer, api, type Content, type Target } from '../lib/api/client';
import { kinds, usualRule } from '../wire/kinds.svelte';

/** Makes it, with the design chosen; gives the build's id. */
export async function makeBuild(
	name: string,
	targets: Target[],
	content: Content,
	powerW: number
): Promise<string> {
	const { antenna } = content;
	if (antenna.kind !== 'wire') throw new Error('a planned antenna is of wire');
	const kind = kinds.get(antenna.antenna);
	if (!kind) throw new Error('kinds of antenna are not there yet');
	const made = await answer(
		api.POST('/api/builds', {
			body: {
				name,
				targets,
				wire: {
					form: kind.form,
					rule: usualRule(kind),
					arrangement: kind.arrangement,
					covered: Boolean(antenna.stock?.covering_m),
					antenna
				}
			}
		})
	);
	const design = await answer(
		api.POST('/api/builds/{build_id}/designs', {
			params: { path: { build_id: made.id } },
			body: { name: 'As planned', content }
		})
	);
	await answer(
		api.PATCH('/api/builds/{build_id}', {
			params: { path: { build_id: made.id } },
			body: { revision: made.revision, chosen_design_id: design.id, power_w: powerW }
		})
	);
	return made.id;
}
