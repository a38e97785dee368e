"""What every kind of antenna says of itself, what its wire is, and how far its numbers stray."""

import math
from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self

import numpy as np

from yielding_coil.core.arrays import Real, require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Resistor
from yielding_coil.core.wire.forms import FORMS, WireForm
from yielding_coil.core.wire.geometry import Ground, GroundKind, Insulation, Load, Point, Wire
from yielding_coil.core.wire.structure import Structure

# Farm land and gardens (from memory, as all constants of ground).
AVERAGE_GROUND = Ground(0.005, 13)


@dataclass(frozen=True, slots=True)
class SoilKind:
    """What is under an antenna, as people call it."""

    key: str
    name: str
    ground: Ground


# After ITU-R P.527 and handbooks, from memory: a factor of three either way.
SOILS: Mapping[str, SoilKind] = {
    soil.key: soil
    for soil in (
        SoilKind("garden", "garden or farm land", AVERAGE_GROUND),
        SoilKind("dry", "dry sand or rock", Ground(0.001, 5)),
        SoilKind("moist", "moist, heavy soil", Ground(0.02, 20)),
        SoilKind("fresh-water", "fresh water", Ground(0.005, 80)),
        SoilKind("salt-water", "salt water", Ground(5.0, 81)),
    )
}

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
# From so many ohms on a wire is fed through an unun (common practice).
HIGH_FEED_OHM = 400.0

NumberUnit = Literal["m", "deg", "H", "F", "Hz", "share", "count", "Q"]


@dataclass(frozen=True, slots=True)
class Number:
    """A plain number of an antenna: its field, what it is called, and between what it may lie."""

    name: str
    label: str
    unit: NumberUnit
    least: float
    most: float


def _lengths(**labels: str) -> list[Number]:
    return [Number(name, label, "m", 0.1, 400.0) for name, label in labels.items()]


# Everything an antenna can be told by, in words of the trade.
NUMBERS: Mapping[str, Number] = {
    number.name: number
    for number in (
        *_lengths(
            leg_m="one leg",
            beyond_m="beyond the link",
            wire_m="wire",
            counterpoise_m="counterpoise",
            shield_m="shield down to the choke",
            perimeter_m="whole wire, once round",
            radial_m="one radial",
            lower_m="below the coil",
            upper_m="above the coil",
            inner_m="leg to the trap",
            outer_m="beyond the trap",
            under_m="below the trap",
            over_m="above the trap",
            short_m="short leg",
            inside_m="inner loop, once round",
            other_m="leg of the one beside",
            spoke_m="one spoke of the hat",
            whip_m="above the feed",
            sleeve_m="sleeve",
        ),
        Number("apart_m", "apart", "m", 0.005, 50.0),
        Number("height_m", "height", "m", 0.1, 200.0),
        Number("high_m", "high end", "m", 0.1, 200.0),
        Number("low_m", "low end", "m", 0.1, 200.0),
        Number("apex_m", "apex", "m", 0.1, 200.0),
        Number("feed_m", "feedpoint height", "m", 0.1, 200.0),
        Number("far_m", "far end height", "m", 0.1, 200.0),
        Number("base_m", "base", "m", 0.1, 200.0),
        Number("angle_deg", "angle between the legs", "deg", 30.0, 180.0),
        Number("droop_deg", "radials droop", "deg", 0.0, 85.0),
        Number("inductance_h", "coil", "H", 1e-8, 5e-3),
        Number("coil_at", "coil, up from the feed", "share", 0.0, 0.95),
        Number("q", "Q of the coil", "Q", 10.0, 1000.0),
        Number("radials", "radials", "count", 2.0, 64.0),
        Number("spokes", "spokes of the hat", "count", 2.0, 8.0),
        Number("trap_hz", "trap resonates at", "Hz", 1e6, 6e7),
        Number("trap_f", "trap's capacitor", "F", 5e-12, 1e-9),
    )
}


def refused(name: str, value: object, accepted: str) -> OutOfDomainError:
    """The refusal of a number, by what it is called."""
    return OutOfDomainError(NUMBERS[name].label if name in NUMBERS else name, value, accepted)


@dataclass(frozen=True, slots=True)
class Handle:
    """A place of an antenna that hands move: which numbers follow, and where it lies.

    Args:
        numbers: that follow it.
        wire: of the structure, and `at` along it; of a load, where `load` is given.
    """

    key: str
    label: str
    numbers: tuple[str, ...]
    wire: int = 0
    at: float = 1.0
    load: int | None = None


