"""Uprights of other build: a short one under a hat, and a dipole with a sleeve over its coax."""

import math
from dataclasses import dataclass
from typing import ClassVar

from yielding_coil.core.wire.geometry import Ground, GroundKind, Source, Wire
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    BARE,
    AntennaKind,
    Handle,
    Hung,
    OnRadials,
    Stock,
    WirePiece,
    refused,
    wave_m,
)
from yielding_coil.core.wire.structure import Structure

# The tube or braid that makes a sleeve (common practice).
SLEEVE_RADIUS_M = 0.008


@dataclass(frozen=True, slots=True)
class HatVertical(OnRadials):
    """A short one with level spokes at its top in place of a coil."""

    lengths: ClassVar[tuple[str, ...]] = ("height_m", "spoke_m")
    others: ClassVar[tuple[str, ...]] = ("spokes", "radials")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("top", "top", ("height_m",)),
        Handle("spoke", "end of a spoke", ("spoke_m",), wire=1),
    )
    tuned_by: ClassVar[str] = "spoke_m"
    height_m: float
    spoke_m: float
    spokes: int = 4
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE
    soil: Ground = AVERAGE_GROUND

    def shortened(self, by_m: float) -> "HatVertical":
        """Wire is taken off the spokes."""
        return self.told(spoke_m=self.spoke_m - by_m)

    @property
    def trimmed_m(self) -> float:
        """A spoke."""
        return self.spoke_m

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("spoke", self.spokes, self.spoke_m), WirePiece("wire", 1, self.height_m))

    def structure(self) -> Structure:
        """One wire from the ground up, the spokes level from its top."""
        top = (0.0, 0.0, self.height_m)
        wires = [self.stock.wire((0.0, 0.0, 0.0), top)]
        for k in range(self.spokes):
            turn = 2 * math.pi * k / self.spokes
            end = (self.spoke_m * math.cos(turn), self.spoke_m * math.sin(turn), self.height_m)
            wires.append(self.stock.wire(top, end))
        return Structure(wires, Source(0, 0.0), [self.earth], "perfect")


@dataclass(frozen=True, slots=True)
class SleeveDipole(Hung):
    """Upright, fed in the middle through its own lower half: wire above, a sleeve over the coax below."""

    lengths: ClassVar[tuple[str, ...]] = ("whip_m", "sleeve_m")
    heights: ClassVar[tuple[str, ...]] = ("base_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("top", "top", ("whip_m",)),
        Handle("base", "lower end of the sleeve", ("base_m",), wire=1),
    )
    tuned_by: ClassVar[str] = "whip_m"
    whip_m: float
    sleeve_m: float
    base_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire above the feed", 1, self.whip_m), WirePiece("sleeve", 1, self.sleeve_m))

    def structure(self) -> Structure:
        """The wire up from the feed, the sleeve down from it: what runs inside is coax."""
        if not self.base_m > 0.3:
            raise refused("base_m", f"{self.base_m:.4g} m", "more than 0.3 m over the ground")
        feed = (0.0, 0.0, self.base_m + self.sleeve_m)
        wires = [
            self.stock.wire(feed, (0.0, 0.0, feed[2] + self.whip_m)),
            Wire(feed, (0.0, 0.0, self.base_m), SLEEVE_RADIUS_M, self.stock.conductor),
        ]
        return Structure(wires, Source(0, 0.0), ground=self.ground)


HAT_VERTICAL = AntennaKind(
    key="hat-vertical",
    name="short vertical under a hat of wires",
    purpose="a low band on a short pole without a coil's loss",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="what radials lose but by a table; spokes that hang, which want to be longer",
    form="loaded-vertical",
    start=lambda f: HatVertical(0.14 * wave_m(f), 0.045 * wave_m(f)),
)
SLEEVE_DIPOLE = AntennaKind(
    key="sleeve-dipole",
    name="coaxial sleeve dipole, upright",
    purpose="one band, low angles, no radials; the coax comes out below",
    fed_by="the coax inside it, a choke below the sleeve",
    feed_ohm=75.0,
    not_modelled="the coax below the sleeve and what the choke there lets pass; the inside of the sleeve",
    form="vertical",
    start=lambda f: SleeveDipole(0.236 * wave_m(f), 0.22 * wave_m(f), 3.0),
)
