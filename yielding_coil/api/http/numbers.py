"""Numbers on the wire: six significant digits, and null for what has no finite value."""

import math
from typing import Annotated, Any

import numpy as np
import numpy.typing as npt
from pydantic import BeforeValidator

from yielding_coil.core.arrays import Real


def _rounded(values: Any) -> Any:
    return numbers(values) if isinstance(values, np.ndarray) else values


def _listed(values: Any) -> Any:
    return values.tolist() if isinstance(values, np.ndarray) else values


def _finite(value: Any) -> Any:
    return number(float(value)) if isinstance(value, float | np.floating) else value


# An array of the core as it travels; frequencies to the last digit, so that they can be asked for again.
Numbers = Annotated[list[float | None], BeforeValidator(_rounded)]
Frequencies = Annotated[list[float], BeforeValidator(_listed)]
# One value of the core as it travels; null where it has no finite value.
Figure = Annotated[float | None, BeforeValidator(_finite)]


def numbers(values: Real) -> list[float | None]:
    """An array of shape (n,) as it travels."""
    return rows_of_numbers(values[np.newaxis])[0]


def rows_of_numbers(values: Real) -> list[list[float | None]]:
    """Several arrays at once, shape (rows, n): one rounding for all of them."""
    finite = np.isfinite(values)
    safe = np.where(finite, values, 1.0)
    with np.errstate(divide="ignore"):
        power = np.where(safe == 0, 0.0, np.floor(np.log10(np.abs(safe))))
    scale = 10.0 ** (5 - power)
    rounded: list[list[float | None]] = (np.round(safe * scale) / scale).tolist()
    for row, at in np.argwhere(~finite):
        rounded[row][at] = None
    return rounded


def number(value: float | npt.NDArray[np.float64]) -> float | None:
    """One value as it travels."""
    plain = float(value)
    return float(f"{plain:.6g}") if math.isfinite(plain) else None
