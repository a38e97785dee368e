"""What is told of one wound thing, the same for every kind: turns, cuts, fit, curves, losses, what to know."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.finding import Finding, WindingCode
from yielding_coil.core.system import System
from yielding_coil.core.target import Target
from yielding_coil.core.winding.fit import Box, Fit
from yielding_coil.core.winding.layout import WindingLayout
from yielding_coil.core.winding.losses import BandLosses
from yielding_coil.core.winding.wiring import Across, Join

# Frequencies over which a wound thing is looked at; builds behind the band in which a bench sweep of a right one
# lies, nineteen in twenty.
DRAWN_POINTS, FAN_BUILDS = 201, 256


@dataclass(frozen=True)
class WindingTask:
    """What a wound thing is reported for.

    Args:
        targets: of its design, at least one; the middle of the first is where values of parts are meant.
        power_w: peak envelope at the radio.
        duties: share of it that heats, by mode.
        system: the cascade it stands in; None for what is wound beside one.
        low_hz, high_hz: over which it is looked at, evenly in log f.
        seed: of its builds' dice.
        resistor_ohm: put on in place of the antenna on the bench; the fitting one when None.
        boxes: that it may go into.
    """

    targets: tuple[Target, ...]
    power_w: float
    duties: Mapping[str, float]
    system: System | None = None
    low_hz: float = 1.8e6
    high_hz: float = 30e6
    seed: int = 1
    resistor_ohm: float | None = None
    boxes: Sequence[Box] = ()

    @property
    def center_hz(self) -> float:
        """The middle of the first target."""
        return self.targets[0].center_hz

    @cached_property
    def frequency_hz(self) -> Real:
        """Shape (201,)."""
        return np.geomspace(self.low_hz, max(self.high_hz, self.low_hz * 1.01), DRAWN_POINTS)

    def rng(self) -> np.random.Generator:
        """The same dice at every call."""
        return np.random.default_rng(self.seed)


@dataclass(frozen=True, slots=True)
class TurnsReport:
    """Turns: passes through the hole beside full returns outside; both ratios; where tap and crossing come."""

    passes: float
    returns: int
    primary: int | None = None
    secondary: int | None = None
    turns_ratio: float | None = None
    impedance_ratio: float | None = None
    in_hand: int = 1
    tap_after: float | None = None
    crosses_after: int | None = None


@dataclass(frozen=True, slots=True)
class WireToCut:
    """What to cut of one wire, metres; `tails_m` are both together, `spare_turns` are taken off again."""

    wire: str
    cut_m: float
    winding_m: float
    turn_m: float
    tails_m: float
    spare_turns: int = 0


@dataclass(frozen=True, slots=True)
class RingView:
    """A wound ring to be drawn: where its turns lie, on so many rings alike."""

    layout: WindingLayout
    rings: int = 1


@dataclass(frozen=True, slots=True)
class CoilView:
    """A coil on its former to be drawn from the side, to scale."""

    former_m: float
    length_m: float
    pitch_m: float
    wire_m: float
    turns: float
    tap_turns: float | None = None


@dataclass(frozen=True, slots=True)
class Seen:
    """What it is over frequency: impedance of the core's turns or the coil, and its loss in the design."""

    frequency_hz: Real
    resistance_ohm: Real
    reactance_ohm: Real
    inductance_h: Real
    q: Real
    loss_db: Real


def seen(frequency_hz: Real, impedance_ohm: Complex, loss_db: Real | None = None) -> Seen:
    """An impedance by everything that is drawn of it; shapes (n,)."""
    f, z = frequency_hz, impedance_ohm
    with np.errstate(divide="ignore", invalid="ignore"):
        q = z.imag / z.real
    return Seen(f, z.real, z.imag, z.imag / (2 * np.pi * f), q, np.zeros(f.shape) if loss_db is None else loss_db)


@dataclass(frozen=True, slots=True)
class BenchCurve:
    """The sweep to expect on the bench: SWR on a resistor in place of the antenna; alone, inductance or resistance.

    Nineteen builds in twenty lie between `low` and `high`.
    """

    what: Literal["swr", "inductance", "resistance"]
    frequency_hz: Real
    value: Real
    low: Real
    high: Real
    resistor_ohm: float | None = None


@dataclass(frozen=True, slots=True)
class AdjustmentRange:
    """What spreading and squeezing an air coil reaches, by its readings."""

    low_h: float
    high_h: float
    low_pitch_m: float
    high_pitch_m: float


