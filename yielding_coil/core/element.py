"""What every thing that stands in the cascade of a design answers, whatever it is."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar, Literal, Protocol

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.finding import DesignCode, Finding, ResonanceCode
from yielding_coil.core.line import Line
from yielding_coil.core.parts import OnePort
from yielding_coil.core.system import Place, Station
from yielding_coil.core.target import POINTS, Target
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.tuner import TunerNetwork

Part = OnePort | Line | Transformer | TunerNetwork
# Below this share of its self-resonance a coil stands well clear; above the second it reads a third too much, and
# a little more or less capacitance moves it (1/(1 − r²): any text on circuits).
NOTED, WARNED = 0.3, 0.5


@dataclass(frozen=True, slots=True)
class AtWork:
    """One element of a design over its targets at full power.

    Args:
        center_hz: where values of parts are meant.
        targets: of the design, in its order.
        frequency_hz: shape (targets · 41,): every target in turn.
        part: what the element computes as.
        above: the station over it.
        station: the station below it, its effect included.
    """

    center_hz: float
    targets: Sequence[Target]
    frequency_hz: Real
    part: Part
    above: Station
    station: Station

    @property
    def peak_voltage_v(self) -> float:
        """The largest that it carries on any target."""
        return float(np.nanmax(self.station.peak_voltage_v, initial=0.0))

    @property
    def peak_current_a(self) -> float:
        """The largest that it carries on any target."""
        return float(np.nanmax(self.station.peak_current_a, initial=0.0))

    @property
    def loss_db(self) -> float:
        """The most that it loses on any target, dB."""
        with np.errstate(divide="ignore", invalid="ignore"):
            loss = 10 * np.log10((self.above.power_w + self.station.loss_w) / self.above.power_w)
        return float(np.nanmax(loss, initial=0.0))

    @property
    def middle(self) -> int:
        """Index of the middle of the first target."""
        return POINTS // 2


@dataclass(frozen=True, slots=True)
class Tick:
    """A mark on a part's ruler: what one makes (turns; metres of coax) and the value it gives."""

    make: float
    value: float


class PartToMake(Protocol):
    """A line of the parts list: how one element is made or bought."""

    @property
    def kind(self) -> str: ...

    @property
    def key(self) -> str: ...


class DesignElement(Protocol):
    """Anything that can stand in the cascade of a design."""

    # Made by hand, above the line; a feedline is not.
    by_hand: ClassVar[bool]
    # Can be squeezed or cut in place, watching the SWR; a wound core cannot.
    trimmed_in_place: ClassVar[bool]

    @property
    def key(self) -> str: ...

    @property
    def place(self) -> Place: ...

    @property
    def spread(self) -> float: ...

    def part(self, center_hz: float) -> Part:
        """What it computes as, its values meant at the design's centre."""

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far builds of it stray."""

    def to_make(self, at: AtWork) -> PartToMake:
        """How it is made, and the most that it bears."""

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """What to know of it."""


def resonance_findings(key: str, own_hz: float, targets: Sequence[Target]) -> list[Finding[ResonanceCode]]:
    """How near a coil's own resonance lies to where it is used: to the upper end of the highest target.

    Args:
        own_hz: where it resonates with its own capacitance.
    """
    ratio = max(t.high_hz for t in targets) / own_hz
    if ratio <= NOTED:
        return []
    code: Literal["near_self_resonance", "own_capacitance"] = (
        "near_self_resonance" if ratio > WARNED else "own_capacitance"
    )
    return [Finding(code, {"key": key, "ratio": ratio, "self_resonance_hz": own_hz})]
