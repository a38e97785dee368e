"""Readings without a file: what a dial carries, what it leaves open, and the one reading more that settles it.

Near its resonance a wire has R nearly constant and X straight in frequency. Then S + 1/S = (R² + X² + Z0²)/(R·Z0)
(from |Γ|² of R + jX; Pozar, Microwave Engineering, 4th ed., §2.3) is a parabola in frequency with its lowest point
at the dip: three readings of SWR find it, two tell the side.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Real, require_finite, require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, magnitude_at_swr
from yielding_coil.core.sweep import Sweep, SwrSweep

# Nobody reads a |Γ| nearer than this from a needle at rest.
LEAST_MAGNITUDE = 0.03
# Two readings at frequencies nearer than this are of the same frequency.
SAME_FREQUENCY = 1e-3
# How many standard deviations two readings may be apart before one of them must be wrong.
AT_ODDS = 3.0
# How far beyond what was read a parabola is believed, in spans of the readings.
BEYOND = 1.0
# The step to one reading more, where only one was taken.
STEP = 0.01
# Wires of one band have a Q between these (common practice; a slope that says otherwise belongs to another sign).
# A dip is believed to repeat no better than this (common practice: 0.1 to 0.2 %), one standard deviation.
REPEATED = 0.0015
# 90 % to either side of a normal spread.
BOTH_SIDES = 1.645
# How far up the bowl round a dip a sweep's samples are used, in S + 1/S.
BOWL = 0.35
# How far from an edge of the sweep, in widths of the bowl, a lowest point must lie.
EDGE = 0.1
# Readings so few are looked at one by one.
FEW = 12
LEAST_Q, MOST_Q = 4.0, 40.0

Side = Literal["found", "below", "above", "unknown"]


class ContradictionError(RefusedError):
    """Two readings cannot both be right."""

    code = "contradiction"


@dataclass(frozen=True, slots=True)
class SwrPoint:
    """An SWR at a frequency, and the standard deviation of |Γ| with the meter it was read on."""

    frequency_hz: float
    swr: float
    spread: float

    def __post_init__(self) -> None:
        require_positive("frequency_hz", self.frequency_hz)
        require_positive("spread", self.spread)
        require_finite("swr", self.swr)
        if self.swr < 1:
            raise OutOfDomainError("swr", self.swr, "1 or more")

    @property
    def magnitude(self) -> float:
        """|Γ|."""
        return float(magnitude_at_swr(self.swr))

    def swr_band(self) -> tuple[float, float | None]:
        """What the SWR may be on such a meter with 90 %; None where it may be endless."""
        return _swr_of(self.magnitude - BOTH_SIDES * self.spread) or 1.0, _swr_of(
            self.magnitude + BOTH_SIDES * self.spread
        )


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Which two readings, by number, and by how much: what the second should have read beside the first."""

    first: int
    second: int
    frequency_hz: float
    read: float
    expected: float
    times: float


@dataclass(frozen=True, slots=True)
class Dip:
    """What readings say of the dip.

    `side` is where it lies as seen from the readings; `low_hz` and `high_hz` hold it with 90 %, endless where
    nothing was read on that side; `spread` is one standard deviation, relative.
    """

    side: Side
    frequency_hz: float | None
    spread: float | None
    swr: float | None
    low_hz: float | None
    high_hz: float | None
    read_next_hz: float | None


def _swr_of(magnitude: float) -> float | None:
    held = max(0.0, magnitude)
    return (1 + held) / (1 - held) if held < 1 else None


def swr_of_powers(forward_w: float, reflected_w: float) -> float:
    """SWR by forward and reflected power (Pozar, §2.3: the ratio of the powers is |Γ|²).

    Raises:
        OutOfDomainError: forward not above zero, reflected below zero.
        ContradictionError: as much or more comes back than goes up.

    >>> round(swr_of_powers(100, 11.1), 1)
    2.0
    """
    require_positive("forward_w", forward_w)
    require_not_negative("reflected_w", reflected_w)
    if reflected_w >= forward_w:
        raise ContradictionError(
            f"{reflected_w:g} W cannot come back of {forward_w:g} W: set full scale anew at this frequency, "
            "and look which way the meter is turned",
            field="reflected_w",
        )
    size = float(np.sqrt(reflected_w / forward_w))
    return (1 + size) / (1 - size)


