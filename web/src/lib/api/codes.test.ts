/** Codes of findings are literals of their subject: a table of words that lacks one fails the type check. */
import { expect, test } from 'vitest';

import type {
	AcquisitionFinding,
	BenchFinding,
	CalibrationFinding,
	DesignFinding,
	EvidenceFinding,
	FaultCode,
	TrimOut,
	TrimFinding,
	WindingFinding
} from './client';

type Words<Code extends string> = Record<Code, string>;
const none = {};

// Each line is an error to the type checker; were one none any more, the directive itself would be.
// @ts-expect-error a code without words
const acquisition: Words<AcquisitionFinding['code']> = none;
// @ts-expect-error a code without words
const bench: Words<BenchFinding['code']> = none;
// @ts-expect-error a code without words
const calibration: Words<CalibrationFinding['code']> = none;
// @ts-expect-error a code without words
const design: Words<DesignFinding['code']> = none;
// @ts-expect-error a code without words
const evidence: Words<EvidenceFinding['code']> = none;
// @ts-expect-error a code without words
const fault: Words<FaultCode> = none;
// @ts-expect-error a code without words
const stop: Words<NonNullable<TrimOut['stop']>['code']> = none;
// @ts-expect-error a code without words
const trim: Words<TrimFinding['code']> = none;
// @ts-expect-error a code without words
const winding: Words<WindingFinding['code']> = none;

test('every subject has its own codes', () => {
	const tables = [acquisition, bench, calibration, design, evidence, fault, stop, trim, winding];
	expect(tables).toHaveLength(9);
});
