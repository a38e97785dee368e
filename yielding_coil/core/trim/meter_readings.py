"""Readings without a file: powers, sizes and edges as SWR, which two contradict each other, and the sign of X.

S + 1/S = (R² + X² + Z0²)/(R·Z0), from |Γ|² of R + jX (Pozar, Microwave Engineering, 4th ed., §2.3).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Real, require_finite, require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, magnitude_at_swr

# Nobody reads a |Γ| nearer than this from a needle at rest.
LEAST_MAGNITUDE = 0.03
# Two readings at frequencies nearer than this are of the same frequency.
SAME_FREQUENCY = 1e-3
# How many standard deviations two readings may be apart before one of them must be wrong.
AT_ODDS = 3.0
# The step to one reading more, where only one was taken.
STEP = 0.01
# Wires of one band have a Q between these (common practice; a slope that says otherwise belongs to another sign).
# A dip is believed to repeat no better than this (common practice: 0.1 to 0.2 %), one standard deviation.
REPEATED = 0.0015
# 90 % to either side of a normal spread.
BOTH_SIDES = 1.645
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


def refusal_of(found: Contradiction) -> ContradictionError:
    """Which two readings, and by how much."""
    return ContradictionError(
        f"readings {found.first + 1} and {found.second + 1} contradict each other: at "
        f"{found.frequency_hz / 1e6:.3f} MHz {found.read:.2f} was read where {found.expected:.2f} is expected, "
        f"{found.times:.1f} times what such a meter strays; read both again, and take out the wrong one",
        first=found.first,
        second=found.second,
        expected=found.expected,
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