def resistance_and_size(
    impedance_magnitude_ohm: float, swr: float, reference_ohm: float = DEFAULT_REFERENCE_OHM
) -> tuple[float, float]:
    """R and the size of X by |Z| and SWR; the sign of X stays open.

    From S + 1/S = (|Z|² + Z0²)/(R·Z0).

    Raises:
        OutOfDomainError: |Z| not above zero, SWR below 1.
        ContradictionError: no impedance of that size shows so low an SWR.

    >>> r, x = resistance_and_size(61.9, 2.0)
    >>> round(r, 1), round(x, 1)
    (50.7, 35.6)
    """
    require_positive("size_ohm", impedance_magnitude_ohm)
    require_finite("swr", swr)
    if swr < 1:
        raise OutOfDomainError("swr", swr, "1 or more")
    least = max(impedance_magnitude_ohm / reference_ohm, reference_ohm / impedance_magnitude_ohm)
    resistance = (impedance_magnitude_ohm**2 + reference_ohm**2) / (reference_ohm * (swr + 1 / swr))
    if resistance > impedance_magnitude_ohm * 1.03:
        raise ContradictionError(
            f"|Z| of {impedance_magnitude_ohm:g} Ω and an SWR of {swr:g} contradict each other: with this |Z| the "
            f"SWR is at least {least:.2f}, which is {least - swr:.2f} more; read both again at the same frequency",
            field="swr",
            accepted=f"{least:.2f} or more",
        )
    resistance = min(resistance, impedance_magnitude_ohm)
    return resistance, float(np.sqrt(impedance_magnitude_ohm**2 - resistance**2))


def contradictions(points: Sequence[SwrPoint]) -> list[Contradiction]:
    """Readings of the same frequency that are too far apart for their meters."""
    out = []
    for j, second in enumerate(points):
        for i, first in enumerate(points[:j]):
            if abs(second.frequency_hz / first.frequency_hz - 1) > SAME_FREQUENCY:
                continue
            times = abs(second.magnitude - first.magnitude) / float(np.hypot(first.spread, second.spread))
            if times > AT_ODDS:
                out.append(Contradiction(i, j, second.frequency_hz, second.swr, first.swr, times))
    return out


def _bowl(points: Sequence[SwrPoint]) -> tuple[Real, Real]:
    """S + 1/S − 2 of each point, and its standard deviation."""
    size = np.array([p.magnitude for p in points])
    spread = np.array([p.spread for p in points])
    held = np.maximum(size, LEAST_MAGNITUDE)
    return 4 * size**2 / (1 - size**2), 8 * held / (1 - held**2) ** 2 * spread


def _swr_at(height: float) -> float:
    """The SWR whose S + 1/S − 2 is so much."""
    half = max(0.0, height) / 2 + 1
    return float(half + np.sqrt(half**2 - 1))


def dip_of(points: Sequence[SwrPoint]) -> Dip:
    """Where the dip lies, by SWR at one or more frequencies.

    One reading tells nothing of the side; two tell it, because the parabola's lowest point is nearer the lower one;
    three or more find it. What is still open is answered with the frequency to read next.

    Raises:
        OutOfDomainError: no reading.
        ContradictionError: readings at odds with each other or with a single dip; said which, and by how much.
    """
    if not points:
        raise OutOfDomainError("points", "empty", "at least one reading")
    at_odds = contradictions(points)
    if at_odds:
        raise _refusal(at_odds[0])
    ordered = sorted(points, key=lambda p: p.frequency_hz)
    f = np.array([p.frequency_hz for p in ordered])
    bowl, spread = _bowl(ordered)
    if f[-1] / f[0] - 1 <= SAME_FREQUENCY:
        return Dip("unknown", None, None, None, None, None, float(f[0] * (1 + STEP)))
    if len(ordered) < 3 or np.unique(np.round(np.log(f) / SAME_FREQUENCY)).size < 3:
        return _side(f, bowl, spread)
    return _vertex(ordered, f, bowl, spread)


