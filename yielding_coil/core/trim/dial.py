"""Where the dip lies, by SWR at a few frequencies: a series circuit with a sloping R, its values known beforehand.

One reading tells nothing of the side, two tell it, three or more find the dip; how sure, the fit itself says.
"""

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, swr_of
from yielding_coil.core.trim.meter_readings import (
    SAME_FREQUENCY,
    STEP,
    Contradiction,
    Dip,
    SwrPoint,
    contradictions,
    refusal_of,
)

# Wires at their resonance, natural logs: R of 15 to 120 Ω, Q of 4 to 40, nine in ten each.
LOG_R, LOG_R_SPREAD = math.log(43.0), 0.62
LOG_Q, LOG_Q_SPREAD = math.log(11.0), 0.60
# How R rises with frequency, as a power (a dipole's: two to three; moment method).
RISE, RISE_SPREAD = 2.0, 1.5
# A meter's scale is off by a common share of |Γ|; nobody reads |Γ| better than this, one standard deviation each.
SCALE_SPREAD, LEAST_SPREAD = 0.03, 0.004
# What is read is rounded as well: a needle to a tenth.
ROUNDED = 1.2
# How far beyond what was read a dip is looked for, and at how many places; steps of the fit at each.
REACH, PLACES, STEPS = 1.3, 161, 14
# Who turns a dial does so near the dip: it lies within about the span read and so much more of its middle, with
# long tails (Student, three degrees of freedom), since a wire just hung is off by 6 % at times (common practice).
NEAR_SPANS, NEAR_SHARE = 0.75, 0.02
# A dip is found when nine chances in ten lie within so much of it; else the side is told.
FOUND_WITHIN = 0.06
# Chances from which on a side is told.
SIDE = 0.9
# Readings of a single circuit contradict each other from so many standard deviations on.
MISFIT = 3.3


class _Wires(NamedTuple):
    """Fits at many places of the resonance: deviates (k, 4), their covariance, and the log of the evidence."""

    values: Real
    covariance: Real
    evidence: Real
    cost: Real


def _ohms(values: Real) -> tuple[Real, Real, Real]:
    """R at resonance, Q and the rise of R, by their deviates."""
    r = np.exp(LOG_R + LOG_R_SPREAD * values[..., 0])
    q = np.exp(LOG_Q + LOG_Q_SPREAD * values[..., 1])
    return r, q, RISE + RISE_SPREAD * values[..., 2]


def _magnitude(u: Real, r: Real, q: Real, rise: Real) -> Real:
    """|Γ| of a series circuit at u times its resonance."""
    resistance = r * u**rise
    x2 = (r * q * (u - 1 / u)) ** 2
    z0 = DEFAULT_REFERENCE_OHM
    return np.asarray(np.sqrt(((resistance - z0) ** 2 + x2) / ((resistance + z0) ** 2 + x2)))


def _fit(f: Real, size: Real, spread: Real, f0: Real) -> _Wires:
    """Damped Gauss-Newton at every place of the resonance at once, from a low and a high R.

    Source:
        Laplace's approximation (MacKay, Information Theory, Inference, and Learning Algorithms, ch. 27).
    """
    u = f / np.concatenate([f0, f0])[:, np.newaxis]
    now = np.zeros((u.shape[0], 4))
    now[: f0.size, 0], now[f0.size :, 0] = -0.8, 0.8

    def left(values: Real) -> Real:
        r, q, rise = (v[:, np.newaxis] for v in _ohms(values))
        seen = _magnitude(u, r, q, rise) * (1 + SCALE_SPREAD * values[:, 3:4])
        return np.concatenate([(seen - size) / spread, values], axis=1)

    def slopes(values: Real, there: Real) -> Real:
        step = 1e-5
        each = [(left(values + step * unit) - there) / step for unit in np.eye(4)]
        return np.stack(each, axis=2)

    residual = left(now)
    cost = (residual**2).sum(axis=1)
    damp = np.full(cost.shape, 1e-2)
    for _ in range(STEPS):
        slope = slopes(now, residual)
        curve = slope.transpose(0, 2, 1) @ slope
        pull = (slope.transpose(0, 2, 1) @ residual[:, :, np.newaxis])[:, :, 0]
        held = curve + damp[:, np.newaxis, np.newaxis] * np.eye(4)
        there = now - np.clip(np.linalg.solve(held, pull[:, :, np.newaxis])[:, :, 0], -1.5, 1.5)
        residual_there = left(there)
        cost_there = (residual_there**2).sum(axis=1)
        better = cost_there < cost
        now = np.where(better[:, np.newaxis], there, now)
        residual = np.where(better[:, np.newaxis], residual_there, residual)
        cost = np.where(better, cost_there, cost)
        damp = np.where(better, damp / 6, np.minimum(damp * 6, 1e6))
    slope = slopes(now, residual)
    curve = slope.transpose(0, 2, 1) @ slope
    volume: Real = np.asarray(np.linalg.slogdet(curve)[1], dtype=float)
    # Both starts that came to the same wire are one.
    half = f0.size
    same = np.abs(now[:half, 0] - now[half:, 0]) < 0.05
    evidence = -0.5 * (cost + volume)
    evidence[half:][same] = -np.inf
    return _Wires(now, np.asarray(np.linalg.inv(curve), dtype=float), evidence, cost)


