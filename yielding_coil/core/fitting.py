"""One way to fit a model to readings, whatever the subject.

1. What is read: numbers with their covariance; of an analyser also what its calibration leaves, which is smooth in
   frequency and not independent from point to point.
2. What it could be: parameters and nuisances as deviates, each standard normal before anything is read, so that
   every prior is part of the sum.
3. Does anything fit: the fit is brought to rest from several starts; then its weighted squares are held against
   their own distribution, and each deviate against its prior.
4. How sure: Laplace's approximation at the optimum, its determinant included.

Source:
    Gelman et al., Bayesian Data Analysis, 3rd ed., ch. 4 and 6; MacKay, Information Theory, Inference, and Learning
    Algorithms, 2003, ch. 27 and 28.
"""

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np
from numpy.polynomial.chebyshev import chebvander

from yielding_coil.core.arrays import Complex, Real

# Less likely than this by chance, and readings are of something else; a parameter so many standard deviations from
# what it was expected to be is another thing.
CHANCE, FURTHEST_PULL = 1e-3, 3.0
# How the residual errors wander over a sweep: turning with f, as reflections on leads and cables of up to so many
# seconds do (common practice: a metre and a half), slow turns more than fast ones, and a share of them slowly with
# log f, as an instrument does: so many terms.
LEADS_S, SLOW_SHARE, SLOW_TERMS = 15e-9, 0.1, 3
# Of a narrow sweep: terms beyond what turns, and what an instrument's own wander has of each but the first.
TURNING_TERMS, LITTLE = 3, 0.05
# What calibration leaves is a figure known to a decibel itself.
KNOWN_TIMES = 1.1
# Steps of a fit, its difference of a deviate, and what gains no more.
STEPS, STEP, STILL = 40, 1e-4, 0.01
# Far above the best, a fit that falls by less than this share a step is not brought to rest; not before so many.
LEAST_STEPS, HARDLY = 3, 0.1


class Fit(NamedTuple):
    """A model at rest.

    Args:
        deviates: shape (k,), in standard deviations of each prior.
        covariance: of the deviates after reading, shape (k, k).
        cost: weighted squares, the priors' among them; their mean is how many numbers were read.
        numbers: how many were read.
        evidence: natural log of the evidence, up to what all models of the same readings share.
    """

    deviates: Real
    covariance: Real
    cost: float
    numbers: int
    evidence: float

    @property
    def chance(self) -> float:
        """How often a true model fits so badly or worse."""
        from scipy.stats import chi2

        return float(chi2.sf(self.cost, self.numbers))

    @property
    def strange(self) -> bool:
        """Nothing that this model expects."""
        return self.chance < CHANCE

    def pull(self, of: Sequence[int] | None = None) -> float:
        """The furthest that one of the parameters lies from its prior, in standard deviations."""
        chosen = self.deviates if of is None else self.deviates[list(of)]
        return float(np.abs(chosen).max(initial=0.0))


def fit(
    left: Callable[[Real], Real], starts: Sequence[Real], *, log_volume: float = 0.0, bar: float = math.inf
) -> Fit:
    """Damped Gauss-Newton on the deviates from every start; the best that comes to rest.

    Args:
        left: weighted residuals of models, shape (m, k) to (m, n); independent and of variance one when true.
        starts: shape (k,) each.
        log_volume: natural log of the determinant of the readings' covariance, where models differ in it.
        bar: weighted squares far above which a fit that hardly falls any more is left where it is.
    """
    best: Fit | None = None
    for start in starts:
        found = _at_rest(left, np.asarray(start, dtype=float), log_volume, bar)
        if best is None or found.cost < best.cost:
            best = found
    assert best is not None
    return best


