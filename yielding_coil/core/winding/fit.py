"""Whether a wound thing goes where it shall: turns in the hole, the thing in a box or a tube."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from yielding_coil.core.solenoid import MOST_TURNS
from yielding_coil.core.winding.layout import WindingLayout


class Box(Protocol):
    """A box or a tube, inside."""

    @property
    def key(self) -> str: ...

    @property
    def name(self) -> str: ...

    @property
    def width_m(self) -> float: ...

    @property
    def height_m(self) -> float: ...

    @property
    def depth_m(self) -> float: ...


@dataclass(frozen=True, slots=True)
class BoxFit:
    """Whether it goes into a box or a tube."""

    key: str
    name: str
    fits: bool


@dataclass(frozen=True, slots=True)
class Fit:
    """Turns that hole or former takes, what stays free of the hole, the wound thing's size, and boxes."""

    most_turns: int
    free_deg: float | None
    outer_m: float
    height_m: float
    boxes: tuple[BoxFit, ...]


def fits_box(outer_m: float, thick_m: float, box: Box) -> bool:
    """Lying flat in a box, or with its axis along a tube.

    Args:
        outer_m: across the round thing.
        thick_m: along its axis.
    """
    return outer_m <= min(box.width_m, box.height_m) and thick_m <= box.depth_m


def _boxes(outer_m: float, thick_m: float, boxes: Sequence[Box]) -> tuple[BoxFit, ...]:
    return tuple(BoxFit(box.key, box.name, fits_box(outer_m, thick_m, box)) for box in boxes)


def ring_fit(layout: WindingLayout, boxes: Sequence[Box], rings: int = 1) -> Fit:
    """A wound ring, or several side by side: two layers of wire all round."""
    over = 2 * (layout.tape_m + 2 * layout.covered_m)
    outer, height = layout.ring.size.outer_m + over, rings * (layout.ring.height_m + over)
    return Fit(
        layout.ring.turns_that_fit(layout.covered_m, layout.tape_m),
        math.degrees(layout.free_rad),
        outer,
        height,
        _boxes(outer, height, boxes),
    )


def coil_fit(outer_m: float, length_m: float, boxes: Sequence[Box]) -> Fit:
    """A coil on a former."""
    return Fit(int(MOST_TURNS), None, outer_m, length_m, _boxes(outer_m, length_m, boxes))