@dataclass(frozen=True, slots=True)
class MadeOf:
    """Core and wire it is made of, with the note to read; `measured` where one's own sweep stands behind it."""

    wire: str
    wire_m: float
    covered_m: float
    tolerance: float
    mix: str | None = None
    size: str | None = None
    stack: int | None = None
    note: str = ""
    measured: bool = False


@dataclass(frozen=True, slots=True)
class RatedBand:
    """A choke on one band, at its worst place: series R and X there, and what that is good for.

    With the current that is known on the outside, effective: mean watts at full power, peak volts. `highest_a` is
    the current that keeps it within 40 °C in speech.
    """

    label: str
    at_hz: float
    resistance_ohm: float
    reactance_ohm: float
    rating: Literal["too little", "reactive", "enough", "good", "awkward places"]
    loss_w: float | None
    voltage_v: float | None
    highest_a: float | None


@dataclass(frozen=True, slots=True)
class ChokeReport:
    """A choke: its bands, the line it takes, how tightly that is bent; the impedance of a pair as a line."""

    bands: tuple[RatedBand, ...]
    length_m: float
    bend_m: float | None
    pair_ohm: float | None


@dataclass(frozen=True, slots=True)
class TrapBand:
    """One trap on one band at full power: what it acts as, its loss, peaks of voltage and current."""

    label: str
    at_hz: float
    acts_as_h: float
    reactance_ohm: float
    resistance_ohm: float
    loss_w: float
    lost_share: float
    voltage_v: float
    current_a: float


@dataclass(frozen=True, slots=True)
class School:
    """The same trap tuned elsewhere: what the wire gets, and what the trap bears at worst.

    `lower_share` is the lower band's share lost in all traps. None all through where no wire fits.
    """

    name: Literal["in the band", "just below it"]
    tuned_hz: float
    inner_m: float | None = None
    outer_m: float | None = None
    loss_w: float | None = None
    voltage_v: float | None = None
    lower_share: float | None = None


@dataclass(frozen=True, slots=True)
class Curve:
    """A curve over frequency."""

    frequency_hz: Real
    value: Real


@dataclass(frozen=True, slots=True)
class TrapReport:
    """A trap: its values, its leg by the line estimate, what it bears, the two schools, how to check it.

    `link` is the return loss through a link turn, dB; `port_swr` the least SWR across the port.
    """

    inductance_h: float
    capacitance_f: float
    q: float
    resonance_hz: float
    housed_hz: float
    inner_m: float
    outer_m: float
    coax_m: float | None
    bands: tuple[TrapBand, ...]
    schools: tuple[School, ...]
    link: Curve
    resistance_ohm: Curve
    reactance_ohm: Curve
    port_swr: float


@dataclass(frozen=True, slots=True)
class CouplerBand:
    """The variable capacitor on one band, and what the radio sees there."""

    label: str
    at_hz: float
    capacitance_f: float
    within: bool
    swr: float
    edge_swr: float
    resistance_ohm: float
    reactance_ohm: float
    squeezed_reactance_ohm: float
    apart_reactance_ohm: float
    voltage_v: float


@dataclass(frozen=True, slots=True)
class CouplerReport:
    """A tuned coupler: where its capacitor tunes it, and its setting on every band."""

    low_hz: float
    high_hz: float
    settings: tuple[CouplerBand, ...]


@dataclass(frozen=True, slots=True)
class WindingReport:
    """Everything about one wound thing."""

    kind: str
    key: str
    made_of: MadeOf
    turns: TurnsReport
    cuts: tuple[WireToCut, ...]
    fit: Fit
    picture: RingView | CoilView
    seen: Seen
    bench: BenchCurve
    heat: tuple[BandLosses, ...]
    findings: tuple[Finding[WindingCode], ...]
    wiring: str | None = None
    joins: tuple[Join, ...] = ()
    across: tuple[Across, ...] = ()
    stretch: AdjustmentRange | None = None
    choke: ChokeReport | None = None
    trap: TrapReport | None = None
    coupler: CouplerReport | None = None


def ring_cuts(layout: WindingLayout, names: tuple[str, ...]) -> tuple[WireToCut, ...]:
    """What to cut of every wire; those of a second ring are like those of the first."""
    cuts = layout.cuts()
    return tuple(
        WireToCut(name, cut.cut_m, cut.winding_m, cut.turn_m, 2 * layout.tail_m)
        for name, cut in zip(names, cuts * (len(names) // len(cuts)), strict=True)
    )


def full_returns(passes: float) -> int:
    """Turns as those count them who count full returns outside."""
    return math.floor(passes)
