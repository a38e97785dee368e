"""What a revision of a design holds, and how it becomes a core system."""

from collections.abc import Callable
from typing import Annotated, Any, Literal
from uuid import UUID

import numpy as np
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.core import design as core
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, CableRow
from yielding_coil.core.matching import MatchCandidate, MatchPart, MatchTemplate
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Antenna
from yielding_coil.core.target import Target
from yielding_coil.core.tuner import Tuner
from yielding_coil.documents.choke_and_trap import Accessory, Choke, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.fields import (
    Counted,
    Farad,
    Finite,
    Henry,
    Hertz,
    LineLength,
    NotNegative,
    PartLength,
    Payload,
    PieceSnapshot,
    Quality,
    SpreadOf,
    Words,
)
from yielding_coil.documents.ring_wound import CoilOnRing, WoundTransformer
from yielding_coil.documents.wire import Reach, SweepOf, WireAntenna


class TargetPayload(Payload):
    """A band to hold and the SWR allowed on it."""

    label: Annotated[Words, Field(max_length=60)]
    low_hz: Hertz
    high_hz: Hertz
    swr_limit: Annotated[float, Field(gt=1, le=100)]

    def to_core(self) -> Target:
        """The core's target; refuses a band upside down."""
        return Target(self.label, self.low_hz, self.high_hz, self.swr_limit)


# A modelled antenna is known so far below its lowest target and above its highest one.
BELOW_TARGETS, ABOVE_TARGETS = 0.88, 1.13


class SweptAntenna(Payload):
    """An antenna known by a sweep."""

    kind: Literal["sweep"] = "sweep"
    sweep_id: UUID
    # Cut to this share of its length after it was swept, as a hairpin wants it.
    shortened: Annotated[float, Field(ge=0.5, le=1)] = 1.0

    def to_core(self, reach: Reach, swept: SweepOf | None = None) -> Antenna:
        """The sweep, by whoever keeps it.

        Raises:
            OutOfDomainError: nobody is named who keeps sweeps.
        """
        if swept is None:
            raise OutOfDomainError("antenna", "a kept sweep", "a resistor where there is nobody who keeps sweeps")
        found = swept(self.sweep_id)
        return found.shortened(self.shortened) if isinstance(found, Sweep) else found