def _refusal(found: Contradiction) -> ContradictionError:
    return ContradictionError(
        f"readings {found.first + 1} and {found.second + 1} contradict each other: at "
        f"{found.frequency_hz / 1e6:.3f} MHz {found.read:.2f} was read where {found.expected:.2f} is expected, "
        f"{found.times:.1f} times what such a meter strays; read both again, and take out the wrong one",
        first=found.first,
        second=found.second,
        expected=found.expected,
    )


def _side(f: Real, bowl: Real, spread: Real) -> Dip:
    """Two frequencies: the side, and the third reading."""
    low, high = float(f[0]), float(f[-1])
    middle, step = (low + high) / 2, high - low
    if abs(bowl[-1] - bowl[0]) < 1.645 * np.hypot(spread[0], spread[-1]):
        # As high on either side: between them, unless both are far out on one side of a flat curve.
        return Dip("unknown", None, None, None, None, None, middle)
    if bowl[-1] < bowl[0]:
        return Dip("above", None, None, None, middle, None, high + step)
    return Dip("below", None, None, None, None, middle, low - step)


def _vertex(points: Sequence[SwrPoint], f: Real, bowl: Real, spread: Real) -> Dip:
    """Three frequencies or more: the parabola's lowest point."""
    middle = float((f[0] + f[-1]) / 2)
    x = f / middle - 1
    powers = np.column_stack([np.ones_like(x), x, x**2]) / spread[:, None]
    covariance = np.linalg.inv(powers.T @ powers)
    base, slope, curve = covariance @ powers.T @ (bowl / spread)
    curve_spread = float(np.sqrt(covariance[2, 2]))
    if curve < -AT_ODDS * curve_spread:
        raise _refusal(_hump(points, f, bowl, spread))
    if curve < 1.645 * curve_spread:
        # Not bent enough to tell how far: the side only.
        return _side(f[[0, -1]], bowl[[0, -1]], spread[[0, -1]])
    left = bowl - (base + slope * x + curve * x**2)
    worst = int(np.argmax(np.abs(left / spread)))
    if f.size > 3 and abs(left[worst]) > AT_ODDS * spread[worst]:
        beside = worst - 1 if worst else 1
        number = {id(p): i for i, p in enumerate(points)}
        raise _refusal(
            Contradiction(
                number[id(points[beside])],
                number[id(points[worst])],
                float(f[worst]),
                points[worst].swr,
                _swr_at(float(bowl[worst] - left[worst])),
                float(abs(left[worst]) / spread[worst]),
            )
        )
    at = float(-slope / (2 * curve))
    turn = np.array([0.0, -1 / (2 * curve), slope / (2 * curve**2)])
    doubt = float(np.sqrt(turn @ covariance @ turn))
    reach = float(x[-1] - x[0]) * BEYOND
    if at > x[-1] + reach:
        return Dip("above", None, None, None, float(f[-1]), None, float(f[-1] + (f[-1] - f[0])))
    if at < x[0] - reach:
        return Dip("below", None, None, None, None, float(f[0]), float(f[0] - (f[-1] - f[0])))
    found = middle * (1 + at)
    # A dip outside what was read is worth one reading there.
    outside = not f[0] <= found <= f[-1]
    return Dip(
        "found",
        found,
        doubt / (1 + at),
        _swr_at(float(base - slope**2 / (4 * curve))),
        found - 1.645 * doubt * middle,
        found + 1.645 * doubt * middle,
        found if outside else None,
    )


def _hump(points: Sequence[SwrPoint], f: Real, bowl: Real, spread: Real) -> Contradiction:
    """The reading that stands highest above the line between its neighbours."""
    between = np.interp(f[1:-1], f[[0, -1]], bowl[[0, -1]])
    over = (bowl[1:-1] - between) / spread[1:-1]
    worst = int(np.argmax(over)) + 1
    return Contradiction(
        worst - 1,
        worst,
        float(f[worst]),
        points[worst].swr,
        _swr_at(float(between[worst - 1])),
        float(over[worst - 1]),
    )


