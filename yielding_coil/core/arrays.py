"""What kinds of numbers the core takes, and the checks on them."""

import numpy as np
import numpy.typing as npt

from yielding_coil.core.errors import OutOfDomainError

Real = npt.NDArray[np.float64]
Complex = npt.NDArray[np.complex128]
Reals = float | Real
Complexes = complex | float | Complex


def is_zero(value: Reals) -> bool:
    """Whether a value is one plain zero, so that its term can be left out."""
    return isinstance(value, float | int) and value == 0


def complex_of(real: Reals, imaginary: Reals) -> Complex:
    """A complex array from its two parts."""
    first, second = np.asarray(real), np.asarray(imaginary)
    whole = np.empty(
        first.shape if first.shape == second.shape else np.broadcast(first, second).shape, dtype=complex
    )
    whole.real, whole.imag = first, second
    return whole


def _first(values: npt.NDArray[np.bool_], of: npt.NDArray[np.generic]) -> object:
    return of.reshape(-1)[int(np.argmax(values.reshape(-1)))]


def require_positive(name: str, value: Reals) -> None:
    """Raise OutOfDomainError unless every value is finite and above zero."""
    if isinstance(value, float | int):
        if 0 < value < float("inf"):
            return
        raise OutOfDomainError(name, float(value), "above zero")
    array = np.asarray(value, dtype=float)
    bad = ~((array > 0) & (array < np.inf))
    if bad.any():
        raise OutOfDomainError(name, _first(bad, array), "above zero")


def require_not_negative(name: str, value: Reals) -> None:
    """Raise OutOfDomainError unless every value is finite and zero or more."""
    array = np.asarray(value, dtype=float)
    bad = ~((array >= 0) & (array < np.inf))
    if bad.any():
        raise OutOfDomainError(name, _first(bad, array), "zero or more")


def require_finite(name: str, value: Complexes) -> None:
    """Raise OutOfDomainError unless every value is a finite number."""
    array = np.asarray(value)
    bad = ~np.isfinite(array)
    if bad.any():
        raise OutOfDomainError(name, _first(bad, array), "a finite number")
