"""What a design will do: every station over frequency, the targets judged, what another coax would do."""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.design.design import Design, Feedline, RadioTuner
from yielding_coil.core.element import AtWork
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import CableRow, Line
from yielding_coil.core.modelled_antenna import ModelledAntenna
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.reflection import reflection_of, swr_of_impedance
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Antenna, Station, System
from yielding_coil.core.target import POINTS, judged_at
from yielding_coil.core.wire import Hung


def drawn_grid(antenna: Antenna, low_hz: float, high_hz: float, points: int) -> Real:
    """Frequencies between two, as far as the antenna is known.

    Raises:
        OutOfDomainError: nothing is left between them.
    """
    low, high = low_hz, high_hz
    if isinstance(antenna, Sweep | ModelledAntenna):
        low, high = max(low, antenna.low_hz), min(high, antenna.high_hz)
    if not low < high:
        raise OutOfDomainError("high_hz", high_hz, f"above low_hz, {low_hz}, inside what is known of the antenna")
    return np.linspace(low, high, points)


@dataclass(frozen=True, slots=True)
class Evaluation:
    """A design at full power: over its targets, and at the frequencies drawn.

    Args:
        system: its cascade.
        judged_hz: shape (targets · 41,), every target in turn.
        judged: its stations there.
        drawn: its stations at the frequencies asked for; none where none were.
    """

    design: Design
    system: System
    power_w: float
    judged_hz: Real
    judged: tuple[Station, ...]
    drawn: tuple[Station, ...] = ()

    @property
    def box(self) -> int:
        """The station at which the match is judged."""
        return self.system.match_station

    @property
    def worst_swr(self) -> Real:
        """The worst SWR at the box, one for each target."""
        return np.asarray(self.judged[self.box].swr.reshape(-1, POINTS).max(axis=1))

    def at_work(self, index: int) -> AtWork:
        """One element, counted from the antenna down."""
        return AtWork(
            self.design.center_hz,
            self.design.targets,
            self.judged_hz,
            self.system.elements[index].part,
            self.judged[index],
            self.judged[index + 1],
        )


def evaluate(design: Design, power_w: float = 100.0, drawn_hz: Real | None = None) -> Evaluation:
    """A design over its targets, and at the frequencies drawn: in one pass, which takes hardly longer.

    Args:
        power_w: peak envelope at the radio, above zero.
        drawn_hz: shape (n,), inside what the antenna is known for.

    Raises:
        OutOfDomainError: a frequency outside what is known of the antenna, or a part that cannot be made.
    """
    system = design.system()
    frequency, _ = judged_at(design.targets)
    if drawn_hz is None:
        return Evaluation(design, system, power_w, frequency, system.stations(frequency, power_w))
    stations = system.stations(np.concatenate([drawn_hz, frequency]), power_w)
    drawn, judged = slice(0, drawn_hz.size), slice(drawn_hz.size, None)
    return Evaluation(
        design,
        system,
        power_w,
        frequency,
        tuple(s.at(judged) for s in stations),
        tuple(s.at(drawn) for s in stations),
    )


# Less reactance than this share of the resistance needs no part on the bench.
SMALL_SHARE = 0.02


class BenchLoad(NamedTuple):
    """What stands in for the antenna on the bench in the middle of the first target, and what is read with it.

    `inductance_h` or `capacitance_f` in series with the resistor; neither where the antenna's reactance is small.
    `swr` is what a perfect build reads with both, `swr_alone` with the resistor only.
    """

    at_hz: float
    resistor_ohm: float
    inductance_h: float | None
    capacitance_f: float | None
    swr: float
    swr_alone: float