def _at_rest(left: Callable[[Real], Real], start: Real, log_volume: float, bar: float) -> Fit:
    k = start.size
    unit = np.eye(k)

    def around(deviates: Real) -> tuple[Real, Real, float]:
        found = left(np.concatenate([deviates[np.newaxis], deviates + STEP * unit]))
        slope = (found[1:] - found[0]) / STEP
        return found[0], slope, float(found[0] @ found[0] + deviates @ deviates)

    now, damp = start, 1e-2
    residual, slope, cost = around(now)
    for number in range(STEPS):
        curve = slope @ slope.T + unit
        pull = slope @ residual + now
        step = np.clip(np.linalg.solve(curve + damp * np.diag(np.diag(curve)), pull), -3, 3)
        # What a straight model would gain: at rest, where that is nothing.
        if 2 * pull @ step - step @ curve @ step < STILL:
            break
        there = now - step
        residual_there, slope_there, reached = around(there)
        gained = cost - reached
        if gained > 0:
            now, residual, slope, cost, damp = there, residual_there, slope_there, reached, damp / 8
        else:
            damp *= 10
        if damp > 1e8:
            break
        if number >= LEAST_STEPS and cost > bar and gained < HARDLY * cost:
            break
    curve = slope @ slope.T + unit
    volume = float(np.linalg.slogdet(curve)[1]) + log_volume
    return Fit(now, np.asarray(np.linalg.inv(curve)), cost, residual.size, -0.5 * (cost + volume))


def both_parts(values: Complex) -> Real:
    """Real and imaginary parts one after the other, along the last axis."""
    return np.concatenate([values.real, values.imag], axis=-1)


def smooth(frequency_hz: Real) -> Real:
    """Smooth functions over a sweep whose squares sum to one in the mean; shape (terms, n)."""
    turns = LEADS_S * float(frequency_hz[-1] - frequency_hz[0])
    decay = 1.5 + 2 * turns
    falling = np.exp(-2 * np.maximum(np.arange(math.ceil(2 * decay)) - 1, 0) / decay)
    slow = math.sqrt(SLOW_SHARE) * _series(np.log(frequency_hz), np.ones(SLOW_TERMS))
    return np.concatenate([slow, math.sqrt(1 - SLOW_SHARE) * _series(frequency_hz, falling)])


def turning(frequency_hz: Real) -> Real:
    """The same over a sweep so narrow that leads hardly turn: each delay up to theirs alike, shape (terms, n).

    Source:
        exp(jzx) as a Chebyshev series: Bessel functions of z (Abramowitz & Stegun 9.1.44 ff.).
    """
    from scipy.special import jv

    z = math.pi * float(frequency_hz[-1] - frequency_hz[0]) * np.linspace(0, LEADS_S, 33)
    order = np.arange(math.ceil(z[-1]) + TURNING_TERMS)
    shares = np.where(order > 0, 2.0, 1.0) * (jv(order[:, None], z) ** 2).mean(axis=1)
    slow = math.sqrt(SLOW_SHARE) * _series(np.log(frequency_hz), np.array([1.0, *[LITTLE] * (SLOW_TERMS - 1)]))
    return np.concatenate([slow, math.sqrt(1 - SLOW_SHARE) * _series(frequency_hz, shares)])


def _series(x: Real, shares: Real) -> Real:
    """Terms of a Chebyshev series, with their shares of a mean square of one."""
    span = x[-1] - x[0]
    place = 2 * (x - x[0]) / span - 1 if span > 0 else np.zeros(x.shape)
    size = np.sqrt(shares / shares.sum() * np.where(np.arange(shares.size) > 0, 2.0, 1.0))
    return np.asarray(size[:, np.newaxis] * chebvander(place, shares.size - 1).T)


def residual_columns(
    frequency_hz: Real, gamma: Complex, residual: float, over: Callable[[Real], Real] = smooth
) -> Real:
    """What calibration leaves, one standard deviation a column: errors of directivity, tracking and match.

    Args:
        residual: root mean square of each of the three.
        over: how they wander over the sweep.

    Returns:
        Shape (2n, k); rows are the real parts of δΓ, then the imaginary ones.

    Source:
        δΓ = d + t·Γ + m·Γ², the three-term model to first order (Pozar, 4th ed., §4.5, and model notes there).
    """
    wander = over(frequency_hz) * (residual / math.sqrt(2))
    found = [turn * power * s for power in (1, gamma, gamma**2) for turn in (1, 1j) for s in wander]
    return np.stack([both_parts(np.asarray(c, dtype=complex)) for c in found], axis=1)


def residual_of(residual_db: float) -> float:
    """Root mean square of each of the three error terms, by what calibration leaves below full reflection."""
    return float(KNOWN_TIMES * 10 ** (-residual_db / 20) / math.sqrt(3))