@dataclass(frozen=True, slots=True)
class WirePiece:
    """A piece that an antenna is cut from, so many times."""

    label: str
    count: int
    length_m: float


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
    # What else it is told by; where hands take hold of it; and what brings its dip to a frequency.
    others: ClassVar[tuple[str, ...]] = ()
    handles: ClassVar[tuple[Handle, ...]] = ()
    tuned_by: ClassVar[str] = ""
    # Of several bands, what brings each of its dips there, highest first: trimmed in that order.
    in_turn: ClassVar[tuple[str, ...]] = ()
    # Whether it hangs between two supports, and whether the coax hangs in its middle; loads that are ground.
    spans: ClassVar[Literal["", "wire", "coax"]] = ""
    earths: ClassVar[int] = 0

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

    @abstractmethod
    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut, the piece that is trimmed first."""

    @property
    def trimmed_m(self) -> float:
        """The length that tapes and rules speak of: a leg, the whole wire."""
        return float(getattr(self, self.lengths[0]))

    @property
    def reaches_m(self) -> tuple[float, ...]:
        """From the feed to where the wire of each of its bands ends, highest band first."""
        return (self.trimmed_m,)

    def reaching(self, reach_m: Sequence[float]) -> Self:
        """The same with its wires ending there.

        Args:
            reach_m: as many as it has bands.

        Raises:
            OutOfDomainError: another number of them, or lengths that it cannot have.
        """
        if len(reach_m) != len(self.reaches_m):
            raise OutOfDomainError("reach_m", f"{len(reach_m)} lengths", f"{len(self.reaches_m)}, one a band")
        return self._reaching(reach_m)

    def _reaching(self, reach_m: Sequence[float]) -> Self:
        return self.shortened(self.trimmed_m - reach_m[0])

    def band_of(self, frequency_hz: float) -> int:
        """Which of its bands a frequency belongs to, the highest first."""
        return 0

    def tuned_on(self, frequency_hz: float) -> str:
        """The number that brings its dip to a band: of several bands each has its own."""
        return self.in_turn[self.band_of(frequency_hz)] if self.in_turn else self.tuned_by

    @property
    def numbers(self) -> dict[str, float]:
        """All it is told by, by name."""
        return {name: float(getattr(self, name)) for name in self.told_by()}

    @classmethod
    def told_by(cls) -> tuple[str, ...]:
        """The names of its numbers, in the order they are asked for."""
        return (*cls.lengths, *cls.heights, *cls.others)

    def told(self, **numbers: float) -> Self:
        """The same with other numbers.

        Raises:
            OutOfDomainError: a number that it has not, or one beyond what it may be.
        """
        changes: dict[str, Any] = {}
        for name, value in numbers.items():
            if name not in self.told_by():
                raise OutOfDomainError(name, value, f"one of {', '.join(self.told_by())}")
            known = NUMBERS[name]
            if not known.least <= value <= known.most:
                # A length is told as a tape shows it, all else as it is.
                unit = {"m": " m", "deg": "°", "H": " H", "F": " F", "Hz": " Hz"}.get(known.unit, "")
                raise refused(name, f"{value:.5g}{unit}", f"{known.least:g} to {known.most:g}{unit}")
            changes[name] = round(value) if known.unit == "count" else value
        return self._replaced(changes)

    def _replaced(self, changes: Mapping[str, Any]) -> Self:
        own: Any = self
        found: Self = replace(own, **changes)
        return found

    def shortened(self, by_m: float) -> Self:
        """With so much taken off each of the ends that are trimmed; more wire where below zero."""
        return self.told(**{self.lengths[0]: self.trimmed_m - by_m})

    @property
    def soil(self) -> Ground:
        """What reflects far away."""
        return self.ground if isinstance(self.ground, Ground) else AVERAGE_GROUND

    def watts_at(self, frequency_hz: float, power_w: float = 100.0) -> Real:
        """Radiated, lost in wire, in loads and in the ground, shape (4,).

        Raises:
            OutOfDomainError: where it takes no power.
        """
        solved = self.structure().solve(frequency_hz, power_w)
        return np.array([solved.radiated_w, solved.wire_w, solved.load_w.sum(), solved.ground_w])

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
        form: how it is cut and trimmed.
        start: one to begin with for a frequency in Hz, in numbers of the trade.
        start_for: the same for two bands, the upper one first, of a kind that serves two at once.
        arrangement: how the wires of such a kind lie to each other.
    """

    key: str
    name: str
    purpose: str
    fed_by: str
    feed_ohm: float
    not_modelled: str
    form: WireForm
    start: Callable[[float], Hung]
    start_for: Callable[[float, float], Hung] | None = None
    arrangement: Literal["linked", "nested"] = "linked"

    @property
    def bands(self) -> int:
        """How many bands it serves at once, by its build."""
        return 1 if self.start_for is None else 2

    @property
    def by_unun(self) -> bool:
        """Whether it shows so much that nobody feeds or sweeps it without a transformer."""
        return self.feed_ohm > HIGH_FEED_OHM

    @property
    def resonant(self) -> bool:
        """Whether it is brought to a band by its length or its coil."""
        return FORMS[self.form].resonant

    def made(self, numbers: Mapping[str, float], stock: Stock, ground: GroundKind) -> Hung:
        """One with these numbers; those left out as usual for 10 MHz.

        Args:
            ground: under it; what stands on radials has their resistor near by, and real ground far away.

        Raises:
            OutOfDomainError: a number that it has not, or that it may not have.
        """
        usual: Any = self.start(1e7)
        under = "soil" if isinstance(usual, OnRadials) else "ground"
        own = replace(usual, stock=stock, **{under: ground})
        found: Hung = own.told(**numbers)
        return found


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
    earths: ClassVar[int] = 1

    @property
    def ground(self) -> GroundKind:
        """Perfect: what is not, is in the resistor."""
        return "perfect"

    @property
    @abstractmethod
    def soil(self) -> Ground:
        """What reflects far away, beyond them."""

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

    def _replaced(self, changes: Mapping[str, Any]) -> Self:
        # Other radials lose something else.
        return super()._replaced({"ground_ohm": None, **changes} if "radials" in changes else changes)

    def watts_at(self, frequency_hz: float, power_w: float = 100.0) -> Real:
        """What the radials' resistor takes and what soil further away does not reflect is lost in the ground."""
        structure = self.structure()
        solved = structure.solve(frequency_hz, power_w)
        coils, sent = solved.load_w[1:].sum(), structure.sent_w(frequency_hz, power_w, self.soil)
        return np.array([sent, solved.wire_w, coils, power_w - sent - solved.wire_w - coils])

    def strays(self) -> tuple[Stray, ...]:
        """And what the radials lose, between the least and the most of the table."""
        least, most = radials_ohm(self.radials)
        soil = Stray("ground", ("soil",))
        return (*super().strays(), Stray("radials", ("ground_ohm",), absolute=most - least), soil)
