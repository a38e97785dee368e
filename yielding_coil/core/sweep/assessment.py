"""What a sweep says of a wire on bands: how it stands, the floor under any match, what changed, what to hold."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, TypeAlias

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.bode_fano import lowest_swr
from yielding_coil.core.reflection import reflection_of, swr_of, swr_of_impedance
from yielding_coil.core.sweep.gaps import covers
from yielding_coil.core.sweep.sweep import Sweep
from yielding_coil.core.sweep.swr_sweep import SwrSweep
from yielding_coil.core.sweep.uncertainty import ReflectionUncertainty
from yielding_coil.core.target import Target

Swept: TypeAlias = Sweep | SwrSweep
# Frequencies on a band at which it is looked at.
BAND_POINTS = 101
# Where no band lies inside a sweep: so much either way of its best match. The usual SWR limit.
AROUND_BEST, USUAL_LIMIT = 0.01, 2.0
# A Q below this is the rounding of a resistor.
LEAST_Q = 1e-3
# Above the first a curve is called sharp, above the second middling (common practice in words).
SHARP_Q, MIDDLING_Q = 30.0, 10.0
# Wider than this share of its frequency no wire holds 2 : 1 by itself.
WIDEST_WIRE = 0.25
# Two standard deviations of Γ, relative, of an analyser of which nothing is known.
USUAL_READING = 0.02
# Reactance that need not be tuned out; a floor that leaves nothing to wish for; one that is as good as 1.
SMALL_OHM, NARROW_SWR, PERFECT_SWR = 10.0, 1.1, 1.02

Sharpness: TypeAlias = Literal["sharp", "middling", "wide"]
Standing: TypeAlias = Literal["crosses", "small", "capacitive", "inductive"]


@dataclass(frozen=True, slots=True)
class MatchFloor:
    """The least worst SWR that any lossless match can hold over a target, by how much it may contain.

    `q_range` and `any_range` hold the antenna's own nine times in ten, by what the reading leaves open.
    """

    q: float
    antenna_alone: float
    one_more: float
    any: float
    q_range: tuple[float, float]
    any_range: tuple[float, float]

    @property
    def any_low(self) -> float:
        """The lower end of the floor's range."""
        return self.any_range[0]

    @property
    def any_high(self) -> float:
        """The upper end of the floor's range."""
        return self.any_range[1]

    @property
    def narrow(self) -> bool:
        """Whether the band is so narrow for this curve that the wire alone, tuned and transformed, would do."""
        return self.antenna_alone < NARROW_SWR

    @property
    def almost_perfect(self) -> bool:
        """Whether many parts without loss would leave next to nothing."""
        return self.any < PERFECT_SWR


@dataclass(frozen=True, slots=True)
class BandStanding:
    """How a wire stands in one target, without a match. R, X and the floor are None where only SWR is known."""

    label: str
    swr_limit: float
    worst_swr: float
    best_swr: float
    holds: bool
    lowest_resistance_ohm: float | None = None
    highest_resistance_ohm: float | None = None
    lowest_reactance_ohm: float | None = None
    highest_reactance_ohm: float | None = None
    floor: MatchFloor | None = None

    @property
    def reactance(self) -> Standing | None:
        """What its reactance comes to in the target; None where only SWR is known."""
        low, high = self.lowest_reactance_ohm, self.highest_reactance_ohm
        if low is None or high is None:
            return None
        if low < 0 < high:
            return "crosses"
        if max(abs(low), abs(high)) < SMALL_OHM:
            return "small"
        return "capacitive" if high <= 0 else "inductive"


@dataclass(frozen=True, slots=True)
class BandChange:
    """A second sweep against a first in one target, R and X at its centre; None where one has none of it."""

    label: str
    center_hz: float
    first_worst_swr: float | None
    second_worst_swr: float | None
    resistance_change_ohm: float | None
    reactance_change_ohm: float | None


def swr_at(found: Swept, frequency_hz: Real) -> Real:
    """SWR against 50 Ω inside a sweep, shape (n,)."""
    if isinstance(found, SwrSweep):
        return swr_of(found.magnitude_at(frequency_hz).astype(complex))
    return swr_of_impedance(found.impedance_at(frequency_hz))


def known_q(antenna: Sweep, frequency_hz: float) -> float | None:
    """Q of an antenna tuned at a frequency; None where it stores nothing, or none can be read there."""
    q = float(antenna.q(frequency_hz))
    return q if np.isfinite(q) and q > LEAST_Q else None


