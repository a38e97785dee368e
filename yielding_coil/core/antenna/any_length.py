"""A wire of any length: which lengths stay clear of half-waves on every band, by three rules that disagree.

A length is bad on a band where some frequency of the band makes the wire a multiple of half a wave: no transformer
of nine to one brings that within a tuner's reach. Practice tells multiples of its half-wave; the long-wire rule
counts the end effect once; the model solves the wire where it hangs.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal, NamedTuple

import numpy as np
from scipy.interpolate import CubicSpline

from yielding_coil.core.arrays import Complex, Real, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import impedance_of, reflection_of, swr_of_impedance
from yielding_coil.core.target import Target
from yielding_coil.core.wire import AVERAGE_GROUND, EndFed, Ground, Stock, lengthwise, octave_above, wave_m

LengthSchool = Literal["practice", "long-wire", "model"]

# 468 feet over megahertz, as many times as there are half-waves (common practice).
PRACTICE_M_HZ = 142_646_400.0
# 492·(n − 0.05) feet over megahertz: the ends count once (a handbook's long wire, from memory).
LONG_WIRE_M_HZ, ENDS = 149_961_600.0, 0.05
# What a transformer of nine to one turns fifty ohm into.
NINE_TO_ONE_OHM = 450.0
# What SWR tuners take with ease, with some loss, with much, and hardly (practice: 3 in the radio, 10 in a box).
SWR_GRADES = (3.0, 6.0, 10.0, 20.0)
# A wire shorter than so much of a quarter-wave is far under it: what it takes is mostly lost (common practice).
FAR_UNDER = 2 / 3
# Lengths of the strip, as they are drawn and looked through.
STEP_M = 0.01
# Segments a wave, and at least so many on the longest wire; a band is solved at so many frequencies.
SEGMENTS_PER_WAVE, FEWEST, FREQUENCIES = 20.0, 50, 5
# A wire is a line of about so many ohms (Schelkunoff, Proc. IRE 29, 1941, from memory).
LINE_OHM = 600.0
MOST_M, MOST_BANDS = 120.0, 12


class Zone(NamedTuple):
    """Lengths that are so many half-waves somewhere in a band, in metres; halves of one are odd quarter-waves."""

    label: str
    half_waves: float
    low_m: float
    high_m: float


class Window(NamedTuple):
    """Lengths between two zones, in metres."""

    low_m: float
    high_m: float

    @property
    def best_m(self) -> float:
        """As far from both, in percent."""
        return math.sqrt(self.low_m * self.high_m)

    @property
    def share(self) -> float:
        """How far its middle is from both ends, over its length."""
        return math.sqrt(self.high_m / self.low_m) - 1


@dataclass(frozen=True, slots=True)
class Margin:
    """How far a length lies from the nearest zone of a school.

    Args:
        share: over the length; zero within a zone.
        metres: to its nearest end, signed: longer wire above zero.
        zone: the nearest; None where there is none.
    """

    school: LengthSchool
    share: float
    metres: float
    zone: Zone | None


def half_wave_m(school: LengthSchool, half_waves: float, frequency_hz: float) -> float:
    """So many half-waves by a rule, in metres.

    Raises:
        OutOfDomainError: a frequency not above zero.
    """
    require_positive("frequency_hz", frequency_hz)
    if school == "practice":
        return half_waves * PRACTICE_M_HZ / frequency_hz
    return (half_waves - ENDS) * LONG_WIRE_M_HZ / frequency_hz


def require_room(targets: Sequence[Target], least_m: float, most_m: float) -> None:
    """Raise OutOfDomainError for no band, too many, or no room."""
    if not targets:
        raise OutOfDomainError("bands", "none", "at least one")
    if len(targets) > MOST_BANDS:
        raise OutOfDomainError("bands", len(targets), f"at most {MOST_BANDS}")
    if not 0 < least_m < most_m <= MOST_M:
        raise OutOfDomainError(
            "space", f"{least_m:.4g} to {most_m:.4g} m", f"lengths above 0, rising, up to {MOST_M:.0f} m"
        )


def zones_by_rule(
    school: LengthSchool, targets: Sequence[Target], most_m: float, quarters: bool = False
) -> tuple[Zone, ...]:
    """The bad zones of a rule up to a length; the stricter school's odd quarter-waves where `quarters`.

    Raises:
        OutOfDomainError: no band; no room.
    """
    require_room(targets, STEP_M, most_m)
    found = []
    for target in targets:
        n = 0.5 if quarters else 1.0
        while half_wave_m(school, n, target.high_hz) < most_m:
            ends = (half_wave_m(school, n, f) for f in (target.high_hz, target.low_hz))
            found.append(Zone(target.label, n, *ends))
            n += 1.0
    return tuple(found)


def windows(zones: Sequence[Zone], least_m: float, most_m: float) -> tuple[Window, ...]:
    """What lies between all zones from a length to another, the widest first."""
    edges = sorted((max(z.low_m, least_m), min(z.high_m, most_m)) for z in zones if z.high_m > least_m)
    found, at = [], least_m
    for low, high in [*edges, (most_m, most_m)]:
        if low > at:
            found.append(Window(at, min(low, most_m)))
        at = max(at, high)
        if at >= most_m:
            break
    return tuple(sorted(found, key=lambda w: -w.share))


def margin_of(school: LengthSchool, length_m: float, zones: Sequence[Zone]) -> Margin:
    """How far a length lies from the nearest zone.

    Raises:
        OutOfDomainError: a length not above zero.
    """
    require_positive("length_m", length_m)

    def off(zone: Zone) -> float:
        if zone.low_m <= length_m <= zone.high_m:
            return 0.0
        ends = zone.low_m - length_m, zone.high_m - length_m
        return min(ends, key=abs)

    if not zones:
        return Margin(school, math.inf, math.inf, None)
    nearest = min(zones, key=lambda zone: abs(off(zone)))
    return Margin(school, abs(off(nearest)) / length_m, off(nearest), nearest)


def far_under(length_m: float, targets: Sequence[Target]) -> tuple[str, ...]:
    """The bands on which a wire is so much under a quarter-wave that a low reading is loss, by their names."""
    return tuple(t.label for t in targets if length_m < FAR_UNDER * wave_m(t.center_hz) / 4)


@dataclass(frozen=True, slots=True)
class AnyLength:
    """How such a wire hangs: level, with a counterpoise the other way.

    Args:
        height_m: of all of it; counterpoise_m: how long that is.
    """

    height_m: float
    counterpoise_m: float
    stock: Stock
    ground: Ground = AVERAGE_GROUND

    def hung(self, length_m: float) -> EndFed:
        """One of a length.

        Raises:
            OutOfDomainError: a number that it may not have.
        """
        blank = EndFed(1.0, 1.0, 1.0, 1.0, self.stock, self.ground)
        return blank.told(
            wire_m=length_m, counterpoise_m=self.counterpoise_m, feed_m=self.height_m, far_m=self.height_m
        )


@dataclass(frozen=True)
class LengthStrip:
    """Every length of a wire on every band, by the model.

    Args:
        targets: the bands.
        lengths_m: rising by a centimetre, shape (n,).
        frequency_hz: of each band, shape (bands, frequencies), its edges first and last.
        impedance_ohm: shape (bands, frequencies, n).
    """

    targets: tuple[Target, ...]
    lengths_m: Real
    frequency_hz: Real
    impedance_ohm: Complex

    @cached_property
    def swr(self) -> Real:
        """Behind nine to one, the worst over each band, shape (bands, n)."""
        return np.asarray(swr_of_impedance(self.impedance_ohm, NINE_TO_ONE_OHM).max(axis=1))

    def zones(self, quarters: bool = False) -> tuple[Zone, ...]:
        """From where R crests at the upper edge of a band to where it does at the lower; of quarters troughs."""
        found = []
        for target, f, z in zip(self.targets, self.frequency_hz, self.impedance_ohm, strict=True):
            at = [self._crests(f[i], z[i].real, quarters) for i in (-1, 0)]
            wider = target.high_hz / target.low_hz
            for n in sorted({*at[0], *at[1]}):
                # A crest beyond the end of what is looked at, by that of the other edge.
                low = at[0].get(n) or at[1][n] / wider
                high = at[1].get(n) or at[0][n] * wider
                found.append(Zone(target.label, n, min(low, high), max(low, high)))
        return tuple(found)

    def _crests(self, frequency_hz: float, ohm: Real, quarters: bool) -> dict[float, float]:
        """Length of each crest of R over the length, by its number of half-waves."""
        height = -ohm if quarters else ohm
        at = np.flatnonzero((height[1:-1] >= height[:-2]) & (height[1:-1] > height[2:])) + 1
        shift = 0.5 if quarters else 0.0
        found: dict[float, float] = {}
        for i in at:
            waves = float(self.lengths_m[i]) * frequency_hz / LONG_WIRE_M_HZ + ENDS
            found[float(round(waves + shift)) - shift] = float(self.lengths_m[i])
        return found


def strip_of(
    how: AnyLength,
    targets: Sequence[Target],
    least_m: float,
    most_m: float,
    segments_per_wave: float = SEGMENTS_PER_WAVE,
) -> LengthStrip:
    """Every length from one elimination a frequency; between the edges of segments interpolated.

    What an outgoing and a returning wave add up to turns with twice the length; with that turned back it is smooth.

    Raises:
        OutOfDomainError: no band, no room, lengths from under a segment of the longest, a wire that cannot hang so.
    """
    require_room(targets, least_m, most_m)
    if least_m * FEWEST < most_m:
        raise OutOfDomainError(
            "least_m", f"{least_m:.4g} m of a wire up to {most_m:.4g} m", f"{most_m / FEWEST:.4g} m or more"
        )
    return _strip(how, tuple(targets), least_m, most_m, segments_per_wave)


@lru_cache(maxsize=8)
def _strip(
    how: AnyLength, targets: tuple[Target, ...], least_m: float, most_m: float, segments_per_wave: float
) -> LengthStrip:
    f = np.array([np.linspace(t.low_hz, t.high_hz, FREQUENCIES) for t in targets])
    steps = np.arange(math.ceil(least_m / STEP_M - 1e-9), math.floor(most_m / STEP_M + 1e-9) + 1)
    lengths = np.asarray(steps * STEP_M, dtype=np.float64)
    found = np.empty((len(targets), FREQUENCIES, len(lengths)), dtype=complex)
    octaves = np.array([octave_above(t.high_hz) for t in targets])
    longest = how.hung(most_m)
    for octave in np.unique(octaves):
        own = np.flatnonzero(octaves == octave)
        dense = max(segments_per_wave, FEWEST * wave_m(octave) / most_m)
        there = np.unique(f[own])
        known_m, ohm = lengthwise(longest.structure(), there, dense)
        for band in own:
            for i, hz in enumerate(f[band]):
                turn = 4 * math.pi / wave_m(hz)
                gamma = reflection_of(ohm[np.searchsorted(there, hz)], LINE_OHM)
                smooth = CubicSpline(known_m, gamma * np.exp(1j * turn * known_m))
                z = smooth(lengths) * np.exp(-1j * turn * lengths)
                found[band, i] = impedance_of(z, LINE_OHM)
    return LengthStrip(targets, lengths, f, found)


@dataclass(frozen=True, slots=True)
class LengthOnBand:
    """What a chosen length does on a band, solved in full where it hangs.

    Args:
        swr_low, swr_high: behind nine to one over the band, before any line.
        impedance_ohm: of the wire, in the middle.
        far_under: whether it is so short there that a low reading is loss.
    """

    label: str
    swr_low: float
    swr_high: float
    impedance_ohm: complex
    far_under: bool


def length_on_bands(how: AnyLength, length_m: float, targets: Sequence[Target]) -> tuple[LengthOnBand, ...]:
    """A chosen length band by band.

    Raises:
        OutOfDomainError: no band; a wire that cannot hang so.
    """
    require_room(targets, STEP_M, max(length_m, 2 * STEP_M))
    structure = how.hung(length_m).structure()
    short = far_under(length_m, targets)
    found = []
    for target in targets:
        f = np.linspace(target.low_hz, target.high_hz, FREQUENCIES)
        z = structure.impedance_at(f)
        swr = swr_of_impedance(z, NINE_TO_ONE_OHM)
        found.append(
            LengthOnBand(
                target.label,
                float(swr.min()),
                float(swr.max()),
                complex(z[FREQUENCIES // 2]),
                target.label in short,
            )
        )
    return tuple(found)
