"""What is wound beside the cascade, as a design keeps it: chokes on the coax, traps and coils in the wire."""

from typing import Annotated, Literal

from pydantic import Field

from yielding_coil import data
from yielding_coil.core.winding import LegTrap, LineChoke
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.fields import Farad, Hertz, NotNegative, PartLength, Payload, PieceSnapshot, SpreadOf
from yielding_coil.documents.ring_wound import Key, RingCore, WireSnapshot, wire_of


class Choke(Payload):
    """A line wound on rings, or on air, against the current common to its wires: coax, or a pair side by side."""

    kind: Literal["choke"] = "choke"
    key: Key
    # On rings, or as a coil on a former where there are none.
    core: RingCore | None = None
    former_m: PartLength | None = None
    # Of coax, with its thickness; or of two of these wires.
    cable: Key | None = None
    outer_m: PartLength | None = None
    wire: Key | None = None
    wire_piece: WireSnapshot | None = None
    turns: Annotated[int, Field(ge=1, le=60)]
    crossed: bool = False
    tail_m: Annotated[float, Field(ge=0, le=2)] = 0.04
    # Effective current on the outside of the line, where it is known.
    current_a: Annotated[NotNegative, Field(le=100)] | None = None
    piece: PieceSnapshot | None = None

    def to_core(self) -> LineChoke:
        """The choke for the core; of coax where one is named, else of two wires.

        Raises:
            NotFoundError: no such core, cable or wire.
        """
        wired = self.cable is None and (self.wire is not None or self.wire_piece is not None)
        return LineChoke(
            key=self.key,
            turns=self.turns,
            core=None if self.core is None else self.core.to_core(),
            former_m=self.former_m,
            cable=None if self.cable is None else data.cable_row(self.cable).cable.name,
            outer_m=self.outer_m,
            wire=wire_of(self.wire or "", self.wire_piece) if wired else None,
            crossed=self.crossed,
            tail_m=self.tail_m,
            current_a=self.current_a,
        )


class WireTrap(Payload):
    """A trap in a leg of wire: a coil and a capacitor, or coax that is both."""

    kind: Literal["trap"] = "trap"
    key: Key
    # In the band, or just below it.
    tuned_hz: Hertz
    # What stops there, and the band that goes on through it.
    high_hz: Hertz
    low_hz: Hertz
    capacitance_f: Farad = 30e-12
    capacitance_spread: SpreadOf = 0.05
    former_m: PartLength = 0.032
    wire: Key = "cu-1.6"
    wire_piece: WireSnapshot | None = None
    pitch_m: PartLength | None = None
    coil_spread: SpreadOf = 0.04
    # Wound of this coax, with its thickness; null for a coil and a capacitor.
    cable: Key | None = None
    outer_m: PartLength = 0.005
    # What tube, glue and screws add across it.
    housing_f: Annotated[float, Field(ge=0, le=1e-9)] = 1e-12
    # The wire it hangs in.
    wire_radius_m: PartLength = 0.8e-3
    legs: Literal[1, 2] = 2
    piece: PieceSnapshot | None = None

    def to_core(self) -> LegTrap:
        """The trap for the core.

        Raises:
            NotFoundError: no such cable or wire.
        """
        return LegTrap(
            key=self.key,
            tuned_hz=self.tuned_hz,
            high_hz=self.high_hz,
            low_hz=self.low_hz,
            wire=wire_of(self.wire, self.wire_piece),
            capacitance_f=self.capacitance_f,
            capacitance_spread=self.capacitance_spread,
            former_m=self.former_m,
            pitch_m=self.pitch_m,
            coil_spread=self.coil_spread,
            cable=None if self.cable is None else data.cable(self.cable),
            outer_m=self.outer_m,
            housing_f=self.housing_f,
            wire_radius_m=self.wire_radius_m,
            legs=self.legs,
            measured=self.piece is not None,
        )


# A coil beside stands in the wire: it loads it.
Accessory = Annotated[Choke | WireTrap | Coil, Field(discriminator="kind")]
