"""What one holds, from sweeps of it alone: a ring's material, a coil, a capacitor, a trap."""

from typing import Annotated, Literal
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.antennas import Antennas
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.api.verdicts import NOISE, trusted_db, useful
from yielding_coil.core.bench import FoundPart, FoundRing, Value, characterise
from yielding_coil.documents.piece import CapacitorValues, PartValues
from yielding_coil.documents.ring_wound import MaterialPoint, MaterialValues

router = APIRouter(prefix="/api/characterisations", tags=["bench"], responses=RESPONSES)

# Points of a curve that is kept.
KEPT_POINTS = 61
# Two standard deviations of a permeability are not believed to be less than this.
LEAST_TOLERANCE = 0.02


class TurnsIn(BaseModel):
    """A sweep of so many turns on the ring, alone across the port."""

    turns: Annotated[int, Field(ge=1, le=200)]
    sweep_id: UUID


class RingAsked(BaseModel):
    """Turns on a ring nobody knows, once or twice with different turns."""

    size: Annotated[str, Field(max_length=40)]
    stack: Annotated[int, Field(ge=1, le=12)] = 1
    wound: list[TurnsIn] = Field(min_length=1, max_length=3)


class LikeOut(BaseModel):
    """How like a mix it is: its share among all, and by which factor it differs from the table."""

    mix: str
    share: float
    factor: float


class RingOut(BaseModel):
    """A ring's permeability with two standard deviations of each part, what it is like, and what may be kept."""

    frequency_hz: list[float]
    real: list[float]
    imaginary: list[float]
    real_error: list[float]
    imaginary_error: list[float]
    likely: list[LikeOut]
    # The likeliest mix of the table over the same frequencies; null when it is like none.
    table_real: list[float] | None
    table_imaginary: list[float] | None
    stray_f: list[float]
    # Henry a turn squared of one ring at the lowest frequency.
    al_h: float
    residual_db: float
    values: MaterialValues


class PartAsked(BaseModel):
    """One thing alone across the port."""

    kind: Literal["coil", "capacitor", "trap"]
    sweep_id: UUID


class ValueOut(BaseModel):
    """A value with two standard deviations."""

    value: float
    error: float


class PartOut(BaseModel):
    """A coil, a capacitor or a trap by its sweep, and what may be kept of it; null is what it does not show."""

    kind: Literal["coil", "capacitor", "trap"]
    inductance_h: ValueOut | None
    capacitance_f: ValueOut | None
    q: ValueOut | None
    q_at_hz: float
    resonance_hz: ValueOut | None
    residual_db: float
    values: PartValues | CapacitorValues


@router.post("/ring")
def characterise_ring(request: Request, session: InTransaction, asked: RingAsked) -> RingOut:
    """The permeability of a ring from one or more windings on it; nothing is kept."""
    antennas: Antennas = request.app.state.antennas
    size = data.ring_size(asked.size)
    trusted = min(trusted_db(session, w.sweep_id) for w in asked.wound)
    wound = [characterise.Wound(w.turns, useful(antennas.sweep(request, w.sweep_id))) for w in asked.wound]
    table = list(data.ring_materials().values())
    found = characterise.ring(wound, size, table, stack=asked.stack, residual_db=trusted, noise=NOISE)
    at = np.unique(
        np.abs(
            found.frequency_hz[np.newaxis, :]
            - np.geomspace(found.frequency_hz[0], found.frequency_hz[-1], KEPT_POINTS)[:, np.newaxis]
        ).argmin(axis=1)
    )
    f, mu = found.frequency_hz[at], found.permeability[at]
    likely = found.likely[0].mix if found.likely else None
    known = None if likely is None else data.ring_material(likely).permeability(f)
    return RingOut(
        frequency_hz=f.tolist(),
        real=mu.real.tolist(),
        imaginary=(-mu.imag).tolist(),
        real_error=(2 * found.real_error[at]).tolist(),
        imaginary_error=(2 * found.imaginary_error[at]).tolist(),
        likely=[LikeOut(mix=k.mix, share=k.share, factor=k.factor) for k in found.likely],
        table_real=None if known is None else known.real.tolist(),
        table_imaginary=None if known is None else (-known.imag).tolist(),
        stray_f=[farad for farad, _ in found.stray_f],
        al_h=float(4e-7 * np.pi * mu.real[0] * size.area_m2 / size.path_m),
        residual_db=trusted,
        values=_material(found, at, likely),
    )


def _material(found: FoundRing, at: np.ndarray, likely: str | None) -> MaterialValues:
    f, mu = found.frequency_hz[at], found.permeability[at]
    # One figure for all of it: what the median point is known to.
    spread = np.hypot(found.real_error[at], found.imaginary_error[at]) / np.abs(mu)
    return MaterialValues(
        points=[
            MaterialPoint(frequency_hz=float(hz), real=max(float(m.real), 1e-3), imaginary=max(float(-m.imag), 0.0))
            for hz, m in zip(f, mu, strict=True)
        ],
        tolerance=min(0.5, max(LEAST_TOLERANCE, 2 * float(np.median(spread)))),
        like=likely,
    )


@router.post("/part")
def characterise_part(request: Request, session: InTransaction, asked: PartAsked) -> PartOut:
    """L, C, Q and self-resonance of one thing alone; nothing is kept."""
    antennas: Antennas = request.app.state.antennas
    trusted = trusted_db(session, asked.sweep_id)
    sweep = antennas.sweep(request, asked.sweep_id)
    found = characterise.part(sweep, asked.kind, residual_db=trusted, noise=NOISE)
    return PartOut(
        kind=found.kind,
        inductance_h=_value(found.inductance_h),
        capacitance_f=_value(found.capacitance_f),
        q=_value(found.q),
        q_at_hz=found.q_at_hz,
        resonance_hz=_value(found.resonance_hz),
        residual_db=trusted,
        values=_values(found),
    )


def _value(found: Value | None) -> ValueOut | None:
    return None if found is None else ValueOut(value=found.value, error=2 * found.error)


def _values(found: FoundPart) -> PartValues | CapacitorValues:
    """As the drawer keeps it."""
    if found.kind == "capacitor" and found.capacitance_f is not None:
        farad = found.capacitance_f
        return CapacitorValues(
            capacitance_f=farad.value,
            tolerance=min(0.5, 2 * farad.error / farad.value),
            q=found.q.value if found.q is not None else 1500.0,
        )
    henry = found.inductance_h
    assert henry is not None
    return PartValues(
        inductance_h=henry.value,
        inductance_error=min(0.5, 2 * henry.error / henry.value),
        capacitance_f=found.capacitance_f.value if found.capacitance_f is not None else None,
        q=found.q.value if found.q is not None else None,
        q_at_hz=found.q_at_hz if found.q is not None else None,
        resonance_hz=found.resonance_hz.value if found.resonance_hz is not None else None,
    )
