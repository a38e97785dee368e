"""What a revision of a design holds, and how it becomes a core system."""

from collections.abc import Callable
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.line import Cable, Line, OpenCoax, open_coax_for
from yielding_coil.core.parts import Capacitor, FixedLoad
from yielding_coil.core.system import Antenna, Element, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import ANTENNA, Spread
from yielding_coil.documents.choke_and_trap import Beside, Choke, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.fields import (
    Farad,
    Finite,
    Hertz,
    LineLength,
    NotNegative,
    Payload,
    PieceSnapshot,
    SpreadOf,
    Words,
)
from yielding_coil.documents.ring_wound import CoilOnRing, WoundTransformer

READING = "reading"


class TargetPayload(Payload):
    """A band to hold and the SWR allowed on it."""

    label: Annotated[Words, Field(max_length=60)]
    low_hz: Hertz
    high_hz: Hertz
    swr_limit: Annotated[float, Field(gt=1, le=100)]

    def to_core(self) -> Target:
        """The core's target; refuses a band upside down."""
        return Target(self.label, self.low_hz, self.high_hz, self.swr_limit)


class SweptAntenna(Payload):
    """An antenna known by a sweep."""

    kind: Literal["sweep"] = "sweep"
    sweep_id: UUID


class ResistorAntenna(Payload):
    """A fixed load in place of an antenna, as on the bench."""

    kind: Literal["resistor"] = "resistor"
    resistance_ohm: NotNegative
    reactance_ohm: Finite = 0.0


class CoaxCapacitor(Payload):
    """A capacitor made of a length of coax, open at its far end."""

    kind: Literal["coax_capacitor"] = "coax_capacitor"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["series", "shunt"]
    capacitance_f: Farad
    cable: Annotated[Words, Field(max_length=40)]
    spread: SpreadOf = 0.04
    end_spread_f: Annotated[float, Field(ge=0, le=1e-9)] = 0.2e-12
    piece: PieceSnapshot | None = None

    def to_core(self, frequency_hz: float) -> OpenCoax:
        """The length that acts as this capacitor at one frequency."""
        return open_coax_for(self.capacitance_f, data.cable(self.cable), frequency_hz)

    def spreads(self, frequency_hz: float) -> tuple[Spread, ...]:
        """How far builds of it stray: the cable's capacitance, and the cut end's."""
        return (
            Spread(self.key, self.key, "capacity_factor", self.spread),
            Spread(self.key, self.key, "end_f", 0.0, self.end_spread_f),
        )


class FixedCapacitor(Payload):
    """A bought capacitor: mica, ceramic."""

    kind: Literal["capacitor"] = "capacitor"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["series", "shunt"]
    capacitance_f: Farad
    q: Annotated[float, Field(ge=0.1, le=1e9)] = 1000.0
    spread: SpreadOf = 0.05
    piece: PieceSnapshot | None = None

    def to_core(self, frequency_hz: float) -> Capacitor:
        """The capacitor by its values."""
        return Capacitor(self.capacitance_f, self.q)

    def spreads(self, frequency_hz: float) -> tuple[Spread, ...]:
        """How far bought ones stray."""
        return (Spread(self.key, self.key, "capacitance_f", self.spread),)


class CableValues(Payload):
    """A cable of one's own, as two sweeps and a tape found it."""

    name: Annotated[Words, Field(max_length=120)]
    impedance_ohm: Annotated[float, Field(ge=1, le=5000)]
    velocity_factor: Annotated[float, Field(gt=0.05, le=1)]
    loss_sqrt: NotNegative
    loss_linear: NotNegative
    # Two standard deviations, relative.
    impedance_tolerance: SpreadOf
    velocity_tolerance: SpreadOf
    loss_tolerance: SpreadOf
    low_hz: Hertz
    high_hz: Hertz

    def row(self, key: str) -> data.CableRow:
        """As a row of the table of cables."""
        cable = Cable(self.name, self.impedance_ohm, self.velocity_factor, self.loss_sqrt, self.loss_linear)
        return data.CableRow(
            key=key,
            cable=cable,
            loss_tolerance=self.loss_tolerance,
            velocity_tolerance=self.velocity_tolerance,
            source=f"measured, {self.low_hz / 1e6:.3g} to {self.high_hz / 1e6:.3g} MHz",
            note="",
            coax=True,
            lowest_hz=self.low_hz,
            impedance_tolerance=self.impedance_tolerance,
        )