def dip_in(found: Sweep | SwrSweep, near_hz: float) -> Dip:
    """The dip of a sweep that lies nearest to a frequency.

    A parabola through the samples round the lowest one, so that noise does not choose the sample.

    Args:
        found: a sweep, or readings of SWR.
        near_hz: where it is wanted.

    Returns:
        `side` "below" or "above" where the SWR still falls towards an edge of the sweep.

    Raises:
        OutOfDomainError: near_hz not above zero.
        ContradictionError: as dip_of, where there are a handful of readings.
    """
    require_positive("near_hz", near_hz)
    f = found.frequency_hz
    if isinstance(found, SwrSweep):
        if f.size <= FEW:
            return dip_of(
                [SwrPoint(float(a), float(s), LEAST_MAGNITUDE) for a, s in zip(f, found.swr, strict=True)]
            )
        size = magnitude_at_swr(found.swr)
    else:
        size = np.minimum(np.abs(found.reflection()), 0.999)
    inner = np.flatnonzero((size[1:-1] <= size[:-2]) & (size[1:-1] <= size[2:])) + 1
    deep = inner[size[inner] <= min(0.9, float(size[inner].min()) + 0.3)] if inner.size else inner
    if deep.size == 0:
        return _towards_edge(f, size)
    lowest = int(deep[np.argmin(np.abs(np.log(f[deep] / near_hz)))])
    bowl = 4 * size**2 / (1 - size**2)
    # Ripple on a flank is not a dip: down to the lowest sample that is reached without climbing out of the bowl.
    around = _around(bowl, lowest)
    while (lower := int(around.start + np.argmin(bowl[around]))) != lowest:
        lowest = lower
        around = _around(bowl, lowest)
    middle = float(f[lowest])
    x = f[around] / middle - 1
    # A bowl cut by an edge of the sweep has its lowest point well inside, or none in view.
    cut = around.start == 0 or around.stop == f.size
    if x.size < 4:
        return _towards_edge(f, size) if cut else _found(middle, REPEATED, float(size[lowest]))
    powers = np.column_stack([np.ones_like(x), x, x**2])
    base, slope, curve = np.linalg.lstsq(powers, bowl[around], rcond=None)[0]
    left = bowl[around] - powers @ np.array([base, slope, curve])
    at = float(-slope / (2 * curve)) if curve > 0 else float("nan")
    clear = EDGE * float(x[-1] - x[0])
    low = x[0] + (clear if around.start == 0 else 0.0)
    high = x[-1] - (clear if around.stop == f.size else 0.0)
    if not low <= at <= high:
        return _towards_edge(f, size) if cut else _found(middle, REPEATED, float(size[lowest]))
    noise = float(np.sqrt(np.sum(left**2) / (x.size - 3)))
    doubt = noise / (2 * float(curve) * float(np.sqrt(np.sum(x**2))))
    height = max(0.0, float(base - slope**2 / (4 * curve)))
    return _found(middle * (1 + at), float(np.hypot(REPEATED, doubt)), float(np.sqrt(height / (4 + height))))


def _around(bowl: Real, lowest: int) -> slice:
    """The samples of a bowl that stand little higher than its lowest."""
    level = bowl[lowest] + BOWL
    low = high = lowest
    while low > 0 and bowl[low - 1] <= level:
        low -= 1
    while high < bowl.size - 1 and bowl[high + 1] <= level:
        high += 1
    return slice(low, high + 1)


def _towards_edge(f: Real, size: Real) -> Dip:
    """No dip in view: the edge where less comes back is where it lies beyond."""
    low, high = float(f[0]), float(f[-1])
    if size[-1] < size[0]:
        return Dip("above", None, None, None, high, None, high + (high - low) / 2)
    return Dip("below", None, None, None, None, low, max(low / 2, low - (high - low) / 2))


def _found(frequency_hz: float, spread: float, magnitude: float) -> Dip:
    return Dip(
        "found",
        frequency_hz,
        spread,
        (1 + magnitude) / (1 - magnitude),
        frequency_hz * (1 - 1.645 * spread),
        frequency_hz * (1 + 1.645 * spread),
        None,
    )


