"""Readings without a file, as they are kept; each knows which points of SWR it carries."""

from typing import Annotated, Literal, Self

from pydantic import BaseModel, Field, model_validator

from yielding_coil import data
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.trim import REPEATED, Dip, Point, dip_between, resistance_and_size, swr_of_powers
from yielding_coil.documents.fields import Hertz, NotNegative, Payload, Positive

Swr = Annotated[float, Field(ge=1, le=1000)]
Ohms = Annotated[Positive, Field(le=1e7)]
Watts = Annotated[NotNegative, Field(le=1e6)]
Meter = Annotated[str, Field(max_length=40)]
MOST_POINTS = 24


class SwrAt(Payload):
    """SWR at a frequency."""

    frequency_hz: Hertz
    swr: Swr


class SizeAt(SwrAt):
    """|Z| beside it."""

    size_ohm: Ohms


class UnsignedAt(Payload):
    """R, and X without its sign."""

    frequency_hz: Hertz
    resistance_ohm: Ohms
    size_reactance_ohm: NotNegative


class PowersAt(Payload):
    """Forward and reflected power."""

    frequency_hz: Hertz
    forward_w: Watts
    reflected_w: Watts


class _Read(Payload):
    meter: Meter = "meter"

    @property
    def spread(self) -> float:
        """How far |Γ| strays on this meter, one standard deviation; refuses a meter that is not in the table."""
        return data.meter(self.meter).spread


class DipRead(_Read):
    """The dip itself, as a person found it by turning the dial."""

    kind: Literal["dip"] = "dip"
    dip_hz: Hertz
    swr: Swr | None = None


class SwrRead(_Read):
    """SWR at some frequencies."""

    kind: Literal["swr"] = "swr"
    points: list[SwrAt] = Field(min_length=1, max_length=MOST_POINTS)


class EdgesRead(_Read):
    """Where the SWR crosses a value; an edge that was not reached is left out."""

    kind: Literal["edges"] = "edges"
    swr: Annotated[float, Field(gt=1, le=20)] = 2.0
    low_hz: Hertz | None = None
    high_hz: Hertz | None = None

    @model_validator(mode="after")
    def _an_edge(self) -> Self:
        self.dip()
        return self

    def dip(self) -> Dip:
        """What the edges say."""
        return dip_between(self.low_hz, self.high_hz, self.swr, self.spread)


class SizeRead(_Read):
    """|Z| with SWR."""

    kind: Literal["size"] = "size"
    points: list[SizeAt] = Field(min_length=1, max_length=MOST_POINTS)


class UnsignedRead(_Read):
    """R and X, the sign of X not shown."""

    kind: Literal["unsigned"] = "unsigned"
    points: list[UnsignedAt] = Field(min_length=1, max_length=MOST_POINTS)


class PowerRead(_Read):
    """Forward and reflected power; full scale is to be set anew at each frequency."""

    kind: Literal["power"] = "power"
    points: list[PowersAt] = Field(min_length=1, max_length=MOST_POINTS)
    full_scale_each: bool = True
    meter: Meter = "power"

    @property
    def spread(self) -> float:
        """Three times as much where full scale was set once for all."""
        return data.meter(self.meter).spread * (1 if self.full_scale_each else 3)


class SweepRead(Payload):
    """A kept sweep; the entry says which."""

    kind: Literal["sweep"] = "sweep"


DialRead = Annotated[
    DipRead | SwrRead | EdgesRead | SizeRead | UnsignedRead | PowerRead, Field(discriminator="kind")
]
AnyRead = Annotated[
    DipRead | SwrRead | EdgesRead | SizeRead | UnsignedRead | PowerRead | SweepRead, Field(discriminator="kind")
]


class ImpedanceAt(BaseModel):
    """R and the size of X at a frequency."""

    frequency_hz: float
    resistance_ohm: float
    size_reactance_ohm: float


def impedances_of(read: BaseModel) -> list[ImpedanceAt]:
    """R and |X| where a reading carries them.

    Raises:
        ContradictionError: |Z| and SWR that no impedance has.
    """
    if isinstance(read, UnsignedRead):
        return [
            ImpedanceAt(
                frequency_hz=p.frequency_hz,
                resistance_ohm=p.resistance_ohm,
                size_reactance_ohm=p.size_reactance_ohm,
            )
            for p in read.points
        ]
    if isinstance(read, SizeRead):
        found = []
        for p in read.points:
            resistance, size = resistance_and_size(p.size_ohm, p.swr)
            found.append(
                ImpedanceAt(frequency_hz=p.frequency_hz, resistance_ohm=resistance, size_reactance_ohm=size)
            )
        return found
    return []


def points_of(read: BaseModel) -> list[Point]:
    """The points of SWR that a reading carries; none of a dip or of edges, which say more than points.

    Raises:
        ContradictionError: powers that no load gives back.
    """
    if isinstance(read, SwrRead | SizeRead):
        return [Point(p.frequency_hz, p.swr, read.spread) for p in read.points]
    if isinstance(read, PowerRead):
        return [Point(p.frequency_hz, swr_of_powers(p.forward_w, p.reflected_w), read.spread) for p in read.points]
    if isinstance(read, UnsignedRead):
        return [
            Point(
                p.frequency_hz,
                float(swr_of_impedance(complex(p.resistance_ohm, p.size_reactance_ohm))),
                read.spread,
            )
            for p in read.points
        ]
    return []


def direct_dip(read: BaseModel) -> Dip | None:
    """The dip where a reading is one."""
    if isinstance(read, DipRead):
        spread = REPEATED
        return Dip(
            "found",
            read.dip_hz,
            spread,
            read.swr,
            read.dip_hz * (1 - 1.645 * spread),
            read.dip_hz * (1 + 1.645 * spread),
            None,
        )
    return read.dip() if isinstance(read, EdgesRead) else None
