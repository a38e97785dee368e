"""SWR without phase: what a meter or a dial gives, used for what it carries."""

from dataclasses import dataclass

import numpy as np

from yielding_coil.core.arrays import Real, require_finite, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import magnitude_at_swr
from yielding_coil.core.sweep.gaps import gaps_of
from yielding_coil.core.sweep.sweep import Bandwidth, BestMatch


@dataclass(frozen=True, eq=False)
class SwrSweep:
    """SWR at some frequencies; between them nothing is known, and lines of |Γ| are drawn.

    Args:
        frequency_hz: shape (n,), n at least 2, above zero, strictly rising.
        swr: shape (n,), 1 or more, finite.

    Raises:
        OutOfDomainError: frequencies not rising, shapes that differ, an SWR below 1.

    >>> dial = SwrSweep(np.array([7.0e6, 7.1e6, 7.2e6]), np.array([2.0, 1.3, 2.0]))
    >>> dial.best_match().frequency_hz
    7100000.0
    """

    frequency_hz: Real
    swr: Real

    def __post_init__(self) -> None:
        frequency = np.atleast_1d(np.asarray(self.frequency_hz, dtype=float))
        swr = np.atleast_1d(np.asarray(self.swr, dtype=float))
        if frequency.size < 2 or frequency.shape != swr.shape:
            raise OutOfDomainError("swr", f"of shape {swr.shape}", "one value per frequency, two at least")
        require_positive("frequency_hz", frequency)
        require_finite("swr", swr)
        if (np.diff(frequency) <= 0).any():
            raise OutOfDomainError("frequency_hz", "not rising", "rising")
        if (swr < 1).any():
            raise OutOfDomainError("swr", float(swr.min()), "1 or more")
        object.__setattr__(self, "frequency_hz", frequency)
        object.__setattr__(self, "swr", swr)

    @property
    def low_hz(self) -> float:
        """Lowest frequency read."""
        return float(self.frequency_hz[0])

    @property
    def high_hz(self) -> float:
        """Highest frequency read."""
        return float(self.frequency_hz[-1])

    @property
    def gaps(self) -> tuple[tuple[float, float], ...]:
        """Stretches without a reading, in hertz: nothing is known there."""
        return gaps_of(self.frequency_hz)

    def magnitude_at(self, frequency_hz: Real) -> Real:
        """|Γ| on straight lines between the readings, same shape."""
        return np.interp(frequency_hz, self.frequency_hz, magnitude_at_swr(self.swr))

    def best_match(self) -> BestMatch:
        """The lowest reading; the true dip lies near it, not at it."""
        at = int(np.argmin(self.swr))
        return BestMatch(float(self.frequency_hz[at]), float(self.swr[at]))

    def bandwidth(self, swr_limit: float) -> Bandwidth | None:
        """The contiguous run round the lowest reading within a limit; None where there is none.

        Raises:
            OutOfDomainError: the limit is not above 1.
        """
        if not swr_limit > 1:
            raise OutOfDomainError("swr_limit", swr_limit, "above 1")
        at = int(np.argmin(self.swr))
        if self.swr[at] > swr_limit:
            return None
        size, allowed = magnitude_at_swr(self.swr), float(magnitude_at_swr(swr_limit))
        edges: list[float | None] = []
        for step in (-1, 1):
            i = at
            while 0 <= i + step < size.size and size[i + step] <= allowed:
                i += step
            if not 0 <= i + step < size.size:
                edges.append(None)
                continue
            share = (allowed - size[i]) / (size[i + step] - size[i])
            edges.append(float(self.frequency_hz[i] + share * (self.frequency_hz[i + step] - self.frequency_hz[i])))
        low, high = edges
        return Bandwidth(
            self.low_hz if low is None else low,
            self.high_hz if high is None else high,
            low is None,
            high is None,
        )
