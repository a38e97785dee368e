"""Readings without a file: what they carry, what they leave open, and the one more that would settle it."""

from typing import Literal

from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.http import EvidenceFinding, Figure, router_of
from yielding_coil.core.finding import EvidenceCode, Finding
from yielding_coil.core.trim import Weighed, evidence_of
from yielding_coil.documents.meter_reading import MeterReading

router = router_of("trim")


class MeterReadingIn(BaseModel):
    """Readings of one antenna as it now hangs."""

    readings: list[MeterReading] = Field(min_length=1, max_length=24)


class PointOut(BaseModel):
    """An SWR at a frequency, and what it may be on such a meter with 90 %."""

    frequency_hz: float
    swr: float
    low_swr: float
    high_swr: Figure


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


class EvidenceOut(BaseModel):
    """What the readings carry; `ask` and `ask_sign` are the one reading more that would settle dip and sign."""

    points: list[PointOut]
    impedances: list[ImpedanceOut]
    dip: DipOut | None
    ask: EvidenceFinding | None
    ask_sign: EvidenceFinding | None

    @classmethod
    def of(cls, found: Weighed) -> "EvidenceOut":
        """From what the core makes of readings."""
        points = []
        for point in found.points:
            low, high = point.swr_band()
            points.append(PointOut(frequency_hz=point.frequency_hz, swr=point.swr, low_swr=low, high_swr=high))
        return cls(
            points=points,
            impedances=[ImpedanceOut(**z._asdict()) for z in found.impedances],
            dip=None if found.dip is None else DipOut.model_validate(found.dip, from_attributes=True),
            ask=_asked(found.ask),
            ask_sign=_asked(found.ask_sign),
        )


def _asked(found: Finding[EvidenceCode] | None) -> EvidenceFinding | None:
    return None if found is None else EvidenceFinding.model_validate(found, from_attributes=True)


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
def what_dials_say(asked: MeterReadingIn) -> EvidenceOut:
    """What readings without a file carry; refused where two of them contradict each other."""
    return EvidenceOut.of(evidence_of([reading.to_core() for reading in asked.readings]))
