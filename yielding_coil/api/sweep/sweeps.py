"""Sweeps: files, typed points and pasted text in; curves, tables and the original out."""

from collections import OrderedDict
from datetime import datetime
from itertools import pairwise
from typing import Annotated, Any, Literal
from uuid import UUID

import numpy as np
from fastapi import Depends, Query, Request, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.api.http import BYTES_BODY, InTransaction, body_up_to, download, router_of
from yielding_coil.api.sweep.cache import Antennas
from yielding_coil.api.sweep.curves import SweepCurves
from yielding_coil.api.sweep.setups import SetupOut, setup_out
from yielding_coil.api.tables import BandOut, bands_for
from yielding_coil.core.errors import InUseError, OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.sweep import Sweep, require_passive, suggested_targets
from yielding_coil.documents.design import TargetPayload
from yielding_coil.documents.fields import Counted, Finite, Hertz, NotNegative, Payload, Words, plain
from yielding_coil.documents.setup import Conditions, SetupIn
from yielding_coil.formats import table, touchstone
from yielding_coil.formats.apart import read_apart
from yielding_coil.formats.text import MOST_BYTES
from yielding_coil.store import builds as build_queries
from yielding_coil.store.pieces import cable_row
from yielding_coil.store.revised import edit
from yielding_coil.store.setups import keep_setup
from yielding_coil.store.sweeps import (
    bin_sweep,
    doubt_of,
    impedance_sweep_of,
    keep_sweep,
    one_sweep,
    sweep_of,
    uses_of,
)
from yielding_coil.store.tables import Build, Setup, SweepRow

router = router_of("sweep", "/api/sweeps")

MOST_DRAWN = 800
MOST_TYPED = 64
Name = Annotated[Words, Field(min_length=1, max_length=255)]


class SweepOut(BaseModel):
    """A kept sweep."""

    id: UUID
    build_id: UUID | None
    revision: Counted
    name: str
    source: Literal["file", "typed", "analyser", "dial", "simulated"]
    carries: Literal["impedance", "swr"]
    swept_at: datetime
    points: int
    low_hz: float
    high_hz: float
    reference_ohm: float
    remarks: list[str]
    setup: SetupOut | None
    calibration_id: UUID | None
    suggested_targets: list[TargetPayload]


class SweepPatch(BaseModel):
    """Another name for a sweep, or where it was taken as one says now; what is left out stays."""

    revision: Counted
    name: Name | None = None
    plane: Literal["feedpoint", "matched"] | None = None


class TypedPoint(Payload):
    """R and X as read at one frequency."""

    frequency_hz: Hertz
    resistance_ohm: NotNegative
    reactance_ohm: Finite


class PointsIn(BaseModel):
    """A sweep typed by hand."""

    name: Name = "typed points"
    points: list[TypedPoint] = Field(min_length=2, max_length=MOST_TYPED)
    build_id: UUID | None = None


def sweep_out(session: Session, row: SweepRow) -> SweepOut:
    """As it travels."""
    return SweepOut(
        id=row.id,
        build_id=row.build_id,
        revision=row.revision,
        name=row.name,
        source=row.source,  # type: ignore[arg-type]
        carries=row.carries,  # type: ignore[arg-type]
        swept_at=row.swept_at,
        points=row.points,
        low_hz=row.low_hz,
        high_hz=row.high_hz,
        reference_ohm=row.reference_ohm,
        remarks=row.remarks,
        setup=_setup(session, row),
        calibration_id=row.calibration_id,
        suggested_targets=_suggestions(row, bands_for(session)),
    )


def _setup(session: Session, row: SweepRow) -> SetupOut | None:
    kept = session.get(Setup, row.setup_id) if row.setup_id else None
    return None if kept is None else setup_out(kept)


