"""Sweeps thinned to what a chart can show, or a test can look at."""

from itertools import pairwise

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.reflection import reflection_of


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
