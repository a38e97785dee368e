/** What a design does: the answer carries its frequencies once, and each station gets them here. */

import { answer, api, type Prediction, type Schemas } from './client';

/** Asks what a design does over a range of frequencies. */
export async function predict(body: Schemas['PredictionIn']): Promise<Prediction> {
	const found = await answer(api.POST('/api/predictions', { body }));
	const { frequency_hz } = found;
	return { ...found, stations: found.stations.map((s) => ({ ...s, frequency_hz })) };
}