def require_bare(session: Session, row: SweepRow) -> None:
    """Refuse to put a match on a sweep that was taken with the match in place."""
    setup = _setup(session, row)
    if setup is not None and setup.plane == "matched":
        raise OutOfDomainError(
            "baseline_sweep_id",
            f"“{row.name}”, swept with the match in place",
            "a sweep of the wire alone: a match on a match is none",
        )


_Known = tuple[UUID, tuple[tuple[str, float, float], ...]]
_suggested: OrderedDict[_Known, list[TargetPayload]] = OrderedDict()
MOST_SUGGESTED = 512


def _suggestions(row: SweepRow, bands: list[BandOut]) -> list[TargetPayload]:
    """The suggestions for a sweep, which never changes: kept at hand as long as the bands stay the same."""
    key = (row.id, tuple((b.label, b.low_hz, b.high_hz) for b in bands))
    known = _suggested.get(key)
    if known is None:
        edges = [(b.label, b.low_hz, b.high_hz) for b in bands]
        known = _suggested[key] = [
            TargetPayload(label=t.label, low_hz=t.low_hz, high_hz=t.high_hz, swr_limit=t.swr_limit)
            for t in suggested_targets(sweep_of(row), edges)
        ]
        while len(_suggested) > MOST_SUGGESTED:
            _suggested.popitem(last=False)
    return known


_body = body_up_to(MOST_BYTES, "the file is larger than 32 MiB; sweep with fewer points")


@router.post(
    "",
    status_code=201,
    openapi_extra=BYTES_BODY,
)
def drop_sweep(
    session: InTransaction,
    content: Annotated[bytes, Depends(_body)],
    name: Annotated[str, Query(max_length=255)] = "sweep.s1p",
    build_id: UUID | None = None,
    take: Literal["S11"] | None = None,
) -> SweepOut:
    """Keep a dropped or pasted file, to the byte, and what was read from it."""
    read = read_apart(content, name, take)
    row = keep_sweep(
        session,
        read.found,
        original=content,
        original_name=plain(name) or "sweep.s1p",
        reference_ohm=read.reference_ohm,
        source="file",
        build_id=known_build(session, build_id),
        remarks=read.remarks,
    )
    return sweep_out(session, row)


@router.post("/points", status_code=201)
def type_sweep(session: InTransaction, typed: PointsIn) -> SweepOut:
    """Keep R and X typed at a handful of frequencies as a sweep in its own right."""
    points = sorted(typed.points, key=lambda p: p.frequency_hz)
    for before, after in pairwise(points):
        if before.frequency_hz == after.frequency_hz:
            raise OutOfDomainError("points", f"{after.frequency_hz / 1e6:g} MHz twice", "one point a frequency")
    found = Sweep(
        np.array([p.frequency_hz for p in points]),
        np.array([complex(p.resistance_ohm, p.reactance_ohm) for p in points]),
    )
    require_passive(found)
    row = keep_sweep(
        session,
        found,
        original=table.write(found),
        original_name=f"{typed.name[:250]}.csv",
        reference_ohm=50.0,
        source="typed",
        build_id=known_build(session, typed.build_id),
    )
    row.name = typed.name
    return sweep_out(session, row)


def known_build(session: Session, build_id: UUID | None) -> UUID | None:
    """The id of a build that is there; none where none is asked for."""
    return build_queries.one_build(session, build_id).id if build_id else None


@router.get("/{sweep_id}")
def sweep(session: InTransaction, sweep_id: UUID) -> SweepOut:
    """A kept sweep."""
    return sweep_out(session, one_sweep(session, sweep_id))


