"""Full-wave loops standing upright: triangle and square."""

import math
from dataclasses import dataclass
from typing import ClassVar

from yielding_coil.core.wire.geometry import GroundKind, Point, Source
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    BARE,
    AntennaKind,
    Handle,
    Hung,
    Stock,
    WirePiece,
    refused,
    wave_m,
)
from yielding_coil.core.wire.structure import Structure


@dataclass(frozen=True, slots=True)
class Loop(Hung):
    """A regular one, one side level and lowest, fed in the middle of that side."""

    lengths: ClassVar[tuple[str, ...]] = ("perimeter_m",)
    heights: ClassVar[tuple[str, ...]] = ("low_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("corner", "lower corner", ("perimeter_m", "low_m")),
        Handle("other", "other lower corner", ("perimeter_m", "low_m"), at=0.0),
    )
    tuned_by: ClassVar[str] = "perimeter_m"
    perimeter_m: float
    low_m: float
    corners: int = 3
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("whole wire, once round", 1, self.perimeter_m),)

    def structure(self) -> Structure:
        """Sides in the plane of x and z."""
        if self.corners not in (3, 4):
            raise refused("corners", self.corners, "3 or 4")
        side = self.perimeter_m / self.corners
        at: list[Point] = [(-side / 2, 0.0, self.low_m), (side / 2, 0.0, self.low_m)]
        if self.corners == 3:
            at.append((0.0, 0.0, self.low_m + side * math.sqrt(3) / 2))
        else:
            at += [(side / 2, 0.0, self.low_m + side), (-side / 2, 0.0, self.low_m + side)]
        wires = [self.stock.wire(at[i], at[(i + 1) % len(at)]) for i in range(len(at))]
        return Structure(wires, Source(0, 0.5), ground=self.ground)


TRIANGLE = AntennaKind(
    key="triangle",
    name="full-wave triangle",
    purpose="one band and its harmonics, one high support",
    fed_by="quarter-wave of 75 Ω coax",
    feed_ohm=112.0,
    not_modelled="the coax under it; a mast within it",
    form="loop",
    start=lambda f: Loop(1.03 * wave_m(f), 2.5, 3),
)
SQUARE = AntennaKind(
    key="square",
    name="full-wave square",
    purpose="one band and its harmonics, between two supports",
    fed_by="quarter-wave of 75 Ω coax",
    feed_ohm=112.0,
    not_modelled="the coax under it; its frame",
    form="loop",
    start=lambda f: Loop(1.03 * wave_m(f), 2.5, 4),
)
