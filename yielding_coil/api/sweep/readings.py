"""What a sweep says: resonances, best match, bandwidth, Q, its standing in each target; and two compared."""

from typing import Literal
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil.api.http import Figure, number, router_of
from yielding_coil.api.sweep.cache import Antennas
from yielding_coil.core.sweep import (
    MovedState,
    Sharpness,
    Standing,
    Sweep,
    above_one,
    band_change,
    known_q,
    match_floor,
    moved_since,
    sharpness_of,
    standing,
    too_wide,
)
from yielding_coil.core.target import Target, require_inside
from yielding_coil.documents.design import TargetPayload

router = router_of("sweep", "/api/sweeps")


class ReadingIn(BaseModel):
    """What to read off a sweep."""

    targets: list[TargetPayload] = Field(min_length=1, max_length=12)


class ResonanceOut(BaseModel):
    """Reactance through zero."""

    frequency_hz: float
    resistance_ohm: float
    kind: Literal["series", "parallel"]
    # There: the ratio of R to 50 Ω, which need not be the lowest.
    swr: Figure


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
    # Nine times in ten, by what the reading leaves open.
    any_low: float
    any_high: float
    narrow: bool
    almost_perfect: bool


class TargetReading(BaseModel):
    """How the wire stands in one target, without a match. R, X and the floor are null where only SWR is known."""

    label: str
    swr_limit: float
    worst_swr: Figure
    best_swr: Figure
    lowest_resistance_ohm: float | None = None
    highest_resistance_ohm: float | None = None
    lowest_reactance_ohm: float | None = None
    highest_reactance_ohm: float | None = None
    reactance: Standing | None = None
    floor: Floor | None = None
    holds: bool


class Reading(BaseModel):
    """What a sweep says."""

    best_frequency_hz: float
    best_swr: float | None
    resonances: list[ResonanceOut]
    bandwidth: BandwidthOut | None
    swr_limit: float
    q: Figure
    q_at_hz: float
    sharpness: Sharpness | None = None
    targets: list[TargetReading]
    above_one: int
    # Wider than a wire can be: no proof of a good antenna.
    too_wide: bool = False


class ComparisonIn(BaseModel):
    """Two sweeps, and where to compare them."""

    first: UUID
    second: UUID
    targets: list[TargetPayload] = Field(min_length=1, max_length=12)


class TargetDifference(BaseModel):
    """Second against first in one target, R and X at its centre; null where one does not reach or lacks them."""

    label: str
    center_hz: float
    first_worst_swr: Figure
    second_worst_swr: Figure
    resistance_change_ohm: Figure
    reactance_change_ohm: Figure


class Comparison(BaseModel):
    """What became of one sweep in another."""

    first_best_hz: float
    second_best_hz: float
    first_best_swr: float | None
    second_best_swr: float | None
    targets: list[TargetDifference]


def floor_of(antenna: object, target: Target) -> Floor | None:
    """The floor under any match of a swept antenna on a target; None where its Q is not known there."""
    found = match_floor(antenna, target) if isinstance(antenna, Sweep) else None
    return None if found is None else Floor.model_validate(found, from_attributes=True)


@router.post("/{sweep_id}/readings")
def reading(request: Request, sweep_id: UUID, asked: ReadingIn) -> Reading:
    """Resonances, best match, bandwidth and Q, and how the wire stands in each target."""
    known: Antennas = request.app.state.antennas
    found = known.sweep_of(request.app, sweep_id)
    targets = [t.to_core() for t in asked.targets]
    require_inside(targets, found)
    limit, center = targets[0].swr_limit, targets[0].center_hz
    best, band = found.best_match(), found.bandwidth(limit)
    sweep = found if isinstance(found, Sweep) else None
    q = known_q(sweep, center) if sweep else None
    return Reading(
        best_frequency_hz=best.frequency_hz,
        best_swr=number(best.swr),
        resonances=[
            ResonanceOut.model_validate(r, from_attributes=True) for r in (sweep.resonances()[:20] if sweep else ())
        ],
        bandwidth=None if band is None else BandwidthOut.model_validate(band, from_attributes=True),
        swr_limit=limit,
        q=q,
        q_at_hz=center,
        sharpness=None if q is None else sharpness_of(q),
        targets=[TargetReading.model_validate(standing(found, t), from_attributes=True) for t in targets],
        above_one=above_one(found),
        too_wide=too_wide(found),
    )


@router.post("/comparisons")
def compare(request: Request, asked: ComparisonIn) -> Comparison:
    """Two sweeps over the same targets: where the dip went, what R and X did."""
    known: Antennas = request.app.state.antennas
    first, second = (known.sweep_of(request.app, each) for each in (asked.first, asked.second))
    best = [each.best_match() for each in (first, second)]
    changes = [band_change(first, second, t.to_core()) for t in asked.targets]
    return Comparison(
        first_best_hz=best[0].frequency_hz,
        second_best_hz=best[1].frequency_hz,
        first_best_swr=number(best[0].swr),
        second_best_swr=number(best[1].swr),
        targets=[TargetDifference.model_validate(change, from_attributes=True) for change in changes],
    )


class MovedSinceOut(BaseModel):
    """What moved in a second sweep of the same thing, beyond the analyser's doubt or not; whether it matters."""

    state: MovedState
    at_hz: Figure
    reflection_change: Figure
    doubt: Figure
    reactance_share: Figure
    targets: list[TargetDifference]


@router.post("/moved")
def moved_since_sweep(request: Request, asked: ComparisonIn) -> MovedSinceOut:
    """The same thing swept twice, with something done to it between."""
    known: Antennas = request.app.state.antennas
    first, second = (known.sweep(request.app, each) for each in (asked.first, asked.second))
    found = moved_since(first, second, [t.to_core() for t in asked.targets])
    return MovedSinceOut.model_validate(found, from_attributes=True)