class ResistorAntenna(Payload):
    """A fixed load in place of an antenna, as on the bench."""

    kind: Literal["resistor"] = "resistor"
    resistance_ohm: NotNegative
    reactance_ohm: Finite = 0.0

    def to_core(self, reach: Reach = (0.0, 0.0), swept: SweepOf | None = None) -> FixedLoad:
        """The load for the core, known everywhere."""
        return FixedLoad(complex(self.resistance_ohm, self.reactance_ohm))


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

    @classmethod
    def of(cls, row: CableRow, high_hz: float) -> "CableValues":
        """From a row that the core found, good up to a frequency."""
        cable = row.cable
        return cls(
            name=cable.name,
            impedance_ohm=float(np.asarray(cable.impedance_ohm)),
            velocity_factor=float(np.asarray(cable.velocity_factor)),
            loss_sqrt=float(np.asarray(cable.loss_sqrt)),
            loss_linear=float(np.asarray(cable.loss_linear)),
            impedance_tolerance=row.impedance_tolerance,
            velocity_tolerance=row.velocity_tolerance,
            loss_tolerance=row.loss_tolerance,
            low_hz=row.lowest_hz or 1.0,
            high_hz=high_hz,
        )

    def row(self, key: str) -> CableRow:
        """As a row of the table of cables."""
        cable = Cable(self.name, self.impedance_ohm, self.velocity_factor, self.loss_sqrt, self.loss_linear)
        return CableRow(
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
    revision: Counted
    values: CableValues


def _cable_of(key: str, piece: CableSnapshot | None) -> CableRow:
    """One's own cable as it was measured when it was taken, else the table's.

    Raises:
        NotFoundError: no such cable.
    """
    return data.cable_row(key) if piece is None else piece.values.row(key)


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
    # Cut from a cable of one's own, as it was measured when that was taken; null: from the table's.
    cable_piece: CableSnapshot | None = None

    def to_core(self) -> core.CoaxCapacitor:
        """The capacitor for the core.

        Raises:
            NotFoundError: no such cable.
        """
        return core.CoaxCapacitor(
            key=self.key,
            place=self.place,
            capacitance_f=self.capacitance_f,
            cable=_cable_of(self.cable, self.cable_piece),
            spread=self.spread,
            end_spread_f=self.end_spread_f,
            stands_v=_stands_v(self.piece),
        )


class CapacitorOfPair(Payload):
    """One of two capacitors that make one value, as it was when it was taken."""

    name: Annotated[Words, Field(max_length=120)]
    capacitance_f: Farad
    piece_id: UUID | None = None


class CapacitorPair(Payload):
    """Two capacitors in place of one, and the volts that both stand together."""

    way: Literal["series", "parallel"]
    parts: list[CapacitorOfPair] = Field(min_length=2, max_length=2)
    voltage_v: Annotated[float, Field(ge=1, le=1e6)]


class FixedCapacitor(Payload):
    """A bought capacitor: mica, ceramic; or two of them."""

    kind: Literal["capacitor"] = "capacitor"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["series", "shunt"]
    capacitance_f: Farad
    q: Quality = 1000.0
    spread: SpreadOf = 0.05
    piece: PieceSnapshot | None = None
    # Null: one alone.
    pair: CapacitorPair | None = None

    def to_core(self) -> core.FixedCapacitor:
        """The capacitor for the core."""
        pair = self.pair
        return core.FixedCapacitor(
            key=self.key,
            place=self.place,
            capacitance_f=self.capacitance_f,
            q=self.q,
            spread=self.spread,
            stands_v=_stands_v(self.piece) if pair is None else pair.voltage_v,
            halves=() if pair is None else tuple((p.name, p.capacitance_f) for p in pair.parts),
            joined=None if pair is None else pair.way,
        )


def _stands_v(piece: PieceSnapshot | None) -> float | None:
    """What the one in hand stands; None where none is taken from the drawer, or nobody said."""
    return None if piece is None else piece.values.get("voltage_v")


class Feedline(Payload):
    """A length of cable between the match and the radio."""

    kind: Literal["line"] = "line"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["through"] = "through"
    cable: Annotated[Words, Field(max_length=40)]
    length_m: LineLength
    piece: CableSnapshot | None = None

    def to_core(self) -> core.Feedline:
        """The line for the core, of its own cable as it was measured when that was taken, else of the table's.

        Raises:
            NotFoundError: no such cable.
        """
        return core.Feedline(key=self.key, cable=_cable_of(self.cable, self.piece), length_m=self.length_m)


class MatchSection(Payload):
    """A length of line that is part of the match: the power passes through it. Two pieces lie side by side."""

    kind: Literal["section"] = "section"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["through"] = "through"
    cable: Annotated[Words, Field(max_length=40)]
    length_m: PartLength
    pieces: Literal[1, 2] = 1
    piece: CableSnapshot | None = None

    def to_core(self) -> core.MatchSection:
        """The section for the core.

        Raises:
            NotFoundError: no such cable.
        """
        row = _cable_of(self.cable, self.piece)
        return core.MatchSection(key=self.key, cable=row, length_m=self.length_m, pieces=self.pieces)


class MatchStub(Payload):
    """A length of line across the way, open or shorted at its far end."""

    kind: Literal["stub"] = "stub"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["series", "shunt"] = "shunt"
    cable: Annotated[Words, Field(max_length=40)]
    length_m: PartLength
    end: Literal["open", "shorted"]
    piece: CableSnapshot | None = None

    def to_core(self) -> core.MatchStub:
        """The stub for the core.

        Raises:
            NotFoundError: no such cable.
        """
        row = _cable_of(self.cable, self.piece)
        return core.MatchStub(key=self.key, cable=row, length_m=self.length_m, end=self.end, place=self.place)


class RadioTuner(Payload):
    """A tuner at the radio, below the feedline: between what its parts can be set, and how good they are."""

    kind: Literal["tuner"] = "tuner"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["through"] = "through"
    # C-L-C; or a coil in series with a capacitor across, which a switch puts to either side.
    network: Literal["tee", "ell"] = "tee"
    input_low_f: Farad = 15e-12
    input_high_f: Farad = 250e-12
    # Of an ell without meaning.
    output_low_f: Farad = 15e-12
    output_high_f: Farad = 250e-12
    coil_low_h: Henry = 0.15e-6
    coil_high_h: Henry = 25e-6
    coil_q: Quality = 150.0
    capacitor_q: Quality = 1500.0
    # Peak volts that its capacitors stand; null where nobody knows.
    stands_v: Annotated[float, Field(ge=1, le=1e6)] | None = 1000.0

    def tuner(self) -> Tuner:
        """Its stops and its parts.

        Raises:
            OutOfDomainError: a stop upside down.
        """
        values = self.model_dump(exclude={"kind", "key", "place", "network"})
        return Tuner(self.network, **values)

    def to_core(self) -> core.RadioTuner:
        """The tuner for the core.

        Raises:
            OutOfDomainError: a stop upside down.
        """
        return core.RadioTuner(key=self.key, tuner=self.tuner())


AnyElement = Annotated[
    Coil
    | CoaxCapacitor
    | FixedCapacitor
    | CoilOnRing
    | WoundTransformer
    | MatchSection
    | MatchStub
    | Feedline
    | RadioTuner,
    Field(discriminator="kind"),
]


class DesignContent(Payload):
    """Everything a design is, version 1."""

    version: Literal[1] = 1
    antenna: Annotated[SweptAntenna | WireAntenna | ResistorAntenna, Field(discriminator="kind")]
    targets: list[TargetPayload] = Field(min_length=1, max_length=12)
    elements: list[AnyElement] = Field(max_length=12)
    # Wound for the same antenna system, and standing beside its cascade.
    beside: list[Accessory] = Field(default=[], max_length=12)
    seed: int = Field(default=1, ge=0, le=2**31)
    reading_spread: SpreadOf = 0.02

    @property
    def center_hz(self) -> float:
        """Where values of parts are meant: the middle of the first target."""
        return self.targets[0].to_core().center_hz

    @property
    def reach_hz(self) -> Reach:
        """Over which frequencies its antenna is asked for."""
        low, high = min(t.low_hz for t in self.targets), max(t.high_hz for t in self.targets)
        return BELOW_TARGETS * low, ABOVE_TARGETS * high

    def core_antenna(self, swept: SweepOf | None = None) -> Antenna:
        """What it hangs below.

        Raises:
            OutOfDomainError: a kept sweep, and nobody is named who keeps sweeps; a wire that cannot hang so.
        """
        return self.antenna.to_core(self.reach_hz, swept)

    def core_targets(self) -> list[Target]:
        """The targets for the core."""
        return [t.to_core() for t in self.targets]

    def to_core(self, antenna: Antenna) -> core.Design:
        """The design for the core, below an antenna.

        Raises:
            OutOfDomainError: a band upside down.
            NotFoundError: something names a row that no table has.
        """
        return core.Design(
            antenna=antenna,
            targets=tuple(self.core_targets()),
            elements=tuple(e.to_core() for e in self.elements),
            beside=tuple(e.to_core() for e in self.beside),
            seed=self.seed,
            reading_spread=self.reading_spread,
        )

    def as_made(self, made: core.Design) -> "DesignContent":
        """The same with the values, turns and doubts that a design for the core has come to."""
        known = {e.key: e for e in made.elements}
        elements = []
        for element in self.elements:
            there = known.get(element.key)
            names = [n for n in MADE if n in type(element).model_fields and hasattr(there, n)]
            elements.append(element.model_copy(update={n: getattr(there, n) for n in names}))
        return self.model_copy(update={"elements": elements})


# What of a part hands may have made otherwise.
MADE = (
    "inductance_h",
    "capacitance_f",
    "spread",
    "end_spread_f",
    "turns",
    "primary_turns",
    "secondary_turns",
)

Windable = Coil | CoilOnRing | WoundTransformer | Choke | WireTrap


def wound_of(content: DesignContent, key: str) -> Windable:
    """The wound thing of a design under a key.

    Raises:
        NotFoundError: nothing is wound under it.
    """
    some = [e for e in (*content.elements, *content.beside) if isinstance(e, Windable)]
    found = next((e for e in some if e.key == key), None)
    if found is None:
        raise core.nothing_wound(key, [e.key for e in some])
    return found


class Template(BaseModel):
    """What the parts of a proposed match are made of."""

    former_m: PartLength = 0.032
    wire: str = "cu-1.6"
    pitch_m: PartLength | None = None
    cable: str = "pe-5"

    def to_core(self) -> MatchTemplate:
        """For the core.

        Raises:
            NotFoundError: no such wire or cable.
        """
        others = tuple(row.outer_m for row in data.formers().values())
        wire, cable = data.winding_wire(self.wire), data.cable_row(self.cable)
        return MatchTemplate(wire, cable, self.former_m, self.pitch_m, others)

    def element(self, part: MatchPart, former_m: float | None) -> AnyElement:
        """A part of a match as a design keeps it; a coil on the former that carries it."""
        common: dict[str, Any] = {"key": part.key, "place": part.place}
        if part.kind == "coil":
            return Coil(
                **common,
                inductance_h=part.value,
                former_m=former_m or self.former_m,
                wire=self.wire,
                pitch_m=self.pitch_m,
            )
        if part.kind == "coax_capacitor":
            return CoaxCapacitor(**common, capacitance_f=part.value, cable=self.cable)
        return FixedCapacitor(**common, capacitance_f=part.value)


def with_match(content: DesignContent, found: MatchCandidate, template: Template) -> DesignContent:
    """The content with a match above its line, in place of whatever stood there."""
    below = [e for e in content.elements if isinstance(e, Feedline | RadioTuner)]
    made = [template.element(p, found.former_m) for p in found.parts]
    return content.model_copy(update={"elements": [*made, *below]})


# One step a version: each takes a payload of its number and gives the next. Version 1 is the first.
UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def read_content(kept: dict[str, Any]) -> DesignContent:
    """Read a kept payload of any version."""
    while (step := UPGRADES.get(int(kept.get("version", 1)))) is not None:
        kept = step(kept)
    return DesignContent.model_validate(kept)
