"""Sweeps by the analyser: of an antenna, of a standard, of the load once more."""

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Literal
from uuid import UUID

import numpy as np
from fastapi import FastAPI
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from yielding_coil.analyser.driver import Analyser, Step, Taken, grid, take
from yielding_coil.analyser.link import Link
from yielding_coil.api.analyser.calibrations import MOST_POINTS, CalibrationOut, calibration_out, meaning_of
from yielding_coil.api.http import AcquisitionFinding, JobOut, Plan, ProgressSink, number
from yielding_coil.api.sweep import Name, SweepCurves, SweepOut, known_build, sweep_out
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.calibration import (
    CalibrationInUse,
    Correction,
    Standard,
    acquisition_findings,
    dip_elsewhere,
    good_dip,
    require_covered,
    residual,
    wide_range,
)
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import impedance_of
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep
from yielding_coil.documents.fields import Hertz
from yielding_coil.documents.setup import SetupIn
from yielding_coil.formats import touchstone
from yielding_coil.store.builds import one_build
from yielding_coil.store.calibrations import (
    age_h,
    correction_of,
    grid_of,
    keep_standard,
    noise_of,
    one_calibration,
)
from yielding_coil.store.revised import touch
from yielding_coil.store.setups import keep_setup
from yielding_coil.store.sweeps import keep_sweep
from yielding_coil.store.tables import Calibration

DRAWN_POINTS = 401
WIDE_POINTS = 401
Passes = Annotated[int, Field(ge=1, le=256)]


class KeepIn(BaseModel):
    """Where a sweep goes when it is done: to a build, or to none yet, and how it was taken."""

    name: Name
    build_id: UUID | None = None
    setup: SetupIn


class SweepIn(BaseModel):
    """A sweep of what is screwed on. Passes are averaged; without a number they go on until stopped."""

    kind: Literal["sweep"] = "sweep"
    low_hz: Hertz
    high_hz: Hertz
    points: int = Field(default=401, ge=1, le=MOST_POINTS)
    passes: Passes | None = 1
    calibration_id: UUID | None = None
    # Look further when no dip is in view.
    widen: bool = False
    keep: KeepIn | None = None


class StandardIn(BaseModel):
    """A sweep of a standard for a calibration."""

    kind: Literal["standard"] = "standard"
    calibration_id: UUID
    standard: Standard
    passes: Passes = 8


class CheckIn(BaseModel):
    """A sweep of the load once more, to see what is left."""

    kind: Literal["check"] = "check"
    calibration_id: UUID
    passes: Passes = 8


class Dip(BaseModel):
    """Where the SWR is lowest."""

    frequency_hz: float
    swr: float | None


class SweepProgress(BaseModel):
    """How far a sweep is: whole passes behind it, points of the present one."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)

    passes: int = 0
    of_passes: int | None = None
    points: int = 0
    of_points: int = 0


class SweepFound(BaseModel):
    """What a sweep shows so far; when it has ended, what was kept of it."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)

    curves: SweepCurves | None = None
    dip: Dip | None = None
    findings: list[AcquisitionFinding] = []
    sweep: SweepOut | None = None
    calibration: CalibrationOut | None = None


class SweepJob(JobOut[Literal["sweep", "standard", "check"], SweepProgress, SweepFound]):
    """How far a sweep by the analyser has come, and what it shows."""


SweepPlan = Plan[SweepProgress, SweepFound]
SweepSink = ProgressSink[SweepProgress, SweepFound]
SweepWork = Callable[[SweepSink], None]


def _plan(kind: str, work: SweepWork) -> SweepPlan:
    """Begins at once: an analyser takes one sweep at a time and refuses another by itself."""
    return Plan(kind, work, SweepJob, SweepProgress.model_construct(), waits=False)


def plan_sweep(app: FastAPI, asked: SweepIn) -> SweepPlan:
    """A sweep of what is screwed on.

    Raises:
        RefusedError: as the instrument, the calibration or the range have it.
    """
    with Session(app.state.engine) as session:
        known = None
        if asked.calibration_id is not None:
            known = _LoadedCalibration(one_calibration(session, asked.calibration_id), whole=True)
        if asked.keep is not None:
            known_build(session, asked.keep.build_id)
    return _plan(asked.kind, _antenna(app, app.state.link, asked, known))


def plan_standard(app: FastAPI, asked: StandardIn) -> SweepPlan:
    """A sweep of a standard for a calibration.

    Raises:
        RefusedError: as the instrument or the calibration have it.
    """
    known = _calibration(app, asked.calibration_id, whole=False)
    return _plan(asked.kind, _standard(app, app.state.link, asked, known))


def plan_check(app: FastAPI, asked: CheckIn) -> SweepPlan:
    """A sweep of the load once more.

    Raises:
        RefusedError: as the instrument or the calibration have it.
    """
    known = _calibration(app, asked.calibration_id, whole=True)
    return _plan(asked.kind, _check(app, app.state.link, asked, known))