def _dips(fitted: _Wires, f0: Real) -> tuple[Real, Real, Real]:
    """Where each wire's SWR is lowest, the spread of that, and |Γ| there; resonance and dip differ as R rises."""
    u = np.linspace(0.86, 1.14, 113)

    def lowest(values: Real) -> tuple[Real, Real]:
        r, q, rise = (v[:, np.newaxis] for v in _ohms(values))
        square = _magnitude(u, r, q, rise) ** 2
        at = np.clip(square.argmin(axis=1), 1, u.size - 2)
        row = np.arange(at.size)
        before, here, after = square[row, at - 1], square[row, at], square[row, at + 1]
        bend = np.maximum(before - 2 * here + after, 1e-15)
        shift = np.clip(0.5 * (before - after) / bend, -1, 1)
        low = here - 0.125 * (before - after) ** 2 / bend
        return u[at] + shift * (u[1] - u[0]), np.sqrt(np.maximum(low, 0.0))

    there, size = lowest(fitted.values)
    step = 1e-3
    slope = np.stack([(lowest(fitted.values + step * unit)[0] - there) / step for unit in np.eye(4)], axis=1)
    spread = np.sqrt(np.maximum(np.einsum("ki,kij,kj->k", slope, fitted.covariance, slope), 0.0))
    whole = np.concatenate([f0, f0])
    return there * whole, spread * whole, size


class _Place(NamedTuple):
    """The dip's place as a mixture of normals, the best fit, and what it leaves of each reading."""

    at: Real
    spread: Real
    weight: Real
    size: Real
    left: Real
    read: Real

    def chance_below(self, hertz: Real) -> Real:
        from scipy.special import ndtr

        return np.asarray(ndtr((hertz[:, np.newaxis] - self.at) / self.spread) @ self.weight)

    def quantiles(self, shares: Sequence[float]) -> list[float]:
        """By bisection."""
        low = np.full(len(shares), float((self.at - 8 * self.spread).min()))
        high = np.full(len(shares), float((self.at + 8 * self.spread).max()))
        for _ in range(50):
            middle = (low + high) / 2
            under = self.chance_below(middle) < np.array(shares)
            low, high = np.where(under, middle, low), np.where(under, high, middle)
        return [float(v) for v in (low + high) / 2]


def _weight(fitted: _Wires, f: Real, f0: Real) -> Real:
    """How likely each wire is, with where a dial is turned."""
    middle = float(f[0] + f[-1]) / 2
    reach = math.hypot(NEAR_SPANS * float(f[-1] - f[0]), NEAR_SHARE * middle)
    near = -2 * np.log1p(((np.concatenate([f0, f0]) - middle) / reach) ** 2 / 3)
    total = fitted.evidence + near
    return np.asarray(np.exp(total - total.max()))


