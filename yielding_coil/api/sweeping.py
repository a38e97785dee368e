"""Sweeps by the analyser: of an antenna, of a standard, of the load once more."""

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Literal, Protocol
from uuid import UUID

import numpy as np
from fastapi import FastAPI
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.analyser.driver import Analyser, Step, Taken, grid, take
from yielding_coil.analyser.link import Link
from yielding_coil.api.calibrations import CalibrationOut, calibration_out, meaning_of
from yielding_coil.api.curves import SweepCurves
from yielding_coil.api.findings import AcquisitionFinding
from yielding_coil.api.numbers import number
from yielding_coil.api.sweeps import Name, SweepOut, known_build, sweep_out
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
from yielding_coil.core.sweep import ReflectionDoubt, Sweep
from yielding_coil.documents.fields import Hertz
from yielding_coil.documents.setup import SetupIn
from yielding_coil.formats import touchstone
from yielding_coil.store.calibrations import (
    age_h,
    correction_of,
    grid_of,
    keep_standard,
    noise_of,
    one_calibration,
)
from yielding_coil.store.setups import keep_setup
from yielding_coil.store.sweeps import keep_sweep
from yielding_coil.store.tables import Calibration

MOST_POINTS = 2001
DRAWN_POINTS = 401
WIDE_POINTS = 401
Passes = Annotated[int, Field(ge=1, le=256)]


class KeepIn(BaseModel):
    """Where a sweep goes when it is done: to a build, or to none yet, and how it was taken."""

    name: Name
    build_id: UUID | None = None
    setup: SetupIn


class SweepAsked(BaseModel):
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


class StandardAsked(BaseModel):
    """A sweep of a standard for a calibration."""

    kind: Literal["standard"] = "standard"
    calibration_id: UUID
    standard: Standard
    passes: Passes = 8


class CheckAsked(BaseModel):
    """A sweep of the load once more, to see what is left."""

    kind: Literal["check"] = "check"
    calibration_id: UUID
    passes: Passes = 8


JobAsked = Annotated[SweepAsked | StandardAsked | CheckAsked, Field(discriminator="kind")]


class Dip(BaseModel):
    """Where the SWR is lowest."""

    frequency_hz: float
    swr: float | None


class Progress(BaseModel):
    """How far a sweep is: whole passes behind it, points of the present one; what it shows so far."""

    passes: int
    of_passes: int | None
    points: int
    of_points: int
    curves: SweepCurves | None
    dip: Dip | None
    findings: list[AcquisitionFinding]
    sweep: SweepOut | None
    calibration: CalibrationOut | None

    @classmethod
    def of(cls, passes: int = 0, of_passes: int | None = None, points: int = 0, of_points: int = 0) -> "Progress":
        """So far, with nothing to show yet."""
        return cls.model_construct(
            passes=passes,
            of_passes=of_passes,
            points=points,
            of_points=of_points,
            curves=None,
            dip=None,
            findings=[],
            sweep=None,
            calibration=None,
        )


class Told(Protocol):
    """Who is told how far a sweep is, and says whether to go on: a job."""

    def due(self) -> bool:
        """Whether it is time to tell again."""

    def wanted(self) -> bool:
        """Whether to go on."""

    def tell(self, progress: Progress) -> bool:
        """Say how far it is; gives whether to go on."""


def begin(app: FastAPI, asked: JobAsked) -> Callable[[Told], None]:
    """What a job will do, checked as far as it can be before it begins.

    Raises:
        RefusedError: as the instrument, the calibration or the range have it.
    """
    link: Link = app.state.link
    with Session(app.state.engine) as session:
        calibration = one_calibration(session, asked.calibration_id) if asked.calibration_id is not None else None
        if isinstance(asked, SweepAsked):
            if asked.keep is not None:
                known_build(session, asked.keep.build_id)
            return _antenna(app, link, asked, None if calibration is None else _Known(calibration))
        assert calibration is not None
        known = _Known(calibration, whole=asked.kind == "check")
    with link.using():
        pass
    if isinstance(asked, StandardAsked):
        return _standard(app, link, asked, known)
    return _check(app, link, asked, known)


class _Known:
    """A calibration as a job needs it, away from any session."""

    def __init__(self, row: Calibration, whole: bool = True) -> None:
        self.id = row.id
        self.low_hz, self.high_hz = row.low_hz, row.high_hz
        self.frequency_hz = grid_of(row)
        self.age_h = age_h(row)
        self.correction = correction_of(row) if whole else None
        self.noise = noise_of(row, 0.0, 1)

    def at(self, frequency_hz: Real) -> Correction:
        assert self.correction is not None
        return self.correction.at(frequency_hz)


