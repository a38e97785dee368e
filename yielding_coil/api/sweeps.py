"""Sweeps: a file in, curves and readings out."""

from datetime import datetime
from itertools import pairwise
from typing import Annotated, Literal
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.antennas import Antennas
from yielding_coil.api.numbers import Numbers, number, rows_of_numbers
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import TooLargeError, UnreadableError
from yielding_coil.core.reflection import reflection_of, return_loss_db, swr_of, swr_of_impedance
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import require_inside
from yielding_coil.formats import touchstone
from yielding_coil.store.content import TargetPayload
from yielding_coil.store.sweeps import core_sweep, keep_sweep, one_sweep
from yielding_coil.store.tables import SweepRow

router = APIRouter(prefix="/api/sweeps", tags=["sweeps"], responses=RESPONSES)

MOST_POINTS = 800


class SweepOut(BaseModel):
    """A kept sweep."""

    id: UUID
    name: str
    source: str
    swept_at: datetime
    points: int
    low_hz: float
    high_hz: float
    reference_ohm: float
    suggested_targets: list[TargetPayload]

    @classmethod
    def from_row(cls, row: SweepRow) -> "SweepOut":
        """As it travels."""
        return cls(
            id=row.id,
            name=row.original_name,
            source=row.source,
            swept_at=row.swept_at,
            points=row.points,
            low_hz=row.low_hz,
            high_hz=row.high_hz,
            reference_ohm=row.reference_ohm,
            suggested_targets=suggested_targets(core_sweep(row)),
        )


class Curves(BaseModel):
    """Everything drawn of an impedance; one entry per frequency, null where there is no finite value."""

    frequency_hz: Numbers
    resistance_ohm: Numbers
    reactance_ohm: Numbers
    swr: Numbers
    return_loss_db: Numbers
    gamma_real: Numbers
    gamma_imag: Numbers

    @classmethod
    def from_core(cls, frequency_hz: Real, impedance_ohm: Complex) -> "Curves":
        """As they travel, Γ and SWR against 50 Ω."""
        gamma = reflection_of(impedance_ohm)
        values = (
            impedance_ohm.real,
            impedance_ohm.imag,
            swr_of(gamma),
            return_loss_db(gamma),
            gamma.real,
            gamma.imag,
        )
        rows = rows_of_numbers(np.stack(values))
        return cls.model_construct(
            frequency_hz=frequency_hz.tolist(),
            **dict(zip(_CURVES, rows, strict=True)),  # type: ignore[arg-type]
        )


_CURVES = ("resistance_ohm", "reactance_ohm", "swr", "return_loss_db", "gamma_real", "gamma_imag")


class ReadingAsked(BaseModel):
    """What to read off a sweep."""

    targets: list[TargetPayload] = Field(min_length=1, max_length=12)


class ResonanceOut(BaseModel):
    """Reactance through zero."""

    frequency_hz: float
    resistance_ohm: float
    kind: Literal["series", "parallel"]


class BandwidthOut(BaseModel):
    """The run round the best match inside a limit."""

    low_hz: float
    high_hz: float
    low_open: bool
    high_open: bool


class TargetReading(BaseModel):
    """How the wire stands in one target, without a match."""

    label: str
    swr_limit: float
    worst_swr: float | None
    best_swr: float | None
    lowest_resistance_ohm: float
    highest_resistance_ohm: float
    lowest_reactance_ohm: float
    highest_reactance_ohm: float
    holds: bool


class Reading(BaseModel):
    """What a sweep says."""

    best_frequency_hz: float
    best_swr: float | None
    resonances: list[ResonanceOut]
    bandwidth: BandwidthOut | None
    swr_limit: float
    q: float | None
    q_at_hz: float
    targets: list[TargetReading]
    above_one: int


async def _body(request: Request) -> bytes:
    """The file, counted while it comes in."""
    pieces: list[bytes] = []
    size = 0
    async for piece in request.stream():
        size += len(piece)
        if size > touchstone.MOST_BYTES:
            raise TooLargeError("the file is larger than 32 MiB; sweep with fewer points", field="file")
        pieces.append(piece)
    return b"".join(pieces)


@router.post(
    "",
    status_code=201,
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
        }
    },
)
def drop_sweep(
    session: InTransaction,
    content: Annotated[bytes, Depends(_body)],
    name: Annotated[str, Query(max_length=255)] = "sweep.s1p",
    build_id: UUID | None = None,
) -> SweepOut:
    """Keep a dropped file, to the byte, and what was read from it."""
    read = touchstone.read_file(content)
    if read.sweep.frequency_hz.size < 2:
        raise UnreadableError("the file holds one frequency; a sweep has two at least: sweep over a band")
    row = keep_sweep(
        session,
        read.sweep,
        original=content,
        original_name=name or "sweep.s1p",
        reference_ohm=read.reference_ohm,
        source="file",
        build_id=build_id,
    )
    return SweepOut.from_row(row)


@router.get("/{sweep_id}")
def sweep(session: InTransaction, sweep_id: UUID) -> SweepOut:
    """A kept sweep."""
    return SweepOut.from_row(one_sweep(session, sweep_id))