def _place(f: Real, size: Real, spread: Real) -> _Place:
    f0 = np.geomspace(f[0] / REACH, f[-1] * REACH, PLACES)
    fitted = _fit(f, size, spread, f0)
    for _ in range(2):
        weight = _weight(fitted, f, f0)
        both = weight[: f0.size] + weight[f0.size :]
        likely = np.flatnonzero(both > 1e-5 * both.max())
        low, high = max(likely[0] - 1, 0), min(likely[-1] + 1, f0.size - 1)
        if high - low > 0.6 * f0.size:
            break
        f0 = np.geomspace(f0[low], f0[high], PLACES)
        fitted = _fit(f, size, spread, f0)
    at, wide, least = _dips(fitted, f0)
    weight = _weight(fitted, f, f0)
    weight = weight / weight.sum()
    step = float(f0[1] - f0[0])
    best = int(np.argmin(fitted.cost))
    r, q, rise = _ohms(fitted.values[best])
    expected = _magnitude(f / np.concatenate([f0, f0])[best], r, q, rise) * (
        1 + SCALE_SPREAD * fitted.values[best, 3]
    )
    return _Place(at, np.hypot(wide, step / 2), weight, least, (size - expected) / spread, expected)


def dip_of(points: Sequence[SwrPoint]) -> Dip:
    """Where the dip lies, by SWR at one or more frequencies.

    Raises:
        OutOfDomainError: no reading.
        ContradictionError: readings at odds with each other or with a single dip; said which, and by how much.

    Source:
        A series circuit whose R rises with frequency; values before reading as the constants say (common practice).
    """
    if not points:
        raise OutOfDomainError("points", "empty", "at least one reading")
    return _dip_of(tuple(points))


@lru_cache(maxsize=512)
def _dip_of(points: tuple[SwrPoint, ...]) -> Dip:
    at_odds = contradictions(points)
    if at_odds:
        raise refusal_of(at_odds[0])
    ordered = sorted(points, key=lambda p: p.frequency_hz)
    f = np.array([p.frequency_hz for p in ordered])
    size = np.array([p.magnitude for p in ordered])
    spread = ROUNDED * np.maximum([p.spread for p in ordered], LEAST_SPREAD)
    if f[-1] / f[0] - 1 <= SAME_FREQUENCY:
        return Dip("unknown", None, None, None, None, None, float(f[0] * (1 + STEP)))
    place = _place(f, size, spread)
    worst = int(np.argmax(np.abs(place.left)))
    if f.size > 2 and abs(place.left[worst]) > MISFIT:
        raise refusal_of(_misfit(points, ordered, place, worst))
    low, middle, high = place.quantiles((0.05, 0.5, 0.95))
    swr = float(swr_of(np.asarray(place.weight @ place.size)))
    if f.size > 2 and high / low - 1 <= FOUND_WITHIN:
        # A dip outside what was read is worth one reading there.
        outside = not f[0] <= middle <= f[-1]
        return Dip("found", middle, (high - low) / middle / 3.29, swr, low, high, middle if outside else None)
    return _side(f, size, spread, place)


def _side(f: Real, size: Real, spread: Real, place: _Place) -> Dip:
    """Where it lies from the middle of what was read, and the reading that tells more."""
    low, high = float(f[0]), float(f[-1])
    middle, step = (low + high) / 2, high - low
    under = float(place.chance_below(np.array([middle]))[0])
    level = abs(size[-1] - size[0]) < 1.645 * math.hypot(spread[0], spread[-1])
    if f.size == 2 and level:
        # As high on either side: between them, unless both are far out on one side of a flat curve.
        return Dip("unknown", None, None, None, None, None, middle)
    if 1 - under >= SIDE:
        return Dip("above", None, None, None, middle, None, high + step)
    if under >= SIDE:
        return Dip("below", None, None, None, None, middle, low - step)
    return Dip("unknown", None, None, None, None, None, float(place.quantiles((0.5,))[0]))


def _misfit(points: Sequence[SwrPoint], ordered: Sequence[SwrPoint], place: _Place, worst: int) -> Contradiction:
    """The reading that no series circuit has beside the others."""
    number = {id(p): i for i, p in enumerate(points)}
    beside = worst - 1 if worst else 1
    expected = float(swr_of(np.asarray(np.clip(place.read[worst], 0.0, 0.99))))
    return Contradiction(
        number[id(ordered[beside])],
        number[id(ordered[worst])],
        ordered[worst].frequency_hz,
        ordered[worst].swr,
        expected,
        float(abs(place.left[worst])),
    )
