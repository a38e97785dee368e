"""Stretches of a sweep without a sample: nothing is known there."""

import numpy as np

from yielding_coil.core.arrays import Real

# A step so many times the usual one, and so wide, is a gap; of a handful of readings each is looked at by itself.
STEPS, WIDE, FEWEST = 8.0, 1.1, 20


def gaps_of(frequency_hz: Real) -> tuple[tuple[float, float], ...]:
    """Edges of the gaps of a sweep, rising, in hertz.

    Args:
        frequency_hz: of its samples, shape (n,), rising.

    >>> two = np.concatenate([np.linspace(6.9e6, 7.4e6, 51), np.linspace(13.9e6, 14.5e6, 61)])
    >>> gaps_of(two)
    ((7400000.0, 13900000.0),)
    """
    if frequency_hz.size < FEWEST:
        return ()
    steps = np.diff(frequency_hz)
    ratio = frequency_hz[1:] / frequency_hz[:-1]
    # Even in frequency, or even in its logarithm: a gap is one by either.
    wide = (steps > STEPS * np.median(steps)) & (np.log(ratio) > STEPS * np.median(np.log(ratio))) & (ratio > WIDE)
    return tuple((float(frequency_hz[k]), float(frequency_hz[k + 1])) for k in np.flatnonzero(wide))


def covers(gaps: tuple[tuple[float, float], ...], low_hz: float, high_hz: float) -> bool:
    """Whether no gap reaches into a range."""
    return all(high_hz <= low or low_hz >= high for low, high in gaps)
