"""The place where an antenna is to hang, and what stands in a school's way there."""

from dataclasses import dataclass, field
from typing import Literal

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import AVERAGE_GROUND, Ground, Stock, room

ObstacleCode = Literal["span", "height", "supports", "pole", "radials", "bands", "apart", "tall", "length"]

# A pole is shorter than its name, ropes and insulators take their part of a span (common practice; `room`).
# Wires hang no lower than hands reach, where people walk; end-fed ones begin as high as a stake or a shed's corner.
CLEAR_M, FEED_M = 2.5, 2.0
LARGEST_M = 500.0


@dataclass(frozen=True, slots=True)
class Place:
    """Supports and room, in metres.

    Args:
        high_m: the first support, as it is sold or guessed; `is_pole` where a wire may run up it.
        other_m: the second one; 0 where there is none.
        span_m: between them; 0 with one alone.
        width_m: how far wires may reach over the ground, from end to end.
        on_ground: whether radials may be laid; a loft and a balcony have no ground of their own.
        clear_m: how low wires may hang.
        tuner: whether there is a tuner at the radio, or may be.

    Raises:
        OutOfDomainError: no support, no room, a length that is none.
    """

    high_m: float
    width_m: float
    other_m: float = 0.0
    span_m: float = 0.0
    is_pole: bool = True
    on_ground: bool = True
    clear_m: float = CLEAR_M
    tuner: bool = True
    stock: Stock = field(default_factory=Stock)
    soil: Ground = AVERAGE_GROUND

    def __post_init__(self) -> None:
        for name in ("high_m", "width_m"):
            value = getattr(self, name)
            if not 0 < value <= LARGEST_M:
                raise OutOfDomainError(name, f"{value:.4g} m", f"above 0, up to {LARGEST_M:.0f} m")
        for name in ("other_m", "span_m", "clear_m"):
            value = getattr(self, name)
            if not 0 <= value <= LARGEST_M:
                raise OutOfDomainError(name, f"{value:.4g} m", f"0 to {LARGEST_M:.0f} m")
        if (self.other_m > 0) != (self.span_m > 0):
            raise OutOfDomainError(
                "span_m", f"{self.span_m:.4g} m with a second support of {self.other_m:.4g} m", "both, or neither"
            )

    @property
    def top_m(self) -> float:
        """How high the first support holds a wire: a 7 m pole 6.8 m."""
        return room("pole", self.high_m) if self.is_pole else self.high_m

    @property
    def level_m(self) -> float:
        """How high a level wire hangs between both."""
        return min(self.top_m, self.other_m)

    @property
    def between_m(self) -> float:
        """How much wire the span holds; 0 with one support."""
        return room("span", self.span_m) if self.span_m > 0 else 0.0

    @property
    def reach_m(self) -> float:
        """How far a wire may reach over the ground from end to end."""
        return max(self.between_m, room("span", self.width_m))


@dataclass(frozen=True, slots=True)
class Obstacle:
    """What stands in the way: what it needs, and what there is, in metres or as counted."""

    code: ObstacleCode
    needs: float
    there: float
