"""What is wanted: a stretch of frequency and the SWR allowed on it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from yielding_coil.core.arrays import Real, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import magnitude_at_swr

POINTS = 41


@dataclass(frozen=True, slots=True)
class Target:
    """A band to hold, with its SWR limit."""

    label: str
    low_hz: float
    high_hz: float
    swr_limit: float

    def __post_init__(self) -> None:
        require_positive("low_hz", self.low_hz)
        require_positive("high_hz", self.high_hz)
        if not self.low_hz < self.high_hz:
            raise OutOfDomainError("high_hz", self.high_hz, f"above low_hz, {self.low_hz}")
        if not 1 < self.swr_limit <= 100:
            raise OutOfDomainError("swr_limit", self.swr_limit, "above 1, at most 100")

    @property
    def center_hz(self) -> float:
        """Middle of the band."""
        return (self.low_hz + self.high_hz) / 2


def judged_at(targets: Sequence[Target], points: int = POINTS) -> tuple[Real, Real]:
    """Frequencies at which targets are judged, and the |Γ| allowed at each; both shape (targets·points,)."""
    if not targets:
        raise OutOfDomainError("targets", "empty", "at least one band with its SWR limit")
    frequency = np.concatenate([np.linspace(t.low_hz, t.high_hz, points) for t in targets])
    allowed = np.repeat([float(magnitude_at_swr(t.swr_limit)) for t in targets], points)
    return frequency, allowed


class FrequencyRange(Protocol):
    """Anything known from one frequency to another."""

    @property
    def low_hz(self) -> float: ...

    @property
    def high_hz(self) -> float: ...


def require_inside(targets: Sequence[Target], sweep: FrequencyRange) -> None:
    """Raise OutOfDomainError, naming the band, unless every target lies inside the sweep."""
    for t in targets:
        if t.low_hz < sweep.low_hz or t.high_hz > sweep.high_hz:
            raise OutOfDomainError(
                "targets",
                f"{t.label}, {t.low_hz / 1e6:.3f} to {t.high_hz / 1e6:.3f} MHz",
                f"inside the sweep, {sweep.low_hz / 1e6:.3f} to {sweep.high_hz / 1e6:.3f} MHz: "
                "sweep wider, or choose another band",
            )
        for low, high in getattr(sweep, "gaps", ()):
            if t.low_hz < high and t.high_hz > low:
                raise OutOfDomainError(
                    "targets",
                    f"{t.label}, {t.low_hz / 1e6:.3f} to {t.high_hz / 1e6:.3f} MHz",
                    f"where the sweep has samples: there are none from {low / 1e6:.3f} to {high / 1e6:.3f} MHz",
                )
