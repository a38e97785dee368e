"""Finding a fault, as the log keeps it: what was told at first, each test, what was mended."""

from collections.abc import Callable, Sequence
from typing import Annotated, Any, Literal, TypeAlias
from uuid import UUID

from pydantic import Field, TypeAdapter, model_validator

from yielding_coil import data
from yielding_coil.core import diagnosis as core
from yielding_coil.core import wire
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.ring import Ring
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Element
from yielding_coil.core.target import Target
from yielding_coil.core.transformer import Transformer
from yielding_coil.documents.fields import LeavesWire, LineLength, Payload, Words
from yielding_coil.documents.meter_reading import SwrAt
from yielding_coil.documents.wire import KindKey

ActKey = Annotated[Words, Field(max_length=60)]
BandLabel = Annotated[Words, Field(min_length=1, max_length=60)]
MOST_TESTS = 60
# An unun that nobody described: two turns in fourteen for kilohms, one to three for less (common practice).
USUAL_TURNS = ((1000.0, 2, 14, 1e-10), (0.0, 9, 27, 0.0))


class ToldInstallation(Payload):
    """What somebody tells of an antenna that has neither design nor plan here.

    `lowest_hz` is left out where the build's own bands say it.
    """

    antenna: KindKey = "dipole"
    cable: Annotated[Words, Field(max_length=60)] = "pe-5"
    line_m: Annotated[LineLength, Field(gt=0, le=500)] = 20.0
    feed_at: Literal["garden", "ladder"] | None = None

    def to_core(self, bands: Sequence[Target]) -> core.Installation:
        """For whoever looks for the fault, known by word of mouth.

        Raises:
            RefusedError: a cable that is not in the table; no band.
        """
        if not bands:
            raise OutOfDomainError("bands", "none", "at least one on which it was used")
        kind = wire.KINDS[self.antenna]
        hung = self.hung(bands)
        return core.by_word(hung, kind, bands, self.line(), unun=_usual_unun(kind), feed_at=self.feed_at)

    def hung(self, bands: Sequence[Target]) -> wire.Hung:
        """Its wires as its kind usually has them."""
        kind = wire.KINDS[self.antenna]
        ordered = sorted(bands, key=lambda b: b.low_hz)
        if kind.start_for is not None and len(ordered) > 1:
            return kind.start_for(ordered[-1].center_hz, ordered[0].center_hz)
        return kind.start(ordered[0].center_hz)

    def line(self) -> Line:
        """Its coax.

        Raises:
            RefusedError: a cable that is not in the table.
        """
        return Line(data.cable(self.cable), self.line_m)


def _usual_unun(kind: wire.AntennaKind) -> Element | None:
    if not kind.by_unun:
        return None
    _, primary, secondary, farad = next(row for row in USUAL_TURNS if kind.feed_ohm >= row[0])
    ring = Ring(data.ring_material("43"), data.ring_size("FT240"), 1)
    part = Transformer(
        ring, primary, secondary, leakage_h=1e-7, winding_capacitance_f=3e-12, input_capacitance_f=farad
    )
    return Element("unun", "through", part)


class LineToRadio(Payload):
    """The line of an antenna whose design has none."""

    cable: Annotated[Words, Field(max_length=60)]
    length_m: Annotated[LineLength, Field(gt=0, le=500)]

    def to_core(self) -> Line:
        """For the core.

        Raises:
            RefusedError: a cable that is not in the table.
        """
        return Line(data.cable(self.cable), self.length_m)


class FaultBegunData(LeavesWire):
    """Something is wrong: what is known, and what one sees. Until a later one or a mending, tests count to it."""

    kind: Literal["fault_begun"] = "fault_begun"
    happened: list[core.Happened] = Field(default=[], max_length=8)
    # Which bands, and what became of them.
    bands: dict[BandLabel, core.BandAnswer] = Field(default={}, max_length=12)
    baseline_sweep_id: UUID | None = None
    line: LineToRadio | None = None
    feed_at: Literal["garden", "ladder"] | None = None
    told: ToldInstallation | None = None
    school: core.School = "least_effort"
    instrument: core.Instrument = "analyser"
    # The simulated site broke: for practice.
    practice: bool = False


class FaultSweepRead(Payload):
    """The sweep that stands beside the entry, or what was typed."""

    kind: Literal["sweep"] = "sweep"


class FaultDialRead(Payload):
    """SWR by a meter."""

    kind: Literal["dial"] = "dial"
    points: list[SwrAt] = Field(min_length=1, max_length=24)


class FaultOhmRead(Payload):
    """An ohmmeter's reading; null where it shows no path."""

    kind: Literal["ohm"] = "ohm"
    ohm: Annotated[float, Field(ge=0, le=1e9, allow_inf_nan=False)] | None


class FaultLookRead(Payload):
    """What was seen."""

    kind: Literal["look"] = "look"
    answer: Annotated[Words, Field(min_length=1, max_length=20)]


class FaultBandsRead(Payload):
    """What became of each band, in plain words."""

    kind: Literal["bands"] = "bands"
    bands: dict[BandLabel, core.BandAnswer] = Field(min_length=1, max_length=12)


FaultRead: TypeAlias = Annotated[
    FaultSweepRead | FaultDialRead | FaultOhmRead | FaultLookRead | FaultBandsRead, Field(discriminator="kind")
]


_READ: TypeAdapter[FaultRead] = TypeAdapter(FaultRead)


def read_fault(told: dict[str, Any]) -> FaultRead:
    """A reading as a mapping tells it; of a sweep that it is one."""
    return _READ.validate_python({"kind": "sweep"} if told["kind"] == "sweep" else told)


class FaultTestData(LeavesWire):
    """One test and its answer; `skipped` where it cannot be done, and is not offered again."""

    kind: Literal["fault_test"] = "fault_test"
    act: ActKey
    reading: FaultRead | None = None
    skipped: bool = False

    @model_validator(mode="after")
    def _done_or_not(self) -> "FaultTestData":
        if (self.reading is None) != self.skipped:
            raise ValueError("a reading, or skipped where it cannot be done")
        return self

    def to_core(self, sweep: Callable[[], Sweep]) -> core.AnyReading:
        """What was read, for the core.

        Args:
            sweep: gives the sweep beside the entry.
        """
        read = self.reading
        assert read is not None
        if isinstance(read, FaultSweepRead):
            return core.SweepRead(sweep())
        if isinstance(read, FaultDialRead):
            return core.DialRead(tuple((p.frequency_hz, p.swr) for p in read.points))
        if isinstance(read, FaultOhmRead):
            return core.OhmRead(float("inf") if read.ohm is None else read.ohm)
        if isinstance(read, FaultLookRead):
            return core.LookRead(read.answer)
        return core.BandsRead(dict(read.bands))


class FaultMendedData(LeavesWire):
    """What was mended, or that the search was given up; the way so far is closed."""

    kind: Literal["fault_mended"] = "fault_mended"
    # What it was, by the search; empty where it was given up.
    element: Annotated[Words, Field(max_length=60)] = ""
    fault: core.FaultCode | None = None
    # Left and right were marked before anything was taken apart.
    marked: bool = False
    given_up: bool = False
