"""Readings without a file, as they are kept; each knows what it carries."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from yielding_coil import data
from yielding_coil.core.trim import Evidence, of_dip, of_edges, of_powers, of_sizes, of_swr, of_unsigned
from yielding_coil.documents.fields import Hertz, NotNegative, Payload, Positive

Swr = Annotated[float, Field(ge=1, le=1000)]
Ohms = Annotated[Positive, Field(le=1e7)]
Watts = Annotated[NotNegative, Field(le=1e6)]
Meter = Annotated[str, Field(max_length=40)]
MOST_READINGS = 24


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

    def to_core(self) -> Evidence:
        """The dip."""
        return of_dip(self.dip_hz, self.swr)


class SwrRead(_Read):
    """SWR at some frequencies."""

    kind: Literal["swr"] = "swr"
    points: list[SwrAt] = Field(min_length=1, max_length=MOST_READINGS)

    def to_core(self) -> Evidence:
        """Points of SWR."""
        return of_swr([(p.frequency_hz, p.swr) for p in self.points], self.spread)


class EdgesRead(_Read):
    """Where the SWR crosses a value; an edge that was not reached is left out."""

    kind: Literal["edges"] = "edges"
    swr: Annotated[float, Field(gt=1, le=20)] = 2.0
    low_hz: Hertz | None = None
    high_hz: Hertz | None = None

    @model_validator(mode="after")
    def _an_edge(self) -> Self:
        self.to_core()
        return self

    def to_core(self) -> Evidence:
        """The dip between them, or the side it lies on."""
        return of_edges(self.low_hz, self.high_hz, self.swr, self.spread)


class MagnitudeReading(_Read):
    """|Z| with SWR."""

    kind: Literal["size"] = "size"
    points: list[SizeAt] = Field(min_length=1, max_length=MOST_READINGS)

    def to_core(self) -> Evidence:
        """Points of SWR with R and the size of X."""
        return of_sizes([(p.frequency_hz, p.size_ohm, p.swr) for p in self.points], self.spread)


class UnsignedReading(_Read):
    """R and X, the sign of X not shown."""

    kind: Literal["unsigned"] = "unsigned"
    points: list[UnsignedAt] = Field(min_length=1, max_length=MOST_READINGS)

    def to_core(self) -> Evidence:
        """R and the size of X, and the SWR that they make."""
        rows = [(p.frequency_hz, p.resistance_ohm, p.size_reactance_ohm) for p in self.points]
        return of_unsigned(rows, self.spread)


class PowerRead(_Read):
    """Forward and reflected power; full scale is to be set anew at each frequency."""

    kind: Literal["power"] = "power"
    points: list[PowersAt] = Field(min_length=1, max_length=MOST_READINGS)
    full_scale_each: bool = True
    meter: Meter = "power"

    def to_core(self) -> Evidence:
        """Points of SWR."""
        rows = [(p.frequency_hz, p.forward_w, p.reflected_w) for p in self.points]
        return of_powers(rows, self.spread, full_scale_each=self.full_scale_each)


class SweepRead(Payload):
    """A kept sweep; the entry says which."""

    kind: Literal["sweep"] = "sweep"


MeterReading = Annotated[
    DipRead | SwrRead | EdgesRead | MagnitudeReading | UnsignedReading | PowerRead, Field(discriminator="kind")
]
AnyRead = Annotated[
    DipRead | SwrRead | EdgesRead | MagnitudeReading | UnsignedReading | PowerRead | SweepRead,
    Field(discriminator="kind"),
]
