"""What every kind of antenna says of itself, what its wire is, and how far its numbers stray."""

import math
from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self

import numpy as np

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Resistor
from yielding_coil.core.wire.geometry import Ground, GroundKind, Insulation, Load, Point, Wire
from yielding_coil.core.wire.structure import Structure

# Farm land and gardens (from memory, as all constants of ground).
AVERAGE_GROUND = Ground(0.005, 13)
# What so many radials of a quarter-wave on the ground lose, least and most ohms (from memory, after Brown, Lewis &
# Epstein, Proc. IRE 25, 1937).
RADIALS_OHM = {4: (20.0, 29.0), 8: (12.0, 18.0), 16: (8.0, 10.0), 32: (5.0, 6.0), 64: (2.0, 3.0)}


@dataclass(frozen=True, slots=True)
class Stock:
    """The wire that an antenna is made of."""

    radius_m: float = 0.001
    conductor: str = "copper"
    insulation: Insulation | None = None

    def wire(self, start_m: Point, end_m: Point) -> Wire:
        """A piece of it."""
        return Wire(start_m, end_m, self.radius_m, self.conductor, self.insulation)

    def covered(self, factor: float) -> "Stock":
        """The same with a covering that lengthens it so many times as much."""
        if self.insulation is None:
            return self
        outer = self.radius_m * (self.insulation.outer_radius_m / self.radius_m) ** factor
        return replace(self, insulation=replace(self.insulation, outer_radius_m=outer))


@dataclass(frozen=True, slots=True)
class Stray:
    """How far something strays from what is planned, as two standard deviations.

    Args:
        name: of the contributor.
        fields: what of the antenna moves together.
        relative: over the value.
        absolute: in the value's unit, added to it.
    """

    name: str
    fields: tuple[str, ...]
    relative: float = 0.0
    absolute: float = 0.0


BARE = Stock()

# A piece as it is cut, tied and stretched, a height as it is guessed from below, coverings as they are bought
# (common practice). Ground between dry and wet: three times as much conductivity, half as much again permittivity.
LENGTH = 0.006
HEIGHT, HEIGHT_M = 0.05, 0.2
COVERING = 0.3
CONDUCTIVITY, PERMITTIVITY = 3.0, 1.5


class Hung(ABC):
    """A kind with its numbers: a frozen dataclass, and a pure function from it to wires in the air.

    `lengths` and `heights` name the fields that a tape measures and that are guessed from below.
    """

    __slots__ = ()
    lengths: ClassVar[tuple[str, ...]] = ()
    heights: ClassVar[tuple[str, ...]] = ()

    @property
    @abstractmethod
    def stock(self) -> Stock:
        """The wire it is made of."""

    @property
    @abstractmethod
    def ground(self) -> GroundKind:
        """What is under it."""

    @abstractmethod
    def structure(self) -> Structure:
        """Its wires, feed, loads and ground."""

    def strays(self) -> tuple[Stray, ...]:
        """What of it strays, and how far."""
        found = [Stray("length", self.lengths, LENGTH)]
        if self.heights:
            found.append(Stray("height", self.heights, HEIGHT, HEIGHT_M))
        if self.stock.insulation is not None:
            found.append(Stray("covering", ("stock",), COVERING))
        if isinstance(self.ground, Ground):
            found.append(Stray("ground", ("ground",)))
        return tuple(found)

    def strayed(self, stray: Stray, deviate: float) -> Self:
        """The same antenna with one thing so many standard deviations off."""
        own: Any = self
        changes: dict[str, object] = {}
        for name in stray.fields:
            value = getattr(own, name)
            if isinstance(value, Stock):
                changes[name] = value.covered(1 + deviate * stray.relative / 2)
            elif isinstance(value, Ground):
                wetter = deviate / 2
                changes[name] = Ground(
                    value.conductivity_s_per_m * CONDUCTIVITY**wetter,
                    max(1.0, value.relative_permittivity * PERMITTIVITY**wetter),
                )
            else:
                changes[name] = value * (1 + deviate * stray.relative / 2) + deviate * stray.absolute / 2
        found: Self = replace(own, **changes)
        return found


@dataclass(frozen=True, slots=True)
class AntennaKind:
    """A kind of antenna.

    Args:
        key: its name in what is kept.
        name: in words.
        purpose: what people hang it for.
        fed_by: what stands between it and the coax.
        feed_ohm: the resistance that feed expects, as practised.
        not_modelled: what of it the model leaves out.
        start: one to begin with for a frequency in Hz, in numbers of the trade.
    """

    key: str
    name: str
    purpose: str
    fed_by: str
    feed_ohm: float
    not_modelled: str
    start: Callable[[float], Hung]


def wave_m(frequency_hz: float) -> float:
    """In metres, in free space."""
    require_positive("frequency_hz", frequency_hz)
    return SPEED_OF_LIGHT_M_PER_S / frequency_hz


def usual_height_m(frequency_hz: float) -> float:
    """As high as gardens allow: a quarter-wave, 6 to 12 m."""
    return min(max(wave_m(frequency_hz) / 4, 6.0), 12.0)


def radials_ohm(radials: int) -> tuple[float, float]:
    """Least and most that so many radials on the ground lose, in ohm, between the numbers of the table by powers.

    Raises:
        OutOfDomainError: fewer than 4 or more than 64.
    """
    if not 4 <= radials <= 64:
        raise OutOfDomainError("radials", radials, "4 to 64 on the ground")
    counts = np.log(list(RADIALS_OHM))
    least, most = (
        float(np.exp(np.interp(math.log(radials), counts, np.log([pair[i] for pair in RADIALS_OHM.values()]))))
        for i in (0, 1)
    )
    return least, most


class OnRadials(Hung):
    """What stands on radials on the ground: perfect ground, and their loss as a resistor at the base."""

    __slots__ = ()

    @property
    def ground(self) -> GroundKind:
        """Perfect: what is not, is in the resistor."""
        return "perfect"

    @property
    @abstractmethod
    def radials(self) -> int:
        """How many."""

    @property
    @abstractmethod
    def ground_ohm(self) -> float | None:
        """What they lose; between the least and the most of the table when left out."""

    def __post_init__(self) -> None:
        if self.ground_ohm is None:
            object.__setattr__(self, "ground_ohm", sum(radials_ohm(self.radials)) / 2)

    @property
    def earth(self) -> Load:
        """It as a resistor at the base of wire 0."""
        return Load(0, 0.0, Resistor(max(self.ground_ohm or 0.0, 0.0)))

    def strays(self) -> tuple[Stray, ...]:
        """And what the radials lose, between the least and the most of the table."""
        least, most = radials_ohm(self.radials)
        return (*super().strays(), Stray("radials", ("ground_ohm",), absolute=most - least))
