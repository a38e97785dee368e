"""How sure a reflection is: the covariance of its two parts, and what that makes of R, X and SWR."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, swr_of

# Nine in ten of a normal lie within so many standard deviations.
NINE_IN_TEN = 1.6448536269514722


@dataclass(frozen=True, slots=True, eq=False)
class ReflectionUncertainty:
    """Variances of the real and imaginary part of Γ and their covariance, shape (n,) each; normal, small errors."""

    real: Real
    imaginary: Real
    both: Real

    @classmethod
    def none(cls, shape: tuple[int, ...]) -> "ReflectionUncertainty":
        """No doubt at all."""
        return cls(np.zeros(shape), np.zeros(shape), np.zeros(shape))

    @classmethod
    def circular(cls, rms: Real) -> "ReflectionUncertainty":
        """The same in every direction, of this root mean square."""
        half = rms**2 / 2
        return cls(half, half, np.zeros(np.shape(half)))

    @classmethod
    def along(cls, step: Complex) -> "ReflectionUncertainty":
        """Along one direction: `step` is one standard deviation."""
        return cls(step.real**2, step.imag**2, step.real * step.imag)

    @classmethod
    def of(cls, rows: Real) -> "ReflectionUncertainty":
        """From what `rows` gave, flattened or not."""
        real, imaginary, both = rows.reshape(3, -1).copy()
        return cls(real, imaginary, both)

    def at(self, index: npt.NDArray[np.intp]) -> "ReflectionUncertainty":
        """That of some of the points."""
        return ReflectionUncertainty(self.real[index], self.imaginary[index], self.both[index])

    def between(self, own_hz: Real, frequency_hz: Real) -> "ReflectionUncertainty":
        """At other frequencies than its own, read between them."""
        rows = [np.interp(frequency_hz, own_hz, row) for row in (self.real, self.imaginary, self.both)]
        return ReflectionUncertainty(*(np.atleast_1d(row) for row in rows))

    @classmethod
    def among(cls, drawn: Complex) -> "ReflectionUncertainty":
        """That of draws, shape (draws, n)."""
        a = drawn - drawn.mean(axis=0)
        return cls((a.real**2).mean(axis=0), (a.imag**2).mean(axis=0), (a.real * a.imag).mean(axis=0))

    @property
    def rows(self) -> Real:
        """Its three arrays as one, shape (3, n)."""
        return np.stack([self.real, self.imaginary, self.both])

    def __add__(self, other: "ReflectionUncertainty") -> "ReflectionUncertainty":
        """Both, independent of each other."""
        return ReflectionUncertainty(
            self.real + other.real, self.imaginary + other.imaginary, self.both + other.both
        )

    @property
    def rms(self) -> Real:
        """Root mean square of |δΓ|."""
        return np.sqrt(self.real + self.imaginary)

    def half_width(self, slope: Complex) -> Real:
        """Half the width of the 90 % band of Re(slope·Γ)."""
        a, b = slope.real, slope.imag
        variance = a**2 * self.real + b**2 * self.imaginary - 2 * a * b * self.both
        return NINE_IN_TEN * np.sqrt(np.maximum(variance, 0.0))

    def impedance_bands(self, reflection: Complex) -> tuple[Real, Real]:
        """Half widths of the 90 % bands of R and X, in ohm, to first order."""
        slope = 2 * DEFAULT_REFERENCE_OHM / (1 - reflection) ** 2
        return self.half_width(slope), self.half_width(-1j * slope)

    def swr_band(self, reflection: Complex) -> tuple[Real, Real]:
        """The 90 % band of SWR: lowest and highest, shape (n,)."""
        size = np.abs(reflection)
        toward = np.where(size > 1e-12, np.conj(reflection) / np.maximum(size, 1e-12), 1.0)
        half = self.half_width(toward)
        return swr_of(np.maximum(size - half, 0.0)), swr_of(size + half)

    def drawn(self, reflection: Complex, normal: Real) -> Complex:
        """Reflections as they may be; one pair of normal deviates a draw, common to all frequencies.

        Args:
            reflection: as measured, shape (n,).
            normal: shape (draws, 2).

        Returns:
            Shape (draws, n).
        """
        first = np.sqrt(self.real)
        safe = np.maximum(first, 1e-30)
        second = np.sqrt(np.maximum(self.imaginary - (self.both / safe) ** 2, 0.0))
        u, v = normal[:, :1], normal[:, 1:]
        return np.asarray(reflection + first * u + 1j * (self.both / safe * u + second * v))