def _antenna(app: FastAPI, link: Link, asked: SweepAsked, known: _Known | None) -> Callable[[Told], None]:
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

    def shown(raw: Complex, taken: Taken) -> tuple[Progress, Sweep | None, ReflectionDoubt | None]:
        part = slice(0, raw.size)
        gamma = raw
        doubt = None
        if correction is not None and known is not None:
            own = Correction(correction.a[part], correction.b[part], correction.c[part], f[part], correction.kit)
            gamma = own.correct(raw)
            noise = replace(known.noise, rms=taken.noise_rms, passes=max(1, taken.passes))
            doubt = own.doubt(gamma, noise, known.age_h)
        curves, found = _curves(f[part], gamma, doubt)
        progress = Progress.of(taken.passes, asked.passes, raw.size, f.size)
        progress.curves, progress.dip = curves, _dip(found)
        return progress, found, doubt

    def work(job: Told) -> None:
        def on_step(step: Step, taken: Taken) -> bool:
            if not job.due():
                return job.wanted()
            if not taken.passes:
                raw = step.raw
            elif asked.passes is None:
                raw = np.concatenate([step.raw, taken.latest[step.raw.size :]])
            else:
                raw = taken.mean
            progress = shown(raw, taken)[0]
            progress.points = step.points
            return job.tell(progress)

        with link.using() as instrument:
            taken, problem = take(instrument, f, asked.passes, on_step)
            if problem is not None:
                link.note(problem)
            if taken.passes == 0:
                if problem is not None:
                    raise problem
                return
            progress, found, doubt = shown(taken.mean if asked.passes else taken.latest, taken)
            in_use = None if known is None else CalibrationInUse(known.frequency_hz, known.age_h)
            kept = None if problem is None else taken.passes
            told = acquisition_findings(taken.frequency_hz, found, in_use, kept_passes=kept)
            progress.findings = [AcquisitionFinding.model_validate(f, from_attributes=True) for f in told]
            if asked.widen and problem is None and found is not None and not good_dip(found):
                job.tell(progress)
                progress.findings = [*progress.findings, _elsewhere(instrument, asked, found)]
            identity = instrument.identity
        if asked.keep is not None and found is not None:
            progress.sweep = _keep(app, asked, asked.keep, found, taken, doubt, identity, link.kind == "simulated")
        job.tell(progress)
        if problem is not None:
            raise problem

    return work


def _curves(f: Real, gamma: Complex, doubt: ReflectionDoubt | None) -> tuple[SweepCurves | None, Sweep | None]:
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


def _elsewhere(instrument: Analyser, asked: SweepAsked, found: Sweep) -> AcquisitionFinding:
    """One quick look further, raw."""
    limits = (instrument.low_hz, instrument.high_hz)
    f = grid(*wide_range(asked.low_hz, asked.high_hz, *limits), WIDE_POINTS)
    raw, problem = take(instrument, f, 1, lambda step, taken: True)
    seen = raw.mean if problem is None and raw.passes else None
    there = dip_elsewhere(f, seen, (asked.low_hz, asked.high_hz), found, limits)
    return AcquisitionFinding.model_validate(there, from_attributes=True)


def _keep(
    app: FastAPI,
    asked: SweepAsked,
    keep: KeepIn,
    found: Sweep,
    taken: Taken,
    doubt: ReflectionDoubt | None,
    identity: str,
    simulated: bool,
) -> SweepOut:
    """Store a sweep beside its raw reflections."""
    raw = touchstone.write(Sweep(taken.frequency_hz, impedance_of(taken.mean)))
    with Session(app.state.engine) as session, session.begin():
        build_id = known_build(session, keep.build_id)
        setup = keep_setup(session, build_id, keep.setup, identity)
        row = keep_sweep(
            session,
            found,
            original=raw,
            original_name=f"{keep.name} (raw).s1p",
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
    link: Link, job: Told, f: Real, passes: int, draw: Callable[[Complex], SweepCurves | None]
) -> tuple[Taken, str]:
    """Averaged passes for a standard or a check; all of them or a refusal, since half a standard is none."""

    def on_step(step: Step, taken: Taken) -> bool:
        if not job.due():
            return job.wanted()
        raw = taken.mean if taken.passes else step.raw
        progress = Progress.of(taken.passes, passes, step.points, f.size)
        progress.curves = draw(raw)
        return job.tell(progress)

    with link.using() as instrument:
        taken, problem = take(instrument, f, passes, on_step)
        if problem is not None:
            raise problem
        return taken, instrument.identity


def _standard(app: FastAPI, link: Link, asked: StandardAsked, known: _Known) -> Callable[[Told], None]:
    def work(job: Told) -> None:
        f = known.frequency_hz
        taken, identity = _passes(link, job, f, asked.passes, lambda raw: _curves(f[: raw.size], raw, None)[0])
        if taken.passes < asked.passes:
            return
        with Session(app.state.engine, expire_on_commit=False) as session, session.begin():
            row = one_calibration(session, asked.calibration_id)
            keep_standard(row, asked.standard, taken.mean, taken.passes, taken.noise_rms, identity)
            session.flush()
            out = calibration_out(row)
        job.tell(_ended(taken, f, out, _curves(f, taken.mean, None)[0]))

    return work


def _check(app: FastAPI, link: Link, asked: CheckAsked, known: _Known) -> Callable[[Told], None]:
    def work(job: Told) -> None:
        f = known.frequency_hz
        correction = known.at(f)
        taken, _ = _passes(link, job, f, asked.passes, lambda raw: _left(f, correction, raw))
        if taken.passes < asked.passes:
            return
        left = residual(correction.correct(taken.mean), f, correction.kit)
        with Session(app.state.engine, expire_on_commit=False) as session, session.begin():
            row = one_calibration(session, asked.calibration_id)
            row.checked = meaning_of(left)
            row.revision += 1
            session.flush()
            out = calibration_out(row)
        job.tell(_ended(taken, f, out, _left(f, correction, taken.mean)))

    return work


def _left(f: Real, correction: Correction, raw: Complex) -> SweepCurves | None:
    """What is drawn of the load while it is swept again: corrected, once a whole pass is there."""
    return _curves(f, correction.correct(raw), None)[0] if raw.size == f.size else None


def _ended(taken: Taken, f: Real, calibration: CalibrationOut, curves: SweepCurves | None) -> Progress:
    progress = Progress.of(taken.passes, taken.passes, f.size, f.size)
    progress.calibration, progress.curves = calibration, curves
    return progress
