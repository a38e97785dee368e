"""Lines: planes moved along them, an unknown one found out, the way to its end, what it can show at most."""

from dataclasses import replace
from typing import Annotated, Literal
from uuid import UUID

import numpy as np
from fastapi import Query, Request
from pydantic import BaseModel, Field

from yielding_coil.api.http import InTransaction, Numbers, number, numbers, router_of
from yielding_coil.api.sweep import Antennas, Fan, Name, SweepCurves, SweepOut, known_build, sweep_out, trusted
from yielding_coil.core import line as core
from yielding_coil.core.line import Line, LineUncertainty, Moved, shift_reference_plane
from yielding_coil.core.sweep import Sweep, evenly
from yielding_coil.documents.design import CableValues
from yielding_coil.documents.fields import Hertz, Payload, SpreadOf
from yielding_coil.documents.setup import LineIn
from yielding_coil.formats import touchstone
from yielding_coil.store.pieces import cable_row
from yielding_coil.store.sweeps import doubt_of, impedance_sweep_of, keep_sweep, one_sweep
from yielding_coil.store.tables import Setup

router = router_of("line")

# While a length or a velocity is dragged.
SHIFTED_POINTS = 201


class LineDoubtIn(Payload):
    """Two standard deviations, relative, of what is known of a line; its cable's own when left out."""

    velocity: SpreadOf | None = None
    loss: SpreadOf | None = None
    impedance: SpreadOf | None = None
    length: SpreadOf = 0.005


class ShiftIn(BaseModel):
    """A sweep to move through a line; its velocity factor may be another one than the cable's."""

    sweep_id: UUID
    line: LineIn
    towards: Literal["antenna", "radio"] = "antenna"
    doubt: LineDoubtIn = LineDoubtIn()
    velocity_factor: Annotated[float, Field(gt=0.05, le=1)] | None = None
    points: int = Field(default=SHIFTED_POINTS, ge=2, le=801)


class MoveIn(ShiftIn):
    """The same, to be kept under a name."""

    name: Name


class ShareOut(BaseModel):
    """How much of the doubt one thing brings, in the middle of the sweep."""

    what: str
    share: float


class ShiftOut(SweepCurves):
    """A sweep at its new plane with the 90 % bands; where it is not known any more, `known` is false."""

    known: list[bool]
    shares: list[ShareOut]
    worth_measuring: str | None
    matched_loss_db: float


class UnknownLineIn(BaseModel):
    """Two sweeps of a line, its far end open and shorted; the tape's length, or an assumed velocity factor."""

    open_sweep_id: UUID
    short_sweep_id: UUID
    length_m: Annotated[float, Field(ge=0.01, le=1e5)] | None = None
    velocity_factor: Annotated[float, Field(gt=0.05, le=1)] | None = None


class FoundOut(BaseModel):
    """A value and its standard error."""

    value: float
    error: float


class LineOut(BaseModel):
    """A line as its sweeps show it."""

    impedance_ohm: FoundOut
    electrical_m: FoundOut
    velocity_factor: float | None
    length_m: float | None
    length_assumed: bool
    misfit_db: float
    low_hz: float
    high_hz: float
    frequency_hz: Numbers
    matched_loss_db: Numbers
    loss_seen_db: Numbers
    highest_swr: Numbers
    cable: CableValues | None


class EndIn(BaseModel):
    """A sweep at one end of a line, and its velocity factor."""

    sweep_id: UUID
    velocity_factor: Annotated[float, Field(gt=0.05, le=1)]
    # Of the line: against another one its near end is the strongest reflection.
    impedance_ohm: Annotated[float, Field(ge=5, le=2000)] = 50.0


class EndOut(BaseModel):
    """How far away the strongest reflection is, and what it is."""

    distance_m: float
    resolution_m: float
    range_m: float
    kind: core.EndKind
    returned: float


class CeilingOut(BaseModel):
    """The highest SWR that can be read behind a line, whatever hangs there; and what that hides."""

    frequency_hz: Numbers
    highest_swr: Numbers
    matched_loss_db: float
    hides: bool


def _moved(session: InTransaction, request: Request, asked: ShiftIn, points: int | None) -> tuple[Moved, Line]:
    row = cable_row(session, asked.line.cable)
    cable = row.cable
    if asked.velocity_factor is not None:
        cable = replace(cable, velocity_factor=asked.velocity_factor)
    known: Antennas = request.app.state.antennas
    sweep = known.sweep(request.app, asked.sweep_id)
    reading = doubt_of(one_sweep(session, asked.sweep_id))
    if points is not None and sweep.frequency_hz.size > points:
        pick = evenly(sweep.frequency_hz.size, points)
        sweep = Sweep(sweep.frequency_hz[pick], sweep.impedance_ohm[pick])
        reading = None if reading is None else reading.at(pick)
    told = asked.doubt
    doubt = LineUncertainty(
        velocity=row.velocity_tolerance if told.velocity is None else told.velocity,
        loss=row.loss_tolerance if told.loss is None else told.loss,
        impedance=row.impedance_tolerance if told.impedance is None else told.impedance,
        length=told.length,
    )
    line = Line(cable, asked.line.length_m)
    return shift_reference_plane(sweep, line, asked.towards, doubt, reading), line