def _calibration(app: FastAPI, calibration_id: UUID, whole: bool) -> "_LoadedCalibration":
    """A calibration with an instrument that is free to sweep its standards."""
    with Session(app.state.engine) as session:
        known = _LoadedCalibration(one_calibration(session, calibration_id), whole)
    link: Link = app.state.link
    with link.using():
        pass
    return known


class _LoadedCalibration:
    """A calibration as a job needs it, away from any session."""

    def __init__(self, row: Calibration, whole: bool) -> None:
        self.id = row.id
        self.low_hz, self.high_hz = row.low_hz, row.high_hz
        self.frequency_hz = grid_of(row)
        self.age_h = age_h(row)
        self.correction = correction_of(row) if whole else None
        self.noise = noise_of(row, 0.0, 1)

    def at(self, frequency_hz: Real) -> Correction:
        assert self.correction is not None
        return self.correction.at(frequency_hz)


def _antenna(app: FastAPI, link: Link, asked: SweepIn, known: _LoadedCalibration | None) -> SweepWork:
    if asked.low_hz > asked.high_hz or (asked.low_hz == asked.high_hz and asked.points > 1):
        raise OutOfDomainError("high_hz", f"{asked.high_hz:g} Hz", f"above low_hz, {asked.low_hz:g} Hz")
    calibrated = None if known is None else (known.low_hz, known.high_hz)
    require_covered(calibrated, asked.low_hz, asked.high_hz)
    with link.using() as instrument:
        if asked.low_hz < instrument.low_hz or asked.high_hz > instrument.high_hz:
            raise OutOfDomainError(
                "low_hz",
                f"{asked.low_hz / 1e6:.6g} to {asked.high_hz / 1e6:.6g} MHz",
                f"what the analyser sweeps, {instrument.low_hz / 1e6:.6g} to {instrument.high_hz / 1e6:.6g} MHz",
            )
    f = grid(asked.low_hz, asked.high_hz, asked.points)
    correction = None if known is None else known.at(f)

    def shown(raw: Complex, taken: Taken) -> tuple[SweepFound, Sweep | None, ReflectionUncertainty | None]:
        part = slice(0, raw.size)
        gamma = raw
        doubt = None
        if correction is not None and known is not None:
            own = Correction(correction.a[part], correction.b[part], correction.c[part], f[part], correction.kit)
            gamma = own.correct(raw)
            noise = replace(known.noise, rms=taken.noise_rms, passes=max(1, taken.passes))
            doubt = own.doubt(gamma, noise, known.age_h)
        curves, found = _curves(f[part], gamma, doubt)
        return SweepFound.model_construct(curves=curves, dip=_dip(found)), found, doubt

    def work(job: SweepSink) -> None:
        def on_step(step: Step, taken: Taken) -> bool:
            if not job.is_due():
                return job.should_continue()
            if not taken.passes:
                raw = step.raw
            elif asked.passes is None:
                raw = np.concatenate([step.raw, taken.latest[step.raw.size :]])
            else:
                raw = taken.mean
            return job.report(_progress(taken.passes, asked.passes, step.points, f.size), shown(raw, taken)[0])

        with link.using() as instrument:
            taken, problem = take(instrument, f, asked.passes, on_step)
            if problem is not None:
                link.note(problem)
            if taken.passes == 0:
                if problem is not None:
                    raise problem
                return
            out, found, doubt = shown(taken.mean if asked.passes else taken.latest, taken)
            progress = _progress(taken.passes, asked.passes, f.size, f.size)
            in_use = None if known is None else CalibrationInUse(known.frequency_hz, known.age_h)
            kept = None if problem is None else taken.passes
            told = acquisition_findings(taken.frequency_hz, found, in_use, kept_passes=kept)
            out.findings = [AcquisitionFinding.model_validate(f, from_attributes=True) for f in told]
            if asked.widen and problem is None and found is not None and not good_dip(found):
                job.report(progress, out)
                elsewhere = _find_dip_elsewhere(instrument, asked, found)
                out = out.model_copy(update={"findings": [*out.findings, elsewhere]})
            identity = instrument.identity
        if asked.keep is not None and found is not None:
            simulated = link.kind == "simulated"
            out.sweep = _keep(app, asked, asked.keep, found, taken, doubt, identity, simulated)
        job.report(progress, out)
        if problem is not None:
            raise problem

    return work


def _curves(
    f: Real, gamma: Complex, doubt: ReflectionUncertainty | None
) -> tuple[SweepCurves | None, Sweep | None]:
    """What is drawn of it, and the sweep that it is; none while more comes back than any antenna returns."""
    if f.size == 0 or np.abs(1 - gamma).min() < 1e-9:
        return None, None
    found = Sweep(f, impedance_of(gamma))
    return SweepCurves.of(found, found.low_hz, found.high_hz, DRAWN_POINTS, doubt), found