@router.get("/{sweep_id}/curves")
def curves(
    request: Request,
    sweep_id: UUID,
    points: Annotated[int, Query(ge=2, le=MOST_POINTS)] = 401,
    low_hz: Annotated[float | None, Query(gt=0)] = None,
    high_hz: Annotated[float | None, Query(gt=0)] = None,
) -> Curves:
    """Curves of a sweep as drawn: its samples, or the extremes of each column where there are too many."""
    known: Antennas = request.app.state.antennas
    found = known.sweep(request, sweep_id)
    pick = (found.frequency_hz >= (low_hz or 0)) & (found.frequency_hz <= (high_hz or np.inf))
    return Curves.from_core(*thinned(found.frequency_hz[pick], found.impedance_ohm[pick], points))


@router.post("/{sweep_id}/readings")
def reading(request: Request, sweep_id: UUID, asked: ReadingAsked) -> Reading:
    """Resonances, best match, bandwidth and Q, and how the wire stands in each target."""
    known: Antennas = request.app.state.antennas
    found = known.sweep(request, sweep_id)
    targets = [t.to_core() for t in asked.targets]
    require_inside(targets, found)
    limit = targets[0].swr_limit
    best = found.best_match()
    band = found.bandwidth(limit)
    rows = []
    for target in targets:
        z = found.impedance_at(np.linspace(target.low_hz, target.high_hz, 101))
        swr = swr_of_impedance(z)
        rows.append(
            TargetReading(
                label=target.label,
                swr_limit=target.swr_limit,
                worst_swr=number(swr.max()),
                best_swr=number(swr.min()),
                lowest_resistance_ohm=float(z.real.min()),
                highest_resistance_ohm=float(z.real.max()),
                lowest_reactance_ohm=float(z.imag.min()),
                highest_reactance_ohm=float(z.imag.max()),
                holds=bool(swr.max() <= target.swr_limit),
            )
        )
    center = targets[0].center_hz
    return Reading(
        best_frequency_hz=best.frequency_hz,
        best_swr=number(best.swr),
        resonances=[
            ResonanceOut(frequency_hz=r.frequency_hz, resistance_ohm=r.resistance_ohm, kind=r.kind)
            for r in found.resonances()[:20]
        ],
        bandwidth=None if band is None else BandwidthOut.model_validate(band, from_attributes=True),
        swr_limit=limit,
        q=number(found.q(center)),
        q_at_hz=center,
        targets=rows,
        above_one=int((np.abs(found.reflection()) > 1).sum()),
    )


@router.get("/{sweep_id}/original", response_class=Response)
def original(session: InTransaction, sweep_id: UUID) -> Response:
    """The file as it came in, to the byte."""
    row = one_sweep(session, sweep_id)
    return _download(row.original, row.original_name)


@router.get("/{sweep_id}/export", response_class=Response)
def export(session: InTransaction, sweep_id: UUID) -> Response:
    """The sweep as a Touchstone one-port file."""
    row = one_sweep(session, sweep_id)
    stem = row.original_name.rsplit(".", 1)[0]
    return _download(touchstone.write(core_sweep(row)), f"{stem}.s1p")


def _download(content: bytes, name: str) -> Response:
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "._- ") else "_" for c in name)
    return Response(
        content,
        media_type="application/octet-stream",
        headers={"Content-Disposition": f'attachment; filename="{plain}"'},
    )


def thinned(frequency_hz: Real, impedance_ohm: Complex, points: int) -> tuple[Real, Complex]:
    """At most `points` samples: of each column the lowest and the highest |Γ|, in order."""
    if frequency_hz.size <= points:
        return frequency_hz, impedance_ohm
    size = np.abs(reflection_of(impedance_ohm))
    edges = np.linspace(0, frequency_hz.size, points // 2 + 1).astype(int)
    keep = {
        at
        for low, high in pairwise(edges)
        if high > low
        for at in (low + int(np.argmin(size[low:high])), low + int(np.argmax(size[low:high])))
    }
    index = np.array(sorted(keep))
    return frequency_hz[index], impedance_ohm[index]


def suggested_targets(found: Sweep) -> list[TargetPayload]:
    """Bands that lie inside a sweep, the best matched first; two percent round its best match if there is none."""

    def best_in(band: data.BandRow) -> float:
        inside = found.impedance_at(np.linspace(band.low_hz, band.high_hz, 21))
        return float(np.abs(reflection_of(inside)).min())

    inside = [b for b in data.bands().values() if found.low_hz <= b.low_hz and b.high_hz <= found.high_hz]
    if inside:
        return [
            TargetPayload(label=b.label, low_hz=b.low_hz, high_hz=b.high_hz, swr_limit=2.0)
            for b in sorted(inside, key=best_in)
        ]
    best = found.best_match().frequency_hz
    low, high = max(best * 0.99, found.low_hz), min(best * 1.01, found.high_hz)
    return [TargetPayload(label="best match", low_hz=low, high_hz=high, swr_limit=2.0)]
