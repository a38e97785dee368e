"""Things wound on rings as a design keeps them: coils, ununs and baluns."""

import math
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from yielding_coil import data
from yielding_coil.core.conductor import Conductor
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line, pair_ohm
from yielding_coil.core.ring import Material, Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import HANDS, Kind, Strand, Winding, Wiring, joins_of, strands_of, wiring
from yielding_coil.documents.fields import (
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

# Across a winding from end to end, straight round and crossed over, and two standard deviations (a range of 2 to
# 5 pF from memory; ends kept apart lie at its lower end).
STRAIGHT_F, CROSSED_F, CAPACITANCE_SPREAD_F = 3.5e-12, 2.5e-12, 1.0e-12
# Enamelled wires side by side as a line: dielectric between them (from memory), and its loss.
PAIR_PERMITTIVITY = 2.2
PAIR_LOSS_SQRT = 6.0
# Of a coil on a ring, when nothing else is known (from memory).
COIL_CAPACITANCE_F = 2e-12
INPUT_SPREAD = 0.05


def crossing_f(crossed: bool) -> float:
    """Across a winding on a ring from end to end, as it is laid."""
    return CROSSED_F if crossed else STRAIGHT_F


class WireValues(Payload):
    """A wire: metal, its diameter, over its covering."""

    metal: Literal["copper", "aluminium", "steel"] = "copper"
    diameter_m: PartLength
    covered_m: PartLength


class WireSnapshot(Payload):
    """A wire of the drawer as it was when this revision was made."""

    id: UUID
    revision: int
    values: WireValues


def wire_row_of(key: str, own: WireSnapshot | None) -> data.WireRow:
    """A winding wire: one of one's own as it was when it was taken, else the table's."""
    if own is None:
        return data.wire(key)
    values = own.values
    return data.WireRow(key, "a wire of your own", values.diameter_m, values.covered_m, "drawer", values.metal)


def pair_ohm_of(row: data.WireRow) -> float:
    """Two of these wires side by side as a line."""
    return pair_ohm(row.diameter_m, max(row.covered_m, 1.02 * row.diameter_m), PAIR_PERMITTIVITY)


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
    revision: int
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
    def ring(self) -> Ring:
        """The stack for the core."""
        own = self.material
        material = data.ring_material(self.mix) if own is None else own.values.material(self.mix)
        return Ring(material, data.ring_size(self.size), self.stack, self.al_h)

    @property
    def measured(self) -> bool:
        """Whether a sweep of one's own stands behind it."""
        return self.al_h is not None or self.material is not None

    @property
    def spread(self) -> float:
        """Two standard deviations of its permeability: the mix's, or what measuring left."""
        return 0.01 if self.al_h is not None else self.ring.material.tolerance


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

    @property
    def wire_row(self) -> data.WireRow:
        """The wire it is wound with."""
        return wire_row_of(self.wire, self.wire_piece)

    @property
    def spread(self) -> float:
        """Two standard deviations of the core's permeability."""
        return self.core.spread

    def copper(self, turns: int, share: float = 1.0) -> Conductor:
        """So many turns of its wire, as they heat."""
        row = self.wire_row
        metal = data.metal(row.metal)
        metres = self.core.ring.wire_length_m(turns, row.covered_m, self.tape_m)
        return Conductor(metres, row.diameter_m, metal.resistivity_ohm_m, metal.permeability, share)

    def laid(self, strands: tuple[Strand, ...]) -> Winding:
        """Where those wires lie."""
        return Winding(
            self.core.ring,
            strands,
            self.wire_row.covered_m,
            self.twisted,
            self.crossed,
            self.tape_m,
            self.tail_m,
        )


class CoilOnRing(Wound):
    """A coil on a ring, by its turns."""

    kind: Literal["ring_coil"] = "ring_coil"
    place: Literal["series", "shunt"]
    turns: Turns
    winding_capacitance_f: NotNegative = COIL_CAPACITANCE_F

    def to_core(self, frequency_hz: float) -> RingCoil:
        """The coil for the core; the frequency plays no part."""
        return RingCoil(self.core.ring, self.turns, self.winding_capacitance_f, self.copper(self.turns))

    def spreads(self, frequency_hz: float) -> tuple[Spread, ...]:
        """How far its inductance strays: with the permeability of its core."""
        return (Spread(self.key, self.key, "permeability_factor", self.spread),)

    def winding(self) -> Winding:
        """Where its turns lie."""
        return self.laid((Strand("long", 1, self.turns),))

    def turns_for(self, inductance_h: float) -> int:
        """Whole turns that come nearest to an inductance."""
        return max(1, round(math.sqrt(inductance_h / self.core.ring.inductance_h(1))))


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
    wiring: Kind
    primary_turns: Turns
    secondary_turns: Turns
    # A tapped winding's primary as a wire of its own, twisted with the first turns; else a tap.
    primary_wire: bool = True
    leakage_h: Annotated[float, Field(ge=0, le=1e-3)] | None = None
    winding_capacitance_f: Annotated[float, Field(ge=0, le=1e-6)] | None = None
    input_capacitance_f: Annotated[float, Field(ge=0, le=1e-6)] = 0.0
    input_q: Annotated[float, Field(ge=1, le=1e9)] = 1500.0
    # A tuned coupler has one.
    tuning: Tuning | None = None

    @property
    def way(self) -> Wiring:
        """How its wires are joined."""
        chosen = wiring(self.wiring)
        joins_of(chosen, self.own_primary)
        return chosen

    @property
    def own_primary(self) -> bool:
        """Whether the primary is a wire of its own; separate windings always have one."""
        return self.primary_wire or self.wiring == "separate"

    @property
    def secondary(self) -> int:
        """Turns of the whole secondary."""
        return self.way.secondary_turns(self.primary_turns, self.secondary_turns)

    @property
    def nominal_leakage_h(self) -> float:
        """As told, else by how it is wound."""
        return self.way.leakage_h * self.primary_turns if self.leakage_h is None else self.leakage_h

    @property
    def nominal_capacitance_f(self) -> float:
        """As told, else by how it is wound."""
        if self.winding_capacitance_f is not None:
            return self.winding_capacitance_f
        return crossing_f(self.crossed)

    @property
    def pair(self) -> Line:
        """Two of its wires as a line, as long as the winding."""
        row = self.wire_row
        ohm = pair_ohm_of(row)
        metres = self.core.ring.wire_length_m(self.primary_turns, row.covered_m, self.tape_m)
        return Line(Cable("pair", ohm, 1 / math.sqrt(PAIR_PERMITTIVITY), PAIR_LOSS_SQRT, 0.0), metres)

    def to_core(self, frequency_hz: float) -> Transformer:
        """The transformer for the core; the frequency plays no part."""
        way, m, n = self.way, self.primary_turns, self.secondary
        if m > n:
            raise OutOfDomainError(
                "primary_turns", m, f"at most the {n} turns of the whole winding: the tap lies inside it"
            )
        common = {
            "ring": self.core.ring,
            "primary_turns": m,
            "secondary_turns": n,
            "winding_capacitance_f": self.nominal_capacitance_f + (self.tuning.set_f if self.tuning else 0.0),
            "input_capacitance_f": self.input_capacitance_f,
            "input_q": self.input_q,
            "share": way.share,
        }
        if way.as_line:
            line = self.pair
            if way.ratio == 2:  # two pairs side by side at the radio
                cable = line.cable
                line = Line(
                    Cable("pairs", cable.impedance_ohm / 2, cable.velocity_factor, cable.loss_sqrt, 0.0),
                    line.length_m,
                )
            return Transformer(**common, line=line)  # type: ignore[arg-type]
        tapped = way.in_hand > 1 or not self.own_primary
        # Below a tap runs the difference of both currents; above it the load's own.
        return Transformer(
            **common,  # type: ignore[arg-type]
            leakage_h=self.nominal_leakage_h,
            primary=self.copper(m, 1 - m / n if tapped else 1.0),
            secondary=self.copper(n - m if tapped else n),
        )

    def spreads(self, frequency_hz: float) -> tuple[Spread, ...]:
        """How far builds of it stray: the core, what lies between the wires, and the capacitor."""
        found = [Spread(self.key, self.key, "permeability_factor", self.spread)]
        if not self.way.as_line and self.leakage_h is None:
            found.append(
                Spread(
                    f"{self.key} leakage",
                    self.key,
                    "leakage_h",
                    absolute=self.way.leakage_spread_h * self.primary_turns,
                )
            )
        if self.winding_capacitance_f is None:
            found.append(
                Spread(
                    f"{self.key} capacitance",
                    self.key,
                    "winding_capacitance_f",
                    absolute=CAPACITANCE_SPREAD_F,
                )
            )
        if self.input_capacitance_f > 0:
            found.append(Spread(f"{self.key} input", self.key, "input_capacitance_f", INPUT_SPREAD))
        return tuple(found)

    @property
    def names(self) -> tuple[str, ...]:
        """Its wires on one ring."""
        way = self.way
        if way.in_hand > 1:
            return HANDS[: way.in_hand]
        return ("long", "primary") if self.own_primary else ("long",)

    def winding(self) -> Winding:
        """Where its turns lie, on one ring."""
        return self.laid(strands_of(self.names, self.way.in_hand, self.primary_turns, self.secondary))