class CableSnapshot(Payload):
    """A cable of the drawer as it was when this revision was made."""

    id: UUID
    revision: int
    values: CableValues


class Feedline(Payload):
    """A length of cable between the match and the radio."""

    kind: Literal["line"] = "line"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["through"] = "through"
    cable: Annotated[Words, Field(max_length=40)]
    length_m: LineLength
    piece: CableSnapshot | None = None

    @property
    def row(self) -> data.CableRow:
        """The cable it is cut from: its own as it was measured when that was taken, else the table's."""
        if self.piece is not None:
            return self.piece.values.row(self.cable)
        return data.cable_row(self.cable)

    def to_core(self, frequency_hz: float) -> Line:
        """The line by its cable and length."""
        return Line(self.row.cable, self.length_m)

    def spreads(self, frequency_hz: float) -> tuple[Spread, ...]:
        """How far the cable strays from its table, for what is judged below it."""
        row = self.row
        return (
            Spread(f"{self.key} loss", self.key, "loss_sqrt", row.loss_tolerance),
            Spread(f"{self.key} velocity", self.key, "velocity_factor", row.velocity_tolerance),
        )


AnyElement = Annotated[
    Coil | CoaxCapacitor | FixedCapacitor | CoilOnRing | WoundTransformer | Feedline, Field(discriminator="kind")
]


class DesignContent(Payload):
    """Everything a design is, version 1."""

    version: Literal[1] = 1
    antenna: Annotated[SweptAntenna | ResistorAntenna, Field(discriminator="kind")]
    targets: list[TargetPayload] = Field(min_length=1, max_length=12)
    elements: list[AnyElement] = Field(max_length=12)
    # Wound for the same antenna system, and standing beside its cascade.
    beside: list[Beside] = Field(default=[], max_length=12)
    seed: int = Field(default=1, ge=0, le=2**31)
    reading_spread: SpreadOf = 0.02

    @property
    def center_hz(self) -> float:
        """Where values of parts are meant: the middle of the first target."""
        return self.targets[0].to_core().center_hz

    def core_targets(self) -> list[Target]:
        """The targets for the core."""
        return [t.to_core() for t in self.targets]

    def system(self, antenna: Antenna) -> System:
        """The cascade below an antenna."""
        keys = [e.key for e in (*self.elements, *self.beside)]
        if len(set(keys)) != len(keys):
            raise OutOfDomainError("elements", f"with the keys {', '.join(keys)}", "a key of its own each")
        center = self.center_hz
        return System(antenna, [Element(e.key, e.place, e.to_core(center)) for e in self.elements])

    def part_spreads(self) -> list[Spread]:
        """Spreads of the parts above the line: those that the SWR at the box depends on."""
        return [s for e in self.elements if not isinstance(e, Feedline) for s in e.spreads(self.center_hz)]

    def reading(self) -> Spread:
        """The analyser's doubt."""
        return Spread(READING, ANTENNA, "reflection", self.reading_spread)


Windable = Coil | CoilOnRing | WoundTransformer | Choke | WireTrap
# Of these each is an element of the cascade.
InCascade = Coil | CoilOnRing | WoundTransformer


def wound_of(content: DesignContent, key: str) -> Windable:
    """The wound thing of a design under a key.

    Raises:
        NotFoundError: nothing is wound under it.
    """
    some = [e for e in (*content.elements, *content.beside) if isinstance(e, Windable)]
    found = next((e for e in some if e.key == key), None)
    if found is None:
        raise NotFoundError(
            f"nothing in this design is wound under “{key}”",
            field="key",
            came_in=key,
            accepted=", ".join(e.key for e in some) or "none here: add a coil, an unun or a balun first",
        )
    return found


def fixed_antenna(antenna: ResistorAntenna) -> FixedLoad:
    """The load for the core."""
    return FixedLoad(complex(antenna.resistance_ohm, antenna.reactance_ohm))


# One step a version: each takes a payload of its number and gives the next. Version 1 is the first.
UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def read_content(kept: dict[str, Any]) -> DesignContent:
    """Read a kept payload of any version."""
    while (step := UPGRADES.get(int(kept.get("version", 1)))) is not None:
        kept = step(kept)
    return DesignContent.model_validate(kept)