@router.patch("/{sweep_id}")
def change_sweep(session: InTransaction, sweep_id: UUID, patch: SweepPatch) -> SweepOut:
    """Give a sweep another name, or say where it was taken; 409 when it was changed elsewhere since."""
    row = one_sweep(session, sweep_id)
    changes: dict[str, Any] = {} if patch.name is None else {"name": patch.name}
    if patch.plane is not None:
        build = session.get(Build, row.build_id) if row.build_id else None
        if patch.plane == "matched" and build is not None and build.baseline_sweep_id == row.id:
            raise InUseError(f"“{row.name}” is the sweep that the match hangs on; use another one for it first")
        before = _setup(session, row)
        setup = SetupIn(plane=patch.plane, conditions=before.conditions if before else Conditions())
        changes["setup_id"] = keep_setup(session, row.build_id, setup, before.instrument if before else "").id
    edit(session, row, patch.revision, changes, lambda: sweep_out(session, row))
    return sweep_out(session, row)


@router.delete("/{sweep_id}", status_code=204)
def bin_one_sweep(session: InTransaction, sweep_id: UUID, revision: Counted) -> None:
    """Put a sweep in the bin; 409 while its build's match, or a design, hangs on it."""
    row = one_sweep(session, sweep_id)
    build = session.get(Build, row.build_id) if row.build_id else None
    if build is not None and build.baseline_sweep_id == row.id:
        raise InUseError(f"“{row.name}” is the sweep that the match hangs on; use another one for it first")
    used = uses_of(session, row)
    if used:
        raise InUseError(f"“{row.name}” is used by {' and '.join(used)}: give that another sweep, or bin it, first")
    edit(session, row, revision, {}, lambda: sweep_out(session, row))
    bin_sweep(row)


@router.post("/{sweep_id}/restore")
def restore_sweep(session: InTransaction, sweep_id: UUID) -> SweepOut:
    """Take a sweep out of the bin."""
    row = one_sweep(session, sweep_id, deleted=True)
    row.deleted_at = None
    return sweep_out(session, row)


@router.get("/{sweep_id}/curves")
def curves(
    request: Request,
    session: InTransaction,
    sweep_id: UUID,
    points: Annotated[int, Query(ge=2, le=MOST_DRAWN)] = 401,
    low_hz: Annotated[float | None, Query(gt=0)] = None,
    high_hz: Annotated[float | None, Query(gt=0)] = None,
) -> SweepCurves:
    """Curves of a sweep as drawn: its samples, or the extremes of each column where there are too many."""
    known: Antennas = request.app.state.antennas
    found = known.sweep_of(request.app, sweep_id)
    low, high = low_hz or found.low_hz, high_hz or found.high_hz
    if not (low <= found.high_hz and found.low_hz <= high and low < high):
        raise OutOfDomainError(
            "low_hz", f"{low:g} to {high:g} Hz", f"a stretch of the sweep, {found.low_hz:g} to {found.high_hz:g} Hz"
        )
    row = one_sweep(session, sweep_id)
    setup = _setup(session, row)
    behind = None
    if setup is not None and setup.plane == "line_end" and setup.line is not None and setup.line.length_m > 0:
        behind = Line(cable_row(session, setup.line.cable, deleted=True).cable, setup.line.length_m)
    return SweepCurves.of(found, low, high, points, doubt_of(row), behind)


@router.get("/{sweep_id}/original", response_class=Response)
def original(session: InTransaction, sweep_id: UUID) -> Response:
    """The file as it came in, to the byte."""
    row = one_sweep(session, sweep_id)
    return download(row.original, row.original_name)


@router.get("/{sweep_id}/export", response_class=Response)
def export(
    session: InTransaction, sweep_id: UUID, as_: Annotated[Literal["s1p", "csv"], Query(alias="as")] = "s1p"
) -> Response:
    """The sweep as a Touchstone one-port file or as a table; SWR alone only as a table."""
    row = one_sweep(session, sweep_id)
    stem = row.name.rsplit(".", 1)[0] or "sweep"
    found = sweep_of(row)
    if as_ == "csv":
        content = table.write(found) if isinstance(found, Sweep) else table.write_readings(found)
    else:
        content = touchstone.write(impedance_sweep_of(row))
    return download(content, f"{stem}.{as_}")
