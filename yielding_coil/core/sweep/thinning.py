"""Sweeps thinned to what a chart can show, or a test can look at."""

from itertools import pairwise

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import reflection_of

# What comes back may be so much more than was sent before a sweep is of no passive thing; and how few points a fit
# takes.
MORE_THAN_SENT, FEWEST_FITTED = 1.03, 11


def thinned(frequency_hz: Real, impedance_ohm: Complex, points: int) -> tuple[Real, Complex]:
    """At most `points` samples: of each column the lowest and the highest |Γ|, in order; shapes (n,)."""
    if frequency_hz.size <= points:
        return frequency_hz, impedance_ohm
    size = np.abs(reflection_of(impedance_ohm))
    edges = np.linspace(0, frequency_hz.size, points // 2 + 1).astype(int)
    keep = {
        at
        for low, high in pairwise(edges)
        if high > low
        for at in (low + int(np.argmin(size[low:high])), low + int(np.argmax(size[low:high])))
    }
    index = np.array(sorted(keep))
    return frequency_hz[index], impedance_ohm[index]


def evenly(samples: int, points: int) -> npt.NDArray[np.intp]:
    """At most so many indices of as many samples, evenly spaced, first and last among them."""
    return np.unique(np.linspace(0, samples - 1, points).astype(np.intp))


def fitted_at(frequency_hz: Real, gamma: Complex, points: int, where: str = "") -> tuple[Real, Complex]:
    """At most so many samples for a fit, evenly over the sweep; shapes (n,).

    Args:
        where: what parted these samples from others, to be told where they are too few.

    Raises:
        OutOfDomainError: too few, or R below zero.
    """
    if frequency_hz.size < FEWEST_FITTED:
        raise OutOfDomainError("sweep", f"of {frequency_hz.size} points{where}", f"{FEWEST_FITTED} points or more")
    worst = int(np.abs(gamma).argmax())
    if abs(gamma[worst]) > MORE_THAN_SENT:
        raise OutOfDomainError(
            "sweep",
            f"with R below zero at {frequency_hz[worst] / 1e6:.5g} MHz",
            "R above zero: what hangs there sends nothing of its own; calibrate anew",
        )
    wanted = np.linspace(frequency_hz[0], frequency_hz[-1], points)
    at = np.unique(np.abs(frequency_hz[None] - wanted[:, None]).argmin(axis=1))
    return frequency_hz[at], gamma[at]