def _dip(found: Sweep | None) -> Dip | None:
    if found is None:
        return None
    best = found.best_match()
    return Dip(frequency_hz=best.frequency_hz, swr=number(best.swr))


def _find_dip_elsewhere(instrument: Analyser, asked: SweepIn, found: Sweep) -> AcquisitionFinding:
    """One quick look further, raw."""
    limits = (instrument.low_hz, instrument.high_hz)
    f = grid(*wide_range(asked.low_hz, asked.high_hz, *limits), WIDE_POINTS)
    raw, problem = take(instrument, f, 1, lambda step, taken: True)
    seen = raw.mean if problem is None and raw.passes else None
    there = dip_elsewhere(f, seen, (asked.low_hz, asked.high_hz), found, limits)
    return AcquisitionFinding.model_validate(there, from_attributes=True)


def _keep(
    app: FastAPI,
    asked: SweepIn,
    keep: KeepIn,
    found: Sweep,
    taken: Taken,
    doubt: ReflectionUncertainty | None,
    identity: str,
    simulated: bool,
) -> SweepOut:
    """Store a sweep beside its raw reflections."""
    raw = touchstone.write(Sweep(taken.frequency_hz, impedance_of(taken.mean)))
    with Session(app.state.engine) as session, session.begin():
        # The build may have gone to the bin meanwhile: what was swept for it goes there with it.
        build_id = None if keep.build_id is None else one_build(session, keep.build_id, deleted=True).id
        setup = keep_setup(session, build_id, keep.setup, identity)
        row = keep_sweep(
            session,
            found,
            original=raw,
            original_name=f"{keep.name[:240]} (raw).s1p",
            reference_ohm=50.0,
            source="simulated" if simulated else "analyser",
            build_id=build_id,
            setup_id=setup.id,
            remarks=[f"{taken.passes} passes averaged" if taken.passes > 1 else "one pass"],
            calibration_id=asked.calibration_id,
            doubt=doubt,
        )
        row.name = keep.name
        return sweep_out(session, row)


def _passes(
    link: Link, job: SweepSink, f: Real, passes: int, draw: Callable[[Complex], SweepCurves | None]
) -> tuple[Taken, str]:
    """Averaged passes for a standard or a check; all of them or a refusal, since half a standard is none."""

    def on_step(step: Step, taken: Taken) -> bool:
        if not job.is_due():
            return job.should_continue()
        raw = taken.mean if taken.passes else step.raw
        found = SweepFound.model_construct(curves=draw(raw))
        return job.report(_progress(taken.passes, passes, step.points, f.size), found)

    with link.using() as instrument:
        taken, problem = take(instrument, f, passes, on_step)
        if problem is not None:
            raise problem
        return taken, instrument.identity


def _standard(app: FastAPI, link: Link, asked: StandardIn, known: _LoadedCalibration) -> SweepWork:
    def work(job: SweepSink) -> None:
        f = known.frequency_hz
        taken, identity = _passes(link, job, f, asked.passes, lambda raw: _curves(f[: raw.size], raw, None)[0])
        if taken.passes < asked.passes:
            return
        with Session(app.state.engine, expire_on_commit=False) as session, session.begin():
            row = one_calibration(session, asked.calibration_id)
            keep_standard(row, asked.standard, taken.mean, taken.passes, taken.noise_rms, identity)
            touch(session, row)
            out = calibration_out(row)
        job.report(*_ended(taken, f, out, _curves(f, taken.mean, None)[0]))

    return work


def _check(app: FastAPI, link: Link, asked: CheckIn, known: _LoadedCalibration) -> SweepWork:
    def work(job: SweepSink) -> None:
        f = known.frequency_hz
        correction = known.at(f)
        taken, _ = _passes(link, job, f, asked.passes, lambda raw: _left(f, correction, raw))
        if taken.passes < asked.passes:
            return
        left = residual(correction.correct(taken.mean), f, correction.kit)
        with Session(app.state.engine, expire_on_commit=False) as session, session.begin():
            row = one_calibration(session, asked.calibration_id)
            row.checked = meaning_of(left)
            touch(session, row)
            out = calibration_out(row)
        job.report(*_ended(taken, f, out, _left(f, correction, taken.mean)))

    return work


def _left(f: Real, correction: Correction, raw: Complex) -> SweepCurves | None:
    """What is drawn of the load while it is swept again: corrected, once a whole pass is there."""
    return _curves(f, correction.correct(raw), None)[0] if raw.size == f.size else None


def _progress(passes: int, of_passes: int | None, points: int, of_points: int) -> SweepProgress:
    return SweepProgress.model_construct(passes=passes, of_passes=of_passes, points=points, of_points=of_points)


def _ended(
    taken: Taken, f: Real, calibration: CalibrationOut, curves: SweepCurves | None
) -> tuple[SweepProgress, SweepFound]:
    progress = _progress(taken.passes, taken.passes, f.size, f.size)
    return progress, SweepFound.model_construct(curves=curves, calibration=calibration)
