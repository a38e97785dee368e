"""The verdict of the bench: sweeps of a wound thing against what was planned and what goes wrong."""

import math
from typing import Annotated, Literal
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.api.antennas import Antennas
from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import Numbers, numbers
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.api.suspects import setups_of, suspects_of
from yielding_coil.core.bench import Setup, Suspect, Taken, judge
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.sweep import Sweep
from yielding_coil.documents.design import DesignContent, wound_of
from yielding_coil.documents.fields import Positive
from yielding_coil.store.sweeps import one_sweep
from yielding_coil.store.tables import Calibration

router = APIRouter(prefix="/api", tags=["bench"], responses=RESPONSES)

# What is trusted of a sweep, dB below full reflection: of a file, of a calibration without its check, of none.
FILE_DB, UNCHECKED_DB, RAW_DB, BEST_DB = 50.0, 45.0, 25.0, 50.0
NOISE = 1.5e-3
# Of a sweep that is laid over a chart.
DRAWN_POINTS = 401
# Where what is wound is described at all.
LOW_HZ, HIGH_HZ = 0.1e6, 60e6
# Zero crossings of X from which on something long hangs there: an antenna or a line.
MANY = 3


class SweptIn(BaseModel):
    """A sweep taken in a set-up; its resistor as it was measured, where that was done."""

    setup: Annotated[str, Field(max_length=20)]
    sweep_id: UUID
    resistor_ohm: Positive | None = None


class VerdictAsked(BaseModel):
    """Sweeps of one wound element of a design."""

    content: DesignContent
    key: str
    swept: list[SweptIn] = Field(min_length=1, max_length=4)


class StatedOut(BaseModel):
    """One thing that it may be: a code, what tells it from others, its share of the weight."""

    code: str
    values: dict[str, float | str]
    share: float


class MeasuredOut(BaseModel):
    """A sweep as it is laid over what was expected."""

    setup: str
    frequency_hz: list[float]
    swr: Numbers
    resistance_ohm: Numbers
    inductance_h: Numbers


class VerdictOut(BaseModel):
    """What the sweeps say: one thing, those that cannot be told apart, or that nothing fits.

    `passed` is null where it cannot be told. `hidden` are faults that such sweeps never show, because they lie
    within the tolerances of what was planned; `next_setup` is the one more sweep that would tell.
    """

    says: Literal["named", "apart", "strange"]
    passed: bool | None
    stated: list[StatedOut]
    hidden: list[StatedOut]
    next_setup: str | None
    measured: list[MeasuredOut]
    residual_db: float
    findings: list[Finding]


def trusted_db(session: Session, sweep_id: UUID) -> float:
    """How far below full reflection the errors of a kept sweep are taken to lie."""
    row = one_sweep(session, sweep_id)
    if row.calibration_id is not None:
        known = session.get(Calibration, row.calibration_id)
        checked = known.checked if known is not None else None
        return UNCHECKED_DB if checked is None else min(BEST_DB, -float(checked["residual_db"]))
    return RAW_DB if row.source in ("analyser", "simulated") else FILE_DB


def useful(sweep: Sweep) -> Sweep:
    """The part of a sweep in which wound things are described.

    Raises:
        OutOfDomainError: nothing of it is.
    """
    inside = (sweep.frequency_hz >= LOW_HZ) & (sweep.frequency_hz <= HIGH_HZ)
    if inside.sum() < 2:
        raise OutOfDomainError(
            "sweep",
            f"from {sweep.low_hz / 1e6:.4g} to {sweep.high_hz / 1e6:.4g} MHz",
            f"within {LOW_HZ / 1e6:g} to {HIGH_HZ / 1e6:g} MHz, where what is wound is described",
        )
    return Sweep(sweep.frequency_hz[inside], sweep.impedance_ohm[inside])


def crossings_of(sweep: Sweep) -> int:
    """How often X passes zero in a sweep."""
    return int((np.diff(np.sign(sweep.impedance_ohm.imag)) != 0).sum())


@router.post("/bench-verdicts")
def bench_verdict(request: Request, session: InTransaction, asked: VerdictAsked) -> VerdictOut:
    """Right, or what is wrong with it; nothing is kept."""
    element = wound_of(asked.content, asked.key)
    antennas: Antennas = request.app.state.antennas
    setups = {s.key: s for s in setups_of(element)}
    taken: list[Taken] = []
    for told in asked.swept:
        setup = setups.get(told.setup)
        if setup is None:
            raise NotFoundError(
                f"it is not swept “{told.setup}”", field="setup", came_in=told.setup, accepted=", ".join(setups)
            )
        if told.resistor_ohm is not None and setup.key in ("resistor", "half"):
            setup = Setup(setup.key, told.resistor_ohm, setup.tolerance)
        sweep = useful(antennas.sweep(request, told.sweep_id))
        taken.append(Taken(setup, sweep, trusted_db(session, told.sweep_id), NOISE))
    said = judge(taken, suspects_of(asked.content, element), list(setups.values()))
    first = said.likely[0]
    findings = []
    crossings = max(crossings_of(t.sweep) for t in taken)
    if said.says == "strange" and crossings >= MANY:
        findings.append(Finding(code="like_an_antenna", values={"crossings": crossings}))
    low, high = (max(t.sweep.low_hz for t in taken), min(t.sweep.high_hz for t in taken))
    if high / low < 2:
        findings.append(Finding(code="narrow_sweep", values={"low_hz": low, "high_hz": high}))
    passed = None
    if said.says == "named":
        passed = first.suspect.code == "right"
    elif said.says == "strange" or "right" not in said.codes:
        passed = False
    return VerdictOut(
        says=said.says,
        passed=passed,
        stated=[_stated(w.suspect, w.share) for w in said.likely],
        hidden=[_stated(s, 0.0) for s in said.hidden],
        next_setup=None if said.next_setup is None else said.next_setup.key,
        measured=[_measured(t) for t in taken],
        residual_db=min(t.residual_db for t in taken),
        findings=findings,
    )


def _stated(suspect: Suspect, share: float) -> StatedOut:
    return StatedOut(code=suspect.code, values=dict(suspect.values), share=share)


def _measured(taken: Taken) -> MeasuredOut:
    sweep = taken.sweep
    at = np.unique(np.linspace(0, sweep.frequency_hz.size - 1, DRAWN_POINTS).astype(int))
    f, z = sweep.frequency_hz[at], sweep.impedance_ohm[at]
    return MeasuredOut(
        setup=taken.setup.key,
        frequency_hz=f.tolist(),
        swr=numbers(swr_of_impedance(z)),
        resistance_ohm=numbers(z.real),
        inductance_h=numbers(z.imag / (2 * math.pi * f)),
    )
