"""An air coil as a design keeps it."""

from typing import Annotated, Literal

from pydantic import Field

from yielding_coil.core.winding import AirCoil
from yielding_coil.documents.fields import Henry, PartLength, Payload, PieceSnapshot, SpreadOf, Words
from yielding_coil.documents.ring_wound import WireSnapshot, wire_of


class Coil(Payload):
    """A coil wound for an inductance, on a former, with a wire.

    The inductance is what an analyser reads at the design's centre frequency, own capacitance included.
    """

    kind: Literal["coil"] = "coil"
    key: Annotated[Words, Field(max_length=40)]
    place: Literal["series", "shunt"]
    inductance_h: Henry
    former_m: PartLength
    wire: Annotated[Words, Field(max_length=40)]
    pitch_m: PartLength | None = None  # None: turns touching
    # Turns from the radio's end to a tap; null without one.
    tap_turns: Annotated[float, Field(gt=0, le=500)] | None = None
    spread: SpreadOf = 0.04
    piece: PieceSnapshot | None = None
    wire_piece: WireSnapshot | None = None

    def to_core(self) -> AirCoil:
        """The coil for the core.

        Raises:
            NotFoundError: no such wire in the table.
        """
        return AirCoil(
            key=self.key,
            place=self.place,
            inductance_h=self.inductance_h,
            former_m=self.former_m,
            wire=wire_of(self.wire, self.wire_piece),
            pitch_m=self.pitch_m,
            tap_turns=self.tap_turns,
            spread=self.spread,
            measured=self.piece is not None,
        )
