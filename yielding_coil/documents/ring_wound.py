"""Things wound on rings as a design keeps them: coils, ununs and baluns."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from yielding_coil import data
from yielding_coil.core import winding as core
from yielding_coil.core.conductor import METALS, WindingWire
from yielding_coil.core.ring import Material, Ring
from yielding_coil.documents.fields import (
    Counted,
    Farad,
    Hertz,
    NotNegative,
    PartLength,
    Payload,
    PieceSnapshot,
    SpreadOf,
    Words,
)

Turns = Annotated[int, Field(ge=1, le=200)]
Key = Annotated[Words, Field(max_length=40)]


class WireValues(Payload):
    """A wire: metal, its diameter, over its covering."""

    metal: Literal["copper", "aluminium", "steel"] = "copper"
    diameter_m: PartLength
    covered_m: PartLength


class WireSnapshot(Payload):
    """A wire of the drawer as it was when this revision was made."""

    id: UUID
    revision: Counted
    values: WireValues


def wire_of(key: str, own: WireSnapshot | None) -> WindingWire:
    """A winding wire: one of one's own as it was when it was taken, else the table's.

    Raises:
        NotFoundError: no such wire in the table.
    """
    if own is None:
        return data.winding_wire(key)
    values = own.values
    metal = METALS[values.metal]
    return WindingWire(
        f"{values.diameter_m * 1e3:.3g} mm, own wire",
        values.diameter_m,
        values.covered_m,
        metal.resistivity_ohm_m,
        metal.permeability,
    )


class MaterialPoint(Payload):
    """Permeability at one frequency."""

    frequency_hz: Hertz
    real: Annotated[float, Field(gt=0, le=1e6)]
    imaginary: Annotated[float, Field(ge=0, le=1e6)]


class MaterialValues(Payload):
    """A ring material of one's own, as sweeps of turns on it found it; tolerance is two standard deviations."""

    points: list[MaterialPoint] = Field(min_length=2, max_length=121)
    tolerance: SpreadOf
    # The mix it is most like; null when it is like none of the table.
    like: Key | None = None

    def material(self, mix: str) -> Material:
        """For the core; what is not measured is that of the mix it is taken for."""
        nominal = data.ring_material(mix)
        first, last = self.points[0].frequency_hz, self.points[-1].frequency_hz
        return Material(
            mix=mix,
            kind=nominal.kind,
            family=nominal.family,
            initial_permeability=self.points[0].real,
            tolerance=self.tolerance,
            points=tuple((p.frequency_hz, p.real, p.imaginary) for p in self.points),
            curie_c=nominal.curie_c,
            note=f"as you measured it from {first / 1e6:.2g} to {last / 1e6:.2g} MHz",
            note_below_hz=0.0,
        )


class MaterialSnapshot(Payload):
    """A material of the drawer as it was when this was made."""

    id: UUID
    revision: Counted
    values: MaterialValues


class RingCore(Payload):
    """A ring, or a stack of them, by the tables' keys; its factor or its material as measured, where they were."""

    mix: Key
    size: Key
    stack: Annotated[int, Field(ge=1, le=12)] = 1
    # Henry a turn squared of one ring, well below a megahertz; the data's when null.
    al_h: Annotated[float, Field(gt=1e-12, lt=1e-3)] | None = None
    material: MaterialSnapshot | None = None

    @property
    def measured(self) -> bool:
        """Whether a sweep of one's own stands behind it."""
        return self.al_h is not None or self.material is not None

    def to_core(self) -> core.RingCore:
        """The stack, and how well its permeability is known: as the mix is, or what measuring left.

        Raises:
            NotFoundError: no such mix or size.
        """
        own = self.material
        material = data.ring_material(self.mix) if own is None else own.values.material(self.mix)
        ring = Ring(material, data.ring_size(self.size), self.stack, self.al_h)
        return core.RingCore(ring, core.known_to(ring), self.measured)


class Wound(Payload):
    """What everything wound on a ring has."""

    key: Key
    core: RingCore
    wire: Key
    twisted: bool = True
    crossed: bool = False
    tape_m: Annotated[float, Field(ge=0, le=0.01)] = 0.0
    tail_m: Annotated[float, Field(ge=0, le=1)] = 0.045
    # Core and wire as they were taken from the drawer; null when they are the table's.
    piece: PieceSnapshot | None = None
    wire_piece: WireSnapshot | None = None

    def _common(self) -> dict[str, Any]:
        """What every kind hands on to the core."""
        return {
            "key": self.key,
            "core": self.core.to_core(),
            "wire": wire_of(self.wire, self.wire_piece),
            "twisted": self.twisted,
            "crossed": self.crossed,
            "tape_m": self.tape_m,
            "tail_m": self.tail_m,
        }


class CoilOnRing(Wound):
    """A coil on a ring, by its turns."""

    kind: Literal["ring_coil"] = "ring_coil"
    place: Literal["series", "shunt"]
    turns: Turns
    winding_capacitance_f: NotNegative = core.COIL_CAPACITANCE_F

    def to_core(self) -> core.CoilOnRing:
        """The coil for the core."""
        return core.CoilOnRing(
            **self._common(),
            place=self.place,
            turns=self.turns,
            winding_capacitance_f=self.winding_capacitance_f,
        )


class Tuning(Payload):
    """A variable capacitor across the secondary: its range, where it stands, and what it stands."""

    low_f: NotNegative = 8e-12
    high_f: Farad = 250e-12
    set_f: NotNegative
    voltage_v: Annotated[float, Field(ge=1, le=1e5)] = 300.0


class WoundTransformer(Wound):
    """An unun or a balun, by its turns and how its wires are joined.

    Turns are passes through the hole. Of wires in hand `secondary_turns` follows and is not looked at. What is null
    is nominal: ranges from memory, until a sweep of it is fitted.
    """

    kind: Literal["transformer"] = "transformer"
    place: Literal["through"] = "through"
    wiring: core.Kind
    primary_turns: Turns
    secondary_turns: Turns
    # A tapped winding's primary as a wire of its own, twisted with the first turns; else a tap.
    primary_wire: bool = True
    leakage_h: Annotated[float, Field(ge=0, le=1e-3)] | None = None
    winding_capacitance_f: Annotated[float, Field(ge=0, le=1e-6)] | None = None
    input_capacitance_f: NotNegative = 0.0
    input_q: Annotated[float, Field(ge=1, le=1e9)] = 1500.0
    # A tuned coupler has one.
    tuning: Tuning | None = None

    def to_core(self) -> core.WoundTransformer:
        """The transformer for the core."""
        return core.WoundTransformer(
            **self._common(),
            wiring=self.wiring,
            primary_turns=self.primary_turns,
            secondary_turns=self.secondary_turns,
            primary_wire=self.primary_wire,
            leakage_h=self.leakage_h,
            winding_capacitance_f=self.winding_capacitance_f,
            input_capacitance_f=self.input_capacitance_f,
            input_q=self.input_q,
            tuning=None if self.tuning is None else core.Tuning(**self.tuning.model_dump()),
        )