def dip_between(low_hz: float | None, high_hz: float | None, swr: float, spread: float) -> Dip:
    """The dip by the edges where the SWR crosses a value: in the middle, or on the known side of one edge.

    Args:
        low_hz: the lower crossing; None where the SWR still falls towards the end of what was looked at.
        high_hz: the upper crossing, likewise.
        swr: what it crosses there.
        spread: standard deviation of |Γ| with this meter.

    Raises:
        OutOfDomainError: no edge, edges upside down, an SWR not above 1.
    """
    if not swr > 1:
        raise OutOfDomainError("swr", swr, "above 1")
    if low_hz is None and high_hz is None:
        raise OutOfDomainError("low_hz", "no edge", "one edge at least")
    if low_hz is None or high_hz is None:
        edge = float(high_hz if low_hz is None else low_hz)  # type: ignore[arg-type]
        require_positive("low_hz", edge)
        if low_hz is None:
            return Dip("below", None, None, None, None, edge, edge * (1 - 2 * STEP))
        return Dip("above", None, None, None, edge, None, edge * (1 + 2 * STEP))
    require_positive("low_hz", low_hz)
    if not high_hz > low_hz:
        raise OutOfDomainError("high_hz", f"{high_hz:g} Hz", f"above the lower edge, {low_hz:g} Hz")
    middle = (low_hz + high_hz) / 2
    bowl, sigma = _bowl([SwrPoint(middle, swr, spread)])
    # An edge moves by the reading's error over the slope there; two of them halve it.
    doubt = float(sigma[0] / (2 * bowl[0]) * (high_hz - low_hz) / 2 / np.sqrt(2))
    return Dip("found", middle, doubt / middle, None, middle - 1.645 * doubt, middle + 1.645 * doubt, None)


@dataclass(frozen=True, slots=True)
class Signs:
    """X with its sign, where the trend tells it; else where to read once more."""

    reactance_ohm: tuple[float | None, ...]
    resonance_hz: float | None
    read_next_hz: float | None


def signs_of(
    frequency_hz: Sequence[float], impedance_magnitude_ohm: Sequence[float], resistance_ohm: Sequence[float]
) -> Signs:
    """The sign of X from its trend: near a wire's resonance X rises with frequency (R. M. Foster, 1924).

    Args:
        frequency_hz: shape (n,), rising, n at least 1.
        size_ohm: |X| at each.
        resistance_ohm: R at each; tells how steep X may be.

    Returns:
        Signed X, or None each; the resonance where X passes through zero near what was read; the frequency to read
        next where the trend leaves it open.

    Raises:
        OutOfDomainError: shapes that differ, not rising.
    """
    f, size, r = (np.asarray(v, dtype=float) for v in (frequency_hz, impedance_magnitude_ohm, resistance_ohm))
    if f.size == 0 or not f.shape == size.shape == r.shape:
        raise OutOfDomainError("size_ohm", f"of shape {size.shape}", f"one a frequency, {f.shape}")
    require_positive("frequency_hz", f)
    require_not_negative("size_ohm", size)
    require_positive("resistance_ohm", r)
    if (np.diff(f) <= 0).any():
        raise OutOfDomainError("frequency_hz", "not rising", "rising")
    if f.size == 1:
        if size[0] <= 0.02 * r[0]:
            return Signs((0.0,), float(f[0]), None)
        return Signs((None,), None, float(f[0] * (1 + STEP)))
    middle = float(f.mean())
    x = f / middle - 1
    found: list[tuple[float, Real, float]] = []
    for below in range(f.size + 1):
        signed = np.where(np.arange(f.size) < below, -size, size)
        slope, at = np.polyfit(x, signed, 1)
        q = slope / (2 * float(r.mean()))
        if LEAST_Q <= q <= MOST_Q:
            left = signed - (at + slope * x)
            found.append((float(np.sqrt(np.mean(left**2))), signed, -at / slope))
    found.sort(key=lambda each: each[0])
    # Two readings lie on a line whatever their signs: only a third tells two slopes apart.
    scale = 0.05 * float(size.max()) + 1.0
    others = [left for left, signed, _ in found[1:] if np.abs(signed - found[0][1]).max() > 2 * scale]
    if not found or (others and others[0] - found[0][0] < scale):
        return Signs((None,) * f.size, None, middle if f.size == 2 else float(f[-1] + (f[-1] - f[0])))
    _, signed, at = found[0]
    near = abs(at) < 3 * float(x[-1] - x[0]) + STEP
    return Signs(tuple(float(v) for v in signed), float(middle * (1 + at)) if near else None, None)