@router.post("/plane-shifts")
def plane_shift(request: Request, session: InTransaction, asked: ShiftIn) -> ShiftOut:
    """A sweep moved through a line, with the fan of what else it may be; nothing is kept."""
    found, line = _moved(session, request, asked, asked.points)
    f = found.frequency_hz
    curves = SweepCurves.of(Sweep(f, found.impedance_ohm), float(f[0]), float(f[-1]), max(asked.points, f.size))
    # Few points are drawn with guesses between them; a fan is told at the points themselves.
    fan = None
    if len(curves.frequency_hz) == f.size:
        fan = Fan.between(found.low_ohm, found.high_ohm, found.low_swr, found.high_swr)
    curves.fan = fan
    if asked.towards == "radio":
        curves.ceiling = numbers(np.asarray(line.highest_swr(np.asarray(curves.frequency_hz, dtype=float), 50.0)))
    return ShiftOut.model_construct(
        None,
        **dict(curves),
        known=found.known.tolist(),
        shares=[ShareOut(what=name, share=share) for name, share in found.shares],
        worth_measuring=core.worth_measuring(found.shares),
        matched_loss_db=float(np.mean(line.matched_loss_db(f))),
    )


@router.post("/plane-shifts/kept", status_code=201)
def keep_plane_shift(request: Request, session: InTransaction, asked: MoveIn) -> SweepOut:
    """The same at every point of the sweep, kept beside it as a sweep of its own with what is not sure of it."""
    found, line = _moved(session, request, asked, None)
    row = one_sweep(session, asked.sweep_id)
    known_build(session, row.build_id)
    old = session.get(Setup, row.setup_id) if row.setup_id else None
    there = asked.towards == "antenna"
    setup = Setup(
        build_id=row.build_id,
        plane="feedpoint" if there else "line_end",
        line=None if there else asked.line.model_dump(),
        conditions=old.conditions if old else {},
        instrument=old.instrument if old else "",
    )
    session.add(setup)
    session.flush()
    sweep = Sweep(found.frequency_hz, found.impedance_ohm)
    where = "to the antenna" if there else "to the radio"
    kept = keep_sweep(
        session,
        sweep,
        original=touchstone.write(sweep),
        original_name=f"{asked.name}.s1p",
        reference_ohm=row.reference_ohm,
        source=row.source,
        build_id=row.build_id,
        setup_id=setup.id,
        remarks=[f"“{row.name}” moved through {asked.line.length_m:g} m of {line.cable.name} {where}"],
        doubt=found.doubt,
    )
    kept.name = asked.name
    return sweep_out(session, kept)


@router.post("/lines")
def find_line(session: InTransaction, asked: UnknownLineIn) -> LineOut:
    """What a line is, from its two sweeps."""
    opened, shorted = (
        impedance_sweep_of(one_sweep(session, s)) for s in (asked.open_sweep_id, asked.short_sweep_id)
    )
    residual_db = min(trusted(session, s) for s in (asked.open_sweep_id, asked.short_sweep_id))
    found = core.characterise(opened, shorted, asked.length_m, residual_db=residual_db)
    f = np.linspace(found.low_hz, found.high_hz, 201)
    assumed = None if asked.velocity_factor is None else found.length_at(asked.velocity_factor)
    at = opened.frequency_hz[(opened.frequency_hz >= found.low_hz) & (opened.frequency_hz <= found.high_hz)]
    loss = np.asarray(found.matched_loss_db(f))
    return LineOut(
        impedance_ohm=FoundOut.model_validate(core.impedance_found(found), from_attributes=True),
        electrical_m=FoundOut.model_validate(found.electrical_m, from_attributes=True),
        velocity_factor=found.velocity_factor if found.length_m is not None else asked.velocity_factor,
        length_m=assumed if found.length_m is None else found.length_m,
        length_assumed=found.length_m is None and assumed is not None,
        misfit_db=20 * float(np.log10(max(found.misfit, 1e-6))),
        low_hz=found.low_hz,
        high_hz=found.high_hz,
        frequency_hz=numbers(f),
        matched_loss_db=numbers(loss),
        loss_seen_db=numbers(np.interp(f, at, core.loss_seen_db(opened, shorted, at))),
        highest_swr=numbers(core.highest_swr_behind(loss)),
        cable=None if found.length_m is None else CableValues.of(core.known_cable(found), found.high_hz),
    )


@router.post("/lines/ends")
def line_end(request: Request, asked: EndIn) -> EndOut:
    """How far it is to an open, a short, a break."""
    known: Antennas = request.app.state.antennas
    found = core.far_end(known.sweep(request.app, asked.sweep_id), asked.velocity_factor, asked.impedance_ohm)
    return EndOut.model_validate(found, from_attributes=True)


@router.get("/ceilings")
def ceiling(
    session: InTransaction,
    cable: Annotated[str, Query(max_length=60)],
    length_m: Annotated[float, Query(gt=0, le=1e5)],
    low_hz: Hertz,
    high_hz: Hertz,
) -> CeilingOut:
    """The highest SWR against 50 Ω that a radio can read behind a line, whatever hangs there."""
    line = Line(cable_row(session, cable).cable, length_m)
    f = np.linspace(low_hz, max(low_hz, high_hz), 101)
    loss = float(np.mean(line.matched_loss_db(f)))
    return CeilingOut(
        frequency_hz=numbers(f),
        highest_swr=numbers(np.asarray(line.highest_swr(f, 50.0))),
        matched_loss_db=number(loss) or 0.0,
        hides=core.hides_antenna(loss),
    )
