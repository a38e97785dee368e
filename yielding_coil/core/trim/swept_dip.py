"""The dip of a sweep: Z is smooth where |Γ| has a cusp, so it is Z that is drawn between the samples."""

import math

import numpy as np

from yielding_coil.core.arrays import Complex, Real, require_positive
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, magnitude_at_swr
from yielding_coil.core.sweep import Sweep, SwrSweep
from yielding_coil.core.trim.dial import dip_of
from yielding_coil.core.trim.meter_readings import BOTH_SIDES, LEAST_MAGNITUDE, Dip, SwrPoint

# How far up the bowl round a dip a sweep's samples are used, in S + 1/S; at least so many, where there are.
BOWL, FEWEST = 0.35, 6
# How far from an edge of the sweep, in widths of the bowl, a lowest point must lie.
EDGE = 0.1
# Readings of SWR so few are looked at one by one; of a longer table so many round the dip, each as good as this.
FEW, TABLED, TABLE_SPREAD = 12, 24, 0.01
# What calibration leaves of Γ, root mean square, smooth in frequency: 40 to 50 dB down (common practice), and the
# worse half of these counts most.
RESIDUAL = 10 ** (-42.5 / 20)
# Noise of a point of Γ, where too few are there to see it.
NOISE = 7e-4
# A dip known worse than this, one standard deviation, is not told: a closer sweep is.
WORST = 0.01


def dip_in(found: Sweep | SwrSweep, near_hz: float, residual: float = RESIDUAL) -> Dip:
    """The dip of a sweep that lies nearest to a frequency.

    Args:
        found: a sweep, or readings of SWR.
        near_hz: where it is wanted.
        residual: root mean square of what calibration leaves of Γ, the same over a dip's width.

    Returns:
        `side` "below" or "above" where the SWR still falls towards an edge of the sweep; "unknown" with the
        frequency to sweep closer round, where the samples lie too far apart to tell.

    Raises:
        OutOfDomainError: near_hz not above zero.
        ContradictionError: as dip_of, where there is no phase.
    """
    require_positive("near_hz", near_hz)
    f = found.frequency_hz
    if isinstance(found, SwrSweep):
        if f.size <= FEW:
            return _of_table(f, found.swr, LEAST_MAGNITUDE)
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
    around = _widened(around, lowest, f.size)
    if isinstance(found, SwrSweep):
        kept = np.unique(np.linspace(around.start, around.stop - 1, TABLED).astype(int))
        there = _of_table(f[kept], found.swr[kept], TABLE_SPREAD)
    else:
        there = _of_impedance(f[around], found.impedance_ohm[around], float(f[lowest]), residual)
    at = there.frequency_hz
    if at is not None:
        # A bowl cut by an edge of the sweep has its lowest point well inside, or none in view.
        clear = EDGE * float(f[around][-1] - f[around][0])
        low = f[around][0] + (clear if around.start == 0 else 0.0)
        high = f[around][-1] - (clear if around.stop == f.size else 0.0)
        if not low <= at <= high:
            return _towards_edge(f, size)
    return there


def _of_table(f: Real, swr: Real, spread: float) -> Dip:
    return dip_of([SwrPoint(float(a), float(s), spread) for a, s in zip(f, swr, strict=True)])


def _around(bowl: Real, lowest: int) -> slice:
    """The samples of a bowl that stand little higher than its lowest."""
    level = bowl[lowest] + BOWL
    low = high = lowest
    while low > 0 and bowl[low - 1] <= level:
        low -= 1
    while high < bowl.size - 1 and bowl[high + 1] <= level:
        high += 1
    return slice(low, high + 1)


def _widened(around: slice, lowest: int, count: int) -> slice:
    """At least a few samples, as many on either side of the lowest as there are."""
    low, high = around.start, around.stop
    while high - low < min(FEWEST, count):
        left, right = lowest - low, high - 1 - lowest
        if (left <= right and low > 0) or high == count:
            low -= 1
        else:
            high += 1
    return slice(low, high)


