"""What is wound beside the cascade: chokes on the coax, traps in the wire."""

from typing import Annotated, Literal, NamedTuple

from pydantic import Field

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import RingCoil
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.trap import CoaxTrap, Trap, coax_turns_for, coil_for
from yielding_coil.core.winding import HANDS, Strand, Winding, bundle_m
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.fields import Farad, Hertz, NotNegative, PartLength, Payload, PieceSnapshot, SpreadOf
from yielding_coil.documents.ring_wound import (
    CAPACITANCE_SPREAD_F,
    RingCore,
    WireSnapshot,
    crossing_f,
    pair_ohm_of,
    wire_row_of,
)
from yielding_coil.documents.ring_wound import Key as WoundKey

# Shield over jacket of common coax (from memory).
SHIELD = 0.72
# Across an air choke's ends less than its own capacitance is never met; of its Q what loss the shield leaves.
AIR_SPREAD = 0.05


class Laid(NamedTuple):
    """What a choke is wound of.

    Args:
        name: in words.
        wires: as they are called.
        thick_m: of each, over its covering.
        metal_m: of the round wire that the common current takes it for.
        pair_ohm: impedance of two wires as a line; None for coax, which has its own.
    """

    name: str
    wires: tuple[str, ...]
    thick_m: float
    metal_m: float
    pair_ohm: float | None

    @property
    def across_m(self) -> float:
        """What a turn takes."""
        return len(self.wires) * self.thick_m


class Choke(Payload):
    """A line wound on rings, or on air, against the current common to its wires: coax, or a pair side by side."""

    kind: Literal["choke"] = "choke"
    key: WoundKey
    # On rings, or as a coil on a former where there are none.
    core: RingCore | None = None
    former_m: PartLength | None = None
    # Of coax, with its thickness; or of two of these wires.
    cable: WoundKey | None = None
    outer_m: PartLength | None = None
    wire: WoundKey | None = None
    wire_piece: WireSnapshot | None = None
    turns: Annotated[int, Field(ge=1, le=60)]
    crossed: bool = False
    tail_m: Annotated[float, Field(ge=0, le=2)] = 0.04
    # Effective current on the outside of the line, where it is known.
    current_a: Annotated[NotNegative, Field(le=100)] | None = None
    piece: PieceSnapshot | None = None

    @property
    def pair(self) -> data.WireRow | None:
        """The wire that two of are wound; None for coax."""
        if self.cable is not None or (self.wire is None and self.wire_piece is None):
            return None
        return wire_row_of(self.wire or "", self.wire_piece)

    @property
    def line(self) -> Laid:
        """What is wound, as it lies.

        Raises:
            OutOfDomainError: neither coax with its thickness nor wire is given.
        """
        row = self.pair
        if row is not None:
            apart = max(row.covered_m, row.diameter_m)
            return Laid(row.name, HANDS[:2], apart, bundle_m(row.diameter_m, apart), pair_ohm_of(row))
        if self.cable is None or self.outer_m is None:
            raise OutOfDomainError("cable", "none", "coax and its thickness, or a wire that two of are wound")
        return Laid(data.cable_row(self.cable).cable.name, ("long",), self.outer_m, SHIELD * self.outer_m, None)

    @property
    def on_ring(self) -> RingCore:
        """The ring it is wound on.

        Raises:
            OutOfDomainError: it is wound on air.
        """
        if self.core is None:
            raise OutOfDomainError("core", "none", "a ring for this choke")
        return self.core

    @property
    def coil(self) -> Solenoid:
        """Its turns on a former, touching, as the common current sees them.

        Raises:
            OutOfDomainError: neither ring nor former is given.
        """
        if self.former_m is None:
            raise OutOfDomainError("former_m", "none", "a former for a choke without a ring")
        line = self.line
        return Solenoid(self.former_m + line.thick_m, line.across_m, self.turns, line.metal_m)

    def winding(self) -> Winding:
        """Where its turns lie on the ring."""
        line = self.line
        return Winding(
            self.on_ring.ring,
            tuple(Strand(name, 1, self.turns) for name in line.wires),
            line.thick_m,
            twisted=False,
            crossed=self.crossed,
            tail_m=self.tail_m,
        )

    def to_core(self) -> RingCoil | Inductor:
        """What the current outside meets."""
        if self.core is not None:
            return RingCoil(self.core.ring, self.turns, crossing_f(self.crossed))
        coil = self.coil
        at = min(coil.self_resonance_hz / 3, 10e6)
        return Inductor(coil.crowded_inductance_h, float(coil.q(at)), at, coil.self_capacitance_f)

    def spreads(self) -> tuple[Spread, ...]:
        """How far builds stray."""
        if self.core is None:
            return (
                Spread(self.key, self.key, "inductance_h", AIR_SPREAD),
                Spread(f"{self.key} stray", self.key, "self_capacitance_f", 0.2),
            )
        return (
            Spread(self.key, self.key, "permeability_factor", self.core.spread),
            Spread(f"{self.key} stray", self.key, "winding_capacitance_f", absolute=CAPACITANCE_SPREAD_F),
        )