def too_wide(found: Swept) -> bool:
    """Whether a curve is wider than a wire's can be: then loss, or a resistor, holds the band, and it is no proof.

    Source:
        Bandwidth of a series circuit (Q 4 holds 2 : 1 over 18 %); thin wires have a Q of 8 and more (common
        practice).
    """
    held = found.bandwidth(USUAL_LIMIT)
    return held is not None and (held.high_hz - held.low_hz) / (held.high_hz + held.low_hz) * 2 > WIDEST_WIRE


def sharpness_of(q: float) -> Sharpness:
    """A word for a Q."""
    return "sharp" if q > SHARP_Q else "middling" if q > MIDDLING_Q else "wide"


@lru_cache(maxsize=512)
def match_floor(antenna: Sweep, target: Target) -> MatchFloor | None:
    """The floor under any match of a swept antenna on a target; None where its Q is not known there.

    It hangs on nothing that is dragged: computed once for an antenna at hand.
    """
    q = known_q(antenna, target.center_hz)
    if q is None:
        return None
    wide = (target.high_hz - target.low_hz) / target.center_hz
    low, high = antenna.q_range(target.center_hz, antenna.doubt or usual_doubt(antenna))
    q_range = (q, q) if not np.isfinite(low) else (min(low, q), max(high, q))
    return MatchFloor(
        q,
        lowest_swr(wide, q, "antenna alone"),
        lowest_swr(wide, q, "one more"),
        lowest_swr(wide, q, "any"),
        q_range,
        (lowest_swr(wide, q_range[0], "any"), lowest_swr(wide, q_range[1], "any")),
    )


def usual_doubt(antenna: Sweep) -> ReflectionUncertainty:
    """Of a sweep of which nobody says how sure it is: one circular error of Γ, relative (common practice)."""
    return ReflectionUncertainty.circular(USUAL_READING / 2 * np.abs(antenna.reflection()))


def standing(found: Swept, target: Target) -> BandStanding:
    """How a wire stands in a target that lies inside its sweep."""
    at = np.linspace(target.low_hz, target.high_hz, BAND_POINTS)
    swr = swr_at(found, at)
    worst, best = float(swr.max()), float(swr.min())
    holds = worst <= target.swr_limit
    if isinstance(found, SwrSweep):
        return BandStanding(target.label, target.swr_limit, worst, best, holds)
    z = found.impedance_at(at)
    return BandStanding(
        target.label,
        target.swr_limit,
        worst,
        best,
        holds,
        float(z.real.min()),
        float(z.real.max()),
        float(z.imag.min()),
        float(z.imag.max()),
        match_floor(found, target),
    )


def band_change(first: Swept, second: Swept, target: Target) -> BandChange:
    """What became of one sweep in another on a target."""
    (worst_before, before), (worst_after, after) = (_on_band(each, target) for each in (first, second))
    change = None if before is None or after is None else after - before
    return BandChange(
        target.label,
        target.center_hz,
        worst_before,
        worst_after,
        None if change is None else change.real,
        None if change is None else change.imag,
    )


def _on_band(found: Swept, target: Target) -> tuple[float | None, complex | None]:
    """The worst SWR on a band and the impedance at its centre, as far as a sweep reaches and carries them."""
    inside = found.low_hz <= target.low_hz and target.high_hz <= found.high_hz
    if not inside or not covers(found.gaps, target.low_hz, target.high_hz):
        return None, None
    worst = float(swr_at(found, np.linspace(target.low_hz, target.high_hz, BAND_POINTS)).max())
    return worst, complex(found.impedance_at(target.center_hz)) if isinstance(found, Sweep) else None


def above_one(found: Swept) -> int:
    """How many samples return more than they were sent."""
    return int((np.abs(found.reflection()) > 1).sum()) if isinstance(found, Sweep) else 0


def suggested_targets(found: Swept, bands: Sequence[tuple[str, float, float]]) -> list[Target]:
    """Bands that lie inside a sweep, the best matched first; a little round its best match if there is none.

    Args:
        bands: label, lower and upper edge in hertz.
    """

    def best_in(band: tuple[str, float, float]) -> float:
        at = np.linspace(band[1], band[2], 21)
        if isinstance(found, SwrSweep):
            return float(found.magnitude_at(at).min())
        return float(np.abs(reflection_of(found.impedance_at(at))).min())

    inside = [b for b in bands if found.low_hz <= b[1] and b[2] <= found.high_hz and covers(found.gaps, b[1], b[2])]
    if inside:
        return [Target(label, low, high, USUAL_LIMIT) for label, low, high in sorted(inside, key=best_in)]
    best = found.best_match().frequency_hz
    low, high = max(best * (1 - AROUND_BEST), found.low_hz), min(best * (1 + AROUND_BEST), found.high_hz)
    return [Target("best match", low, high, USUAL_LIMIT)]
