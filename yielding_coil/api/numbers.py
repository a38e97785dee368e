"""Numbers on the wire: six significant digits, and null for what has no finite value."""

import math

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Real

Numbers = list[float | None]


def numbers(values: Real) -> Numbers:
    """An array as it travels."""
    finite = np.isfinite(values)
    safe = np.where(finite, values, 1.0)
    with np.errstate(divide="ignore"):
        power = np.where(safe == 0, 0.0, np.floor(np.log10(np.abs(safe))))
    scale = 10.0 ** (5 - power)
    rounded: list[float | None] = (np.round(safe * scale) / scale).tolist()
    if not finite.all():
        for at in np.flatnonzero(~finite):
            rounded[at] = None
    return rounded


def number(value: float | npt.NDArray[np.float64]) -> float | None:
    """One value as it travels."""
    plain = float(value)
    return float(f"{plain:.6g}") if math.isfinite(plain) else None