def bench_load(design: Design, system: System) -> BenchLoad | None:
    """The antenna as parts to be had, and the readings to expect; None where it is not known there."""
    at = np.array([design.center_hz])
    try:
        z = complex(design.antenna.impedance_at(at)[0])
    except OutOfDomainError:
        return None
    omega, known = 2 * math.pi * design.center_hz, abs(z.imag) >= SMALL_SHARE * z.real

    both = FixedLoad(np.array([z, complex(z.real)]))
    seen = replace(system, antenna=both).impedance(np.repeat(at, 2), system.match_station)
    swr, alone = (float(v) for v in swr_of_impedance(seen))
    return BenchLoad(
        design.center_hz,
        z.real,
        z.imag / omega if known and z.imag > 0 else None,
        -1 / (omega * z.imag) if known and z.imag < 0 else None,
        swr,
        alone,
    )


class WireSplit(NamedTuple):
    """Shares of the power that goes into a modelled wire at one frequency."""

    at_hz: float
    radiated: float
    wire: float
    loads: float
    ground: float


def wire_split(design: Design, at_hz: float | None = None) -> WireSplit | None:
    """Where it goes, in the middle of the first target when left out; None where the antenna is not modelled, or

    takes no power there.
    """
    if not isinstance(design.antenna, ModelledAntenna):
        return None
    return _split_of(design.antenna.hung, design.center_hz if at_hz is None else at_hz)


@lru_cache(maxsize=128)
def _split_of(hung: Hung, at_hz: float) -> WireSplit | None:
    """It stays the same while a part is dragged."""
    try:
        shares = hung.watts_at(at_hz, 1.0)
    except OutOfDomainError:
        return None
    return WireSplit(at_hz, *(float(share) for share in shares)) if np.isfinite(shares).all() else None


def arc_midpoint(system: System, station: int, above_ohm: Complex, frequency_hz: Real) -> Complex:
    """Γ with half of a part's effect, through which its arc on the chart goes.

    Args:
        station: counted from the antenna; 0, transformers and the feedline have no arc.
        above_ohm: shape (n,), looking up from the station before it.
    """
    element = system.elements[station - 1] if station else None
    if element is not None and element.in_match and isinstance(element.part, Line):
        half = replace(element.part, length_m=element.part.length_m / 2)
        return reflection_of(half.waves(frequency_hz, above_ohm).near_ohm)
    if element is None or element.place == "through":
        return reflection_of(above_ohm)
    part = element.part
    if element.place == "series":
        return reflection_of(above_ohm + part.impedance_ohm(frequency_hz) / 2)  # type: ignore[union-attr]
    return reflection_of(above_ohm / (1 + above_ohm * part.admittance_s(frequency_hz) / 2))  # type: ignore[union-attr]


@dataclass(frozen=True, slots=True)
class FeedlineComparison:
    """What one coax would do in place of the feedline, at the design's centre; None where nothing goes in."""

    cable: str
    name: str
    here: bool
    loss_w: float
    loss_db: float | None
    into_wire_w: float
    radio_swr: float


def compare_feedlines(design: Design, power_w: float, cables: Iterable[CableRow]) -> list[FeedlineComparison]:
    """Every coax at the length of the design's feedline, least loss first; empty where it has none.

    Args:
        cables: of which those that are coax are looked at, and the design's own.
    """
    line = design.feedline
    if line is None or line.length_m == 0:
        return []
    rows = {cable.key: cable for cable in cables if cable.coax}
    rows[line.cable.key] = line.cable
    found = [_with_cable(design, line, cable, power_w) for cable in rows.values()]
    return sorted(found, key=lambda r: (not np.isfinite(r.loss_w), r.loss_w))


def _with_cable(design: Design, line: Feedline, cable: CableRow, power_w: float) -> FeedlineComparison:
    # As the line's own end shows it: a tuner below it would make them all alike.
    elements = tuple(
        replace(line, cable=cable) if e is line else e for e in design.elements if not isinstance(e, RadioTuner)
    )
    system = replace(design, elements=elements).system()
    stations = system.stations(design.center_hz, power_w)
    loss = float(sum(s.loss_w for s in stations[system.match_station + 1 :]))
    return FeedlineComparison(
        cable.key,
        cable.cable.name,
        cable is line.cable,
        loss,
        float(-10 * np.log10(1 - loss / power_w)) if 0 <= loss < power_w else None,
        float(stations[0].power_w),
        float(stations[-1].swr),
    )
