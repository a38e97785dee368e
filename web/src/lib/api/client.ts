import createClient from 'openapi-fetch';

import type { components, paths } from './schema';
import { server } from './server.svelte';

export type Schemas = components['schemas'];
export type Analyser = Schemas['AnalyserOut'];
export type Calibration = Schemas['CalibrationOut'];
export type Fan = Schemas['Fan'];
/** Something to know: a code of its subject, and SI values. */
export type Finding<Code extends string = string> = {
	code: Code;
	grave: boolean;
	values: Record<string, number | string | null>;
};
export type AcquisitionFinding = Schemas['AcquisitionFinding'];
export type BenchFinding = Schemas['BenchFinding'];
export type CalibrationFinding = Schemas['CalibrationFinding'];
export type DesignFinding = Schemas['DesignFinding'];
export type EvidenceFinding = Schemas['EvidenceFinding'];
export type FaultCode = Schemas['StatedOut']['code'];
export type TrimFinding = Schemas['TrimFinding'];
export type WindingFinding = Schemas['WindingFinding'];
export type LineOut = Schemas['LineOut'];
export type JobIn = Schemas['SweepIn'] | Schemas['StandardIn'] | Schemas['CheckIn'];
export type JobState = Schemas['SweepJob'];
export type SearchJob = Schemas['SearchJob'];
export type SchoolsJob = Schemas['SchoolsJob'];
export type SearchFound = Schemas['SearchFound'];
/** A network that can be made, as the search found it. */
export type Way = Schemas['Way'];
export type WayPart = Schemas['WayPart'];
export type IdealWay = Schemas['IdealWay'];
export type Setup = Schemas['SetupOut'];
export type SetupIn = Schemas['SetupIn'];
export type ShiftOut = Schemas['ShiftOut'];
export type CableRow = Schemas['CableOut'];
export type Band = Schemas['BandOut'];
export type Binned = Schemas['BinnedOut'];
export type Build = Schemas['BuildOut'];
export type Candidate = Schemas['Candidate'];
export type Content = Schemas['DesignContent'];
export type Comparison = Schemas['Comparison'];
export type Curves = Omit<Schemas['SweepCurves'], 'sampled_hz' | 'fan' | 'ceiling'>;
export type Design = Schemas['DesignOut'];
export type FeedlineRow = Schemas['FeedlineOut'];
export type Element = Content['elements'][number];
/** Wound beside the cascade: a choke on the coax, a trap in the wire. */
export type Accessory = NonNullable<Content['beside']>[number];
export type Coil = Schemas['Coil'];
/** What a design does; each station with the answer's frequencies. */
export type Prediction = Omit<Schemas['Prediction'], 'stations'> & { stations: Station[] };
export type Problem = Schemas['Problem'];
export type Reading = Schemas['Reading'];
export type Revision = Schemas['RevisionOut'];
export type RevisionHead = Schemas['RevisionHead'];
export type Station = Schemas['StationOut'] & { frequency_hz: number[] };
export type Sweep = Schemas['SweepOut'];
export type SweepCurves = Schemas['SweepCurves'];
export type Target = Schemas['TargetPayload'];
export type EvidenceOut = Schemas['EvidenceOut'];
export type LengthsOut = Schemas['LengthsOut'];
export type Entry = Schemas['EntryOut'];
export type EntryData = Schemas['EntryIn']['data'];
export type Read = Extract<EntryData, { kind: 'reading' }>['reading'];
export type TrimOut = Schemas['TrimOut'];
export type WireAntenna = Schemas['WireAntenna'];
export type WirePlan = Schemas['WirePlan'];
export type Piece = Schemas['PieceOut'];
export type Trade = Schemas['TradeOut'];
export type Tick = Schemas['Tick'];
export type Yield = Schemas['YieldOut'];

// No middleware: with one, a request would leave only after the page has redrawn.
export const api = createClient<paths>({ baseUrl: '' });

// Tests wait for this attribute: set while nothing is under way.
let underWay = 0;
/** Something begins or ends that the page waits for. */
export function busy(by: 1 | -1): void {
	underWay += by;
	document.documentElement.dataset.settled = String(underWay === 0);
}
/** A refusal as the server words it. */
export class Refused extends Error {
	constructor(readonly problem: Problem) {
		super(problem.detail);
	}
}

/** What the page itself cannot take, in the form of a refusal. */
export function refused(detail: string): Refused {
	return new Refused({
		type: 'about:blank',
		title: 'Not taken',
		status: 422,
		code: 'not_taken',
		detail
	});
}

/** Whether this page is shown on the computer that runs the application. */
export const atHome = ['127.0.0.1', 'localhost', '[::1]'].includes(
	globalThis.location?.hostname ?? 'localhost'
);

const gone: Problem = {
	type: 'about:blank',
	title: 'No answer',
	status: 0,
	code: 'server_gone',
	detail: atHome
		? 'The application does not answer. Nothing on this page is lost: start it again with ./start.'
		: 'The computer is not reached from here. Nothing on this page is lost.'
};

/** Whether a refusal only says that nothing could be reached: what was asked can be asked again. */
export function isAway(problem: Problem): boolean {
	return problem.code === 'server_gone' || problem.code === 'database_gone';
}

/** Whether a refusal is of this moment only. */
export function canWait(problem: Problem): boolean {
	return ['busy', 'disk_full', 'too_often'].includes(problem.code);
}

/** The data of an answer; throws `Refused` for a problem and when no answer came. */
export async function answer<T>(
	asked: Promise<{ data?: T; error?: unknown; response: Response }>
): Promise<T> {
	let got;
	busy(1);
	try {
		got = await asked;
	} catch {
		server.note(gone.detail);
		throw new Refused(gone);
	} finally {
		busy(-1);
	}
	if (got.error !== undefined) {
		const problem = got.error as Partial<Problem>;
		const known = typeof problem.detail === 'string' ? (problem as Problem) : gone;
		server.note(isAway(known) ? known.detail : null);
		throw new Refused(known);
	}
	// What a phone has kept is shown as such: the computer did not answer.
	server.note(got.response.headers.has('x-kept-at') ? gone.detail : null);
	return got.data as T;
}

/** Sends a dropped or pasted file as it is, to the byte. */
export async function dropSweep(
	file: File,
	more: { build_id?: string; take?: 'S11' } = {}
): Promise<Sweep> {
	return answer(
		api.POST('/api/sweeps', {
			params: { query: { name: file.name, ...more } },
			body: file as unknown as string,
			bodySerializer: (body) => body as unknown as BodyInit,
			headers: { 'Content-Type': 'application/octet-stream' }
		})
	);
}

/** What went wrong, in words; what is no refusal is thrown on. */
export function problemText(why: unknown): string {
	if (!(why instanceof Refused)) throw why;
	return why.message;
}
