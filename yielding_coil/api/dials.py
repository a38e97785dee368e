"""Readings without a file: what they carry, what they leave open, and the one more that would settle it."""

from collections.abc import Sequence
from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import number
from yielding_coil.api.problems import RESPONSES
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.trim import Dip, dip_of, signs_of
from yielding_coil.documents.meter_reading import DialRead, ImpedanceAt, direct_dip, impedances_of, points_of

router = APIRouter(prefix="/api", tags=["dials"], responses=RESPONSES)

# Lowest SWR lies near resonance, not at it: one standard deviation, relative (common practice).
NEAR_RESONANCE = 0.003


class DialAsked(BaseModel):
    """Readings of one antenna as it now hangs."""

    readings: list[DialRead] = Field(min_length=1, max_length=24)


class PointOut(BaseModel):
    """An SWR at a frequency, and what it may be on such a meter with 90 %."""

    frequency_hz: float
    swr: float
    low_swr: float
    high_swr: float | None


class ImpedanceOut(BaseModel):
    """R, the size of X, and X itself where its sign is known."""

    frequency_hz: float
    resistance_ohm: float
    size_reactance_ohm: float
    reactance_ohm: float | None


class DipOut(BaseModel):
    """Where the dip lies, or on which side; between low and high with 90 %."""

    side: Literal["found", "below", "above", "unknown"]
    frequency_hz: float | None
    swr: float | None
    low_hz: float | None
    high_hz: float | None


class DialOut(BaseModel):
    """What the readings carry; `ask` and `ask_sign` are the one reading more that would settle dip and sign."""

    points: list[PointOut]
    impedances: list[ImpedanceOut]
    dip: DipOut | None
    ask: Finding | None
    ask_sign: Finding | None


class MeterOut(BaseModel):
    """What an SWR may be read on, and how far it strays."""

    key: str
    label: str
    spread: float


@router.get("/tables/meters")
def meters() -> list[MeterOut]:
    """What an SWR may be read on."""
    return [MeterOut(key=m.key, label=m.label, spread=m.spread) for m in data.meters().values()]


@router.post("/dials")
def what_dials_say(asked: DialAsked) -> DialOut:
    """What readings without a file carry; refused where two of them contradict each other."""
    return carried(asked.readings)[0]


def carried(reads: Sequence[BaseModel]) -> tuple[DialOut, Dip | None]:
    """What readings say together, and their dip for the core.

    Raises:
        ContradictionError: two of them, or one with itself, cannot be right.
    """
    points = [p for read in reads for p in points_of(read)]
    found = sorted((z for read in reads for z in impedances_of(read)), key=lambda z: z.frequency_hz)
    # One value a frequency: of two at the same the later counts, their contradiction is the points'.
    by_frequency = {z.frequency_hz: z for z in found}
    impedances = list(by_frequency.values())
    direct = [dip for read in reads if (dip := direct_dip(read)) is not None]
    settled = [dip for dip in direct if dip.side == "found"]
    dip = settled[-1] if settled else dip_of(points) if points else direct[-1] if direct else None
    ask = ask_sign = None
    signed: Sequence[float | None] = [None] * len(impedances)
    if impedances:
        signs = signs_of(
            [z.frequency_hz for z in impedances],
            [z.size_reactance_ohm for z in impedances],
            [z.resistance_ohm for z in impedances],
        )
        signed = signs.reactance_ohm
        if signs.resonance_hz is not None and (dip is None or dip.side != "found"):
            dip = _resonance(signs.resonance_hz, impedances)
        if signs.read_next_hz is not None:
            ask_sign = Finding(code="read_sign_at", values={"frequency_hz": signs.read_next_hz})
    if dip is not None and dip.read_next_hz is not None:
        values: dict[str, float | str | None] = {"frequency_hz": dip.read_next_hz, "side": dip.side}
        ask = Finding(code="read_swr_at", values=values)
    out = DialOut(
        points=[
            PointOut(
                frequency_hz=p.frequency_hz,
                swr=p.swr,
                low_swr=_swr(p.magnitude - 1.645 * p.spread) or 1.0,
                high_swr=_swr(p.magnitude + 1.645 * p.spread),
            )
            for p in points
        ],
        impedances=[
            ImpedanceOut(**z.model_dump(), reactance_ohm=x) for z, x in zip(impedances, signed, strict=True)
        ],
        dip=None
        if dip is None
        else DipOut(
            side=dip.side,
            frequency_hz=dip.frequency_hz,
            swr=dip.swr,
            low_hz=dip.low_hz,
            high_hz=dip.high_hz,
        ),
        ask=ask,
        ask_sign=ask_sign,
    )
    return out, dip


def _resonance(frequency_hz: float, impedances: Sequence[ImpedanceAt]) -> Dip:
    """X = 0 where SWR is too flat to show its lowest point; near it, not at it."""
    nearest = min(impedances, key=lambda z: abs(z.frequency_hz - frequency_hz))
    swr = float(swr_of_impedance(complex(nearest.resistance_ohm)))
    low, high = (frequency_hz * (1 + side * 1.645 * NEAR_RESONANCE) for side in (-1, 1))
    return Dip("found", frequency_hz, NEAR_RESONANCE, swr, low, high, None)


def _swr(magnitude: float) -> float | None:
    held = max(0.0, magnitude)
    return number((1 + held) / (1 - held)) if held < 1 else None
