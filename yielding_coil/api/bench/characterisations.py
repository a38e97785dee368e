"""What one holds, from sweeps of it alone: a ring's material, a coil, a capacitor, a trap."""

from dataclasses import asdict
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.sweep import Antennas, trusted
from yielding_coil.core.bench import (
    KEPT_NOISE,
    KeptCapacitor,
    KeptMaterial,
    Value,
    characterise,
    kept_at,
    kept_material,
    kept_part,
    lowest_al_h,
    useful,
)
from yielding_coil.documents.piece import CapacitorValues, PartValues
from yielding_coil.documents.ring_wound import MaterialPoint, MaterialValues

router = router_of("bench", "/api/characterisations")


class TurnsIn(BaseModel):
    """A sweep of so many turns on the ring, alone across the port."""

    turns: Annotated[int, Field(ge=1, le=200)]
    sweep_id: UUID


class RingIn(BaseModel):
    """Turns on a ring nobody knows, once or twice with different turns."""

    size: Annotated[str, Field(max_length=40)]
    stack: Annotated[int, Field(ge=1, le=12)] = 1
    wound: list[TurnsIn] = Field(min_length=1, max_length=3)


class SimilarMix(BaseModel):
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
    likely: list[SimilarMix]
    # The likeliest mix of the table over the same frequencies; null when it is like none.
    table_real: list[float] | None
    table_imaginary: list[float] | None
    stray_f: list[float]
    # Henry a turn squared of one ring at the lowest frequency.
    al_h: float
    residual_db: float
    values: MaterialValues


class PartIn(BaseModel):
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
def characterise_ring(request: Request, session: InTransaction, asked: RingIn) -> RingOut:
    """The permeability of a ring from one or more windings on it; nothing is kept."""
    antennas: Antennas = request.app.state.antennas
    size = data.ring_size(asked.size)
    residual_db = min(trusted(session, w.sweep_id) for w in asked.wound)
    wound = [characterise.TurnsSweep(w.turns, useful(antennas.sweep(request.app, w.sweep_id))) for w in asked.wound]
    table = list(data.ring_materials().values())
    found = characterise.ring(wound, size, table, stack=asked.stack, residual_db=residual_db, noise=KEPT_NOISE)
    at, kept = kept_at(found), kept_material(found)
    f, mu = found.frequency_hz[at], found.permeability[at]
    known = None if kept.like is None else data.ring_material(kept.like).permeability(f)
    return RingOut(
        frequency_hz=f.tolist(),
        real=mu.real.tolist(),
        imaginary=(-mu.imag).tolist(),
        real_error=(2 * found.real_error[at]).tolist(),
        imaginary_error=(2 * found.imaginary_error[at]).tolist(),
        likely=[SimilarMix(mix=k.mix, share=k.share, factor=k.factor) for k in found.likely],
        table_real=None if known is None else known.real.tolist(),
        table_imaginary=None if known is None else (-known.imag).tolist(),
        stray_f=[farad for farad, _ in found.stray_f],
        al_h=lowest_al_h(found, size),
        residual_db=residual_db,
        values=_material(kept),
    )


def _material(kept: KeptMaterial) -> MaterialValues:
    points = [MaterialPoint(frequency_hz=hz, real=real, imaginary=loss) for hz, real, loss in kept.points]
    return MaterialValues(points=points, tolerance=kept.tolerance, like=kept.like)


@router.post("/part")
def characterise_part(request: Request, session: InTransaction, asked: PartIn) -> PartOut:
    """L, C, Q and self-resonance of one thing alone; nothing is kept."""
    antennas: Antennas = request.app.state.antennas
    residual_db = trusted(session, asked.sweep_id)
    sweep = antennas.sweep(request.app, asked.sweep_id)
    found = characterise.part(sweep, asked.kind, residual_db=residual_db, noise=KEPT_NOISE)
    kept = kept_part(found)
    values = CapacitorValues(**asdict(kept)) if isinstance(kept, KeptCapacitor) else PartValues(**asdict(kept))
    return PartOut(
        kind=found.kind,
        inductance_h=_value(found.inductance_h),
        capacitance_f=_value(found.capacitance_f),
        q=_value(found.q),
        q_at_hz=found.q_at_hz,
        resonance_hz=_value(found.resonance_hz),
        residual_db=residual_db,
        values=values,
    )


def _value(found: Value | None) -> ValueOut | None:
    return None if found is None else ValueOut(value=found.value, error=2 * found.error)
