"""An air coil as a design keeps it."""

import math
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import Field

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.solenoid import Solenoid, turns_for
from yielding_coil.core.tolerance import Spread
from yielding_coil.documents.fields import Henry, PartLength, Payload, PieceSnapshot, SpreadOf, Words
from yielding_coil.documents.ring_wound import WireSnapshot, wire_row_of


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

    @property
    def wire_row(self) -> data.WireRow:
        """The wire it is wound with."""
        return wire_row_of(self.wire, self.wire_piece)

    def solenoid(self, turns: float) -> Solenoid:
        """The coil with that many turns on its former."""
        wire = self.wire_row
        pitch = wire.covered_m if self.pitch_m is None else self.pitch_m
        if pitch < wire.covered_m:
            raise OutOfDomainError(
                "pitch_m",
                f"{pitch * 1e3:.3g} mm",
                f"at least the wire over its covering, {wire.covered_m * 1e3:.3g} mm: "
                "take a thinner wire or a wider pitch",
            )
        metal = data.metal(wire.metal)
        return Solenoid(
            self.former_m + wire.covered_m,
            pitch,
            turns,
            wire.diameter_m,
            metal.resistivity_ohm_m,
            metal.permeability,
        )

    def exact_turns(self, frequency_hz: float) -> float:
        """The fraction of turns that reads the inductance."""
        one = self.solenoid(1)
        return _exact_turns(self.inductance_h, one.diameter_m, one.pitch_m, one.wire_diameter_m, frequency_hz)

    def turns(self, frequency_hz: float) -> float:
        """Turns as one winds them, in halves."""
        return max(1.0, round(2 * self.exact_turns(frequency_hz)) / 2)

    def wound(self, frequency_hz: float) -> Solenoid:
        """The coil with the fraction of turns that reads the inductance, refused near its self-resonance."""
        wound = self.solenoid(self.exact_turns(frequency_hz))
        wound.apparent_inductance_h(frequency_hz)  # refuses above 0.9 of self-resonance, saying how near
        if self.tap_turns is not None and self.tap_turns >= wound.turns:
            raise OutOfDomainError(
                "tap_turns",
                f"{self.tap_turns:g}",
                f"less than the {wound.turns:.1f} turns of the whole coil: the tap lies inside it",
            )
        return wound

    def to_core(self, frequency_hz: float) -> Inductor:
        """The coil as an analyser finds it, its loss and own capacitance from how it is wound."""
        wound = self.wound(frequency_hz)
        bare_h = 1 / (1 / self.inductance_h + (2 * math.pi * frequency_hz) ** 2 * wound.self_capacitance_f)
        return Inductor(
            bare_h,
            2 * math.pi * frequency_hz * bare_h / float(wound.resistance_ohm(frequency_hz)),
            frequency_hz,
            wound.self_capacitance_f,
        )

    def spreads(self, frequency_hz: float) -> tuple[Spread, ...]:
        """How far the reading strays from build to build: its own capacitance multiplies that of the turns."""
        bare = self.to_core(frequency_hz)
        return (
            Spread(self.key, self.key, "inductance_h", self.spread * float(bare.inductance_h) / self.inductance_h),
        )


@lru_cache(maxsize=4096)
def _exact_turns(
    inductance_h: float, diameter_m: float, pitch_m: float, wire_diameter_m: float, frequency_hz: float
) -> float:
    return turns_for(inductance_h, diameter_m, pitch_m, wire_diameter_m, 0, frequency_hz)