def _lowest_of(coefficients: Complex, low: float, high: float) -> tuple[float, float]:
    """Where |Γ| of a polynomial Z is least between two places, and |Γ| there."""
    for _ in range(4):
        x = np.linspace(low, high, 65)
        z = np.polynomial.polynomial.polyval(x, coefficients)
        size = np.abs((z - DEFAULT_REFERENCE_OHM) / (z + DEFAULT_REFERENCE_OHM))
        best = int(np.argmin(size))
        low, high = x[max(best - 1, 0)], x[min(best + 1, 64)]
    return float(x[best]), float(size[best])


def _of_impedance(f: Real, z: Complex, middle: float, residual: float) -> Dip:
    """A complex polynomial through samples of Z, weighted as Γ is read; two orders, and what tells them apart."""
    x = f / middle - 1
    scale = float(np.abs(x).max()) or 1.0
    x = x / scale
    slope = np.abs(2 * DEFAULT_REFERENCE_OHM / (z + DEFAULT_REFERENCE_OHM) ** 2)  # |dΓ/dZ|
    order = min(3, f.size - 2)
    fits = []
    found: Complex
    for degree in (max(order - 1, 1), order):
        powers = np.vander(x, degree + 1, increasing=True)
        weighted = powers * slope[:, np.newaxis]
        found = np.asarray(np.linalg.lstsq(weighted.astype(complex), z * slope, rcond=None)[0], dtype=complex)
        left = (z - powers @ found) * slope
        noise2 = float(np.sum(np.abs(left) ** 2)) / max(f.size - degree - 1, 1) / 2
        fits.append((found, weighted, max(math.sqrt(noise2), NOISE)))
    lowest = [_lowest_of(found, float(x[0]), float(x[-1])) for found, _, _ in fits]
    found, weighted, noise = fits[1]
    at, size = lowest[1]
    # Γ and its slope at the dip: what is added there moves the dip along the slope.
    here = complex(np.polynomial.polynomial.polyval(at, found))
    along = complex(np.polynomial.polynomial.polyval(at, np.polynomial.polynomial.polyder(found)))
    gamma_slope = along * 2 * DEFAULT_REFERENCE_OHM / (here + DEFAULT_REFERENCE_OHM) ** 2
    power = at ** np.arange(found.size)
    covariance = np.linalg.pinv(weighted.T @ weighted)
    fitted = noise * math.sqrt(max(float(power @ covariance @ power), 0.0))
    fitted *= abs(2 * DEFAULT_REFERENCE_OHM / (here + DEFAULT_REFERENCE_OHM) ** 2)
    left_by = residual * math.sqrt((1 + size**2 + size**4) / 6)  # one of two directions, of three terms
    moved = math.hypot(fitted, left_by) / max(abs(gamma_slope), 1e-9)
    doubt = math.hypot(moved, lowest[1][0] - lowest[0][0]) * scale
    if doubt > WORST:
        return Dip("unknown", None, None, None, None, None, middle)
    return found_dip(middle * (1 + at * scale), doubt, size)


def _towards_edge(f: Real, size: Real) -> Dip:
    """No dip in view: the edge where less comes back is where it lies beyond."""
    low, high = float(f[0]), float(f[-1])
    if size[-1] < size[0]:
        return Dip("above", None, None, None, high, None, high + (high - low) / 2)
    return Dip("below", None, None, None, None, low, max(low / 2, low - (high - low) / 2))


def found_dip(frequency_hz: float, spread: float, magnitude: float) -> Dip:
    """A dip with one standard deviation, relative."""
    return Dip(
        "found",
        frequency_hz,
        spread,
        (1 + magnitude) / (1 - magnitude),
        frequency_hz * (1 - BOTH_SIDES * spread),
        frequency_hz * (1 + BOTH_SIDES * spread),
        None,
    )