class WireTrap(Payload):
    """A trap in a leg of wire: a coil and a capacitor, or coax that is both."""

    kind: Literal["trap"] = "trap"
    key: WoundKey
    # In the band, or just below it.
    tuned_hz: Hertz
    # What stops there, and the band that goes on through it.
    high_hz: Hertz
    low_hz: Hertz
    capacitance_f: Farad = 30e-12
    capacitance_spread: SpreadOf = 0.05
    former_m: PartLength = 0.032
    wire: WoundKey = "cu-1.6"
    wire_piece: WireSnapshot | None = None
    pitch_m: PartLength | None = None
    coil_spread: SpreadOf = 0.04
    # Wound of this coax, with its thickness; null for a coil and a capacitor.
    cable: WoundKey | None = None
    outer_m: PartLength = 0.005
    # What tube, glue and screws add across it.
    housing_f: Annotated[float, Field(ge=0, le=1e-9)] = 1e-12
    # The wire it hangs in.
    wire_radius_m: PartLength = 0.8e-3
    legs: Literal[1, 2] = 2
    piece: PieceSnapshot | None = None

    @property
    def coil(self) -> Coil:
        """Its coil as it reads at its frequency, its own capacitance counted."""
        return Coil(
            key=self.key,
            place="series",
            inductance_h=coil_for(self.capacitance_f, self.tuned_hz),
            former_m=self.former_m,
            wire=self.wire,
            wire_piece=self.wire_piece,
            pitch_m=self.pitch_m,
            spread=self.coil_spread,
        )

    @property
    def coax(self) -> CoaxTrap | None:
        """Wound of coax; None for a coil and a capacitor."""
        if self.cable is None:
            return None
        shield = SHIELD * self.outer_m
        return coax_turns_for(self.tuned_hz, self.former_m, self.outer_m, shield, data.cable(self.cable))

    @property
    def turns(self) -> float:
        """Turns as one winds them."""
        coax = self.coax
        return self.coil.turns(self.tuned_hz) if coax is None else coax.coil.turns

    def to_core(self) -> Trap:
        """The trap before it is housed, squeezed onto its frequency."""
        coax = self.coax
        if coax is not None:
            return coax.trap()
        wound = self.coil.to_core(self.tuned_hz)
        across = self.capacitance_f + float(wound.self_capacitance_f)
        return Trap(float(wound.inductance_h), across, float(wound.q))

    def spreads(self) -> tuple[Spread, ...]:
        """How far builds stray before anybody squeezes a turn."""
        return (
            Spread(f"{self.key} coil", self.key, "inductance_h", self.coil_spread),
            Spread(f"{self.key} capacitor", self.key, "capacitance_f", self.capacitance_spread),
            Spread(f"{self.key} loss", self.key, "q", 0.4),
        )


Beside = Annotated[Choke | WireTrap, Field(discriminator="kind")]
