"""Numbers on the wire: six significant digits, and null for what has no finite value."""

import math

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Real

Numbers = list[float | None]


def numbers(values: Real) -> Numbers:
    """An array of shape (n,) as it travels."""
    return rows_of_numbers(values[np.newaxis])[0]


def rows_of_numbers(values: Real) -> list[Numbers]:
    """Several arrays at once, shape (rows, n): one rounding for all of them."""
    finite = np.isfinite(values)
    safe = np.where(finite, values, 1.0)
    with np.errstate(divide="ignore"):
        power = np.where(safe == 0, 0.0, np.floor(np.log10(np.abs(safe))))
    scale = 10.0 ** (5 - power)
    rounded: list[Numbers] = (np.round(safe * scale) / scale).tolist()
    for row, at in np.argwhere(~finite):
        rounded[row][at] = None
    return rounded


def number(value: float | npt.NDArray[np.float64]) -> float | None:
    """One value as it travels."""
    plain = float(value)
    return float(f"{plain:.6g}") if math.isfinite(plain) else None
