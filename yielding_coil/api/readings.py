"""What a sweep says: resonances, best match, bandwidth, Q, its standing in each target; and two compared."""

from functools import lru_cache
from typing import Literal
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil.api.antennas import Antennas
from yielding_coil.api.numbers import number
from yielding_coil.api.problems import RESPONSES
from yielding_coil.core.arrays import Real
from yielding_coil.core.limits import lowest_swr
from yielding_coil.core.reflection import swr_of, swr_of_impedance
from yielding_coil.core.sweep import Sweep, SwrReadings
from yielding_coil.core.target import Target, require_inside
from yielding_coil.documents.design import TargetPayload

router = APIRouter(prefix="/api/sweeps", tags=["sweeps"], responses=RESPONSES)

POINTS = 101


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


class Floor(BaseModel):
    """The least worst SWR that any lossless match can hold over a target, by how much it may contain."""

    q: float
    antenna_alone: float
    one_more: float
    any: float


class TargetReading(BaseModel):
    """How the wire stands in one target, without a match. R, X and the floor are null where only SWR is known."""

    label: str
    swr_limit: float
    worst_swr: float | None
    best_swr: float | None
    lowest_resistance_ohm: float | None = None
    highest_resistance_ohm: float | None = None
    lowest_reactance_ohm: float | None = None
    highest_reactance_ohm: float | None = None
    floor: Floor | None = None
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


class ComparisonAsked(BaseModel):
    """Two sweeps, and where to compare them."""

    first: UUID
    second: UUID
    targets: list[TargetPayload] = Field(min_length=1, max_length=12)


class TargetDifference(BaseModel):
    """Second against first in one target, R and X at its centre; null where one does not reach or lacks them."""

    label: str
    center_hz: float
    first_worst_swr: float | None
    second_worst_swr: float | None
    resistance_change_ohm: float | None
    reactance_change_ohm: float | None


class Comparison(BaseModel):
    """What became of one sweep in another."""

    first_best_hz: float
    second_best_hz: float
    first_best_swr: float | None
    second_best_swr: float | None
    targets: list[TargetDifference]


def floor_of(antenna: object, target: Target) -> Floor | None:
    """The floor under any match of a swept antenna on a target; None where its Q is not known there."""
    return _floor_of(antenna, target) if isinstance(antenna, Sweep) else None


@lru_cache(maxsize=512)
def _floor_of(antenna: Sweep, target: Target) -> Floor | None:
    """It hangs on nothing that is dragged: computed once for an antenna at hand."""
    q = float(antenna.q(target.center_hz))
    if not (np.isfinite(q) and q > 0):
        return None
    wide = (target.high_hz - target.low_hz) / target.center_hz
    return Floor(
        q=q,
        antenna_alone=lowest_swr(wide, q, "antenna alone"),
        one_more=lowest_swr(wide, q, "one more"),
        any=lowest_swr(wide, q, "any"),
    )


def _swr_at(found: Sweep | SwrReadings, frequency_hz: Real) -> Real:
    if isinstance(found, SwrReadings):
        return swr_of(found.magnitude_at(frequency_hz).astype(complex))
    return swr_of_impedance(found.impedance_at(frequency_hz))


@router.post("/{sweep_id}/readings")
def reading(request: Request, sweep_id: UUID, asked: ReadingAsked) -> Reading:
    """Resonances, best match, bandwidth and Q, and how the wire stands in each target."""
    known: Antennas = request.app.state.antennas
    found = known.swept(request, sweep_id)
    targets = [t.to_core() for t in asked.targets]
    require_inside(targets, found)
    limit = targets[0].swr_limit
    best = found.best_match()
    band = found.bandwidth(limit)
    center = targets[0].center_hz
    sweep = found if isinstance(found, Sweep) else None
    return Reading(
        best_frequency_hz=best.frequency_hz,
        best_swr=number(best.swr),
        resonances=[
            ResonanceOut(frequency_hz=r.frequency_hz, resistance_ohm=r.resistance_ohm, kind=r.kind)
            for r in (sweep.resonances()[:20] if sweep else ())
        ],
        bandwidth=None if band is None else BandwidthOut.model_validate(band, from_attributes=True),
        swr_limit=limit,
        q=number(sweep.q(center)) if sweep else None,
        q_at_hz=center,
        targets=[_standing(found, target) for target in targets],
        above_one=int((np.abs(sweep.reflection()) > 1).sum()) if sweep else 0,
    )


def _standing(found: Sweep | SwrReadings, target: Target) -> TargetReading:
    at = np.linspace(target.low_hz, target.high_hz, POINTS)
    swr = _swr_at(found, at)
    out = TargetReading(
        label=target.label,
        swr_limit=target.swr_limit,
        worst_swr=number(swr.max()),
        best_swr=number(swr.min()),
        holds=bool(swr.max() <= target.swr_limit),
    )
    if isinstance(found, SwrReadings):
        return out
    z = found.impedance_at(at)
    return out.model_copy(
        update={
            "lowest_resistance_ohm": float(z.real.min()),
            "highest_resistance_ohm": float(z.real.max()),
            "lowest_reactance_ohm": float(z.imag.min()),
            "highest_reactance_ohm": float(z.imag.max()),
            "floor": floor_of(found, target),
        }
    )


@router.post("/comparisons")
def compare(request: Request, asked: ComparisonAsked) -> Comparison:
    """Two sweeps over the same targets: where the dip went, what R and X did."""
    known: Antennas = request.app.state.antennas
    first, second = (known.swept(request, each) for each in (asked.first, asked.second))
    best = [each.best_match() for each in (first, second)]
    rows = []
    for target in (t.to_core() for t in asked.targets):
        worst, z = [], []
        for each in (first, second):
            reaches = each.low_hz <= target.low_hz and target.high_hz <= each.high_hz
            at = np.linspace(target.low_hz, target.high_hz, POINTS)
            worst.append(number(_swr_at(each, at).max()) if reaches else None)
            z.append(complex(each.impedance_at(target.center_hz)) if reaches and isinstance(each, Sweep) else None)
        change = z[1] - z[0] if z[0] is not None and z[1] is not None else None
        rows.append(
            TargetDifference(
                label=target.label,
                center_hz=target.center_hz,
                first_worst_swr=worst[0],
                second_worst_swr=worst[1],
                resistance_change_ohm=None if change is None else number(change.real),
                reactance_change_ohm=None if change is None else number(change.imag),
            )
        )
    return Comparison(
        first_best_hz=best[0].frequency_hz,
        second_best_hz=best[1].frequency_hz,
        first_best_swr=number(best[0].swr),
        second_best_swr=number(best[1].swr),
        targets=rows,
    )
