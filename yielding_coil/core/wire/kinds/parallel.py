"""Wires that hang beside each other: a fan, nested loops, and a dipole beside another one."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import ClassVar, Literal, Self

from yielding_coil.core.wire.geometry import GroundKind, Point, Source, Wire
from yielding_coil.core.wire.kinds.dipole import LEG
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    BARE,
    AntennaKind,
    Handle,
    Hung,
    Stock,
    WirePiece,
    refused,
    usual_height_m,
    wave_m,
)
from yielding_coil.core.wire.structure import Structure

# Wires that share a feedpoint part here, so far to either side of it.
MIDDLE_M = 0.04
# Ends of a fan hang so much of the long leg apart.
FAN = 0.15
# A loop is so many waves round (practice: 1005/f feet).
ROUND = 1.03


def _nearest(frequency_hz: float, waves: float, lengths_m: Sequence[float]) -> int:
    """Which of several wires is nearest to so many waves at a frequency."""
    wanted = waves * wave_m(frequency_hz)
    return min(range(len(lengths_m)), key=lambda i: abs(math.log(lengths_m[i] / wanted)))


@dataclass(frozen=True, slots=True)
class FanDipole(Hung):
    """Two dipoles on one feedpoint, the short one falling away below the long one."""

    lengths: ClassVar[tuple[str, ...]] = ("short_m", "leg_m")
    heights: ClassVar[tuple[str, ...]] = ("height_m",)
    others: ClassVar[tuple[str, ...]] = ("apart_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("end", "end", ("leg_m", "height_m"), wire=1),
        Handle("short", "end of the short leg", ("short_m", "apart_m"), wire=3),
        Handle("other", "other end", ("leg_m", "height_m"), wire=2),
    )
    tuned_by: ClassVar[str] = "leg_m"
    in_turn: ClassVar[tuple[str, ...]] = ("short_m", "leg_m")
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    short_m: float
    leg_m: float
    height_m: float
    apart_m: float = 0.5
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    @property
    def trimmed_m(self) -> float:
        """A long leg."""
        return self.leg_m

    @property
    def reaches_m(self) -> tuple[float, ...]:
        """The short legs and the long ones."""
        return (self.short_m, self.leg_m)

    def _reaching(self, reach_m: Sequence[float]) -> Self:
        return self.told(short_m=reach_m[0], leg_m=reach_m[1])

    def shortened(self, by_m: float) -> Self:
        """Wire is taken off the long legs."""
        return self.told(leg_m=self.leg_m - by_m)

    def band_of(self, frequency_hz: float) -> int:
        """That of the dipole which is nearer to half a wave."""
        return _nearest(frequency_hz, LEG, self.reaches_m)

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("short leg", 2, self.short_m), WirePiece("long leg", 2, self.leg_m))

    def structure(self) -> Structure:
        """A short piece with the feed in it, from each of its ends a long leg and a short one below."""
        if not self.short_m < self.leg_m:
            raise refused("short_m", f"{self.short_m:.4g} m", f"less than the long leg's {self.leg_m:.4g} m")
        if not self.apart_m < 0.9 * self.short_m:
            raise refused("apart_m", f"{self.apart_m:.4g} m", f"less than {0.9 * self.short_m:.4g} m, in a fan")
        h, level = self.height_m, math.sqrt(self.short_m**2 - self.apart_m**2)
        at: list[Point] = [(side * MIDDLE_M, 0.0, h) for side in (-1, 1)]
        long = [self.stock.wire(at[i], (side * self.leg_m, 0.0, h)) for i, side in ((1, 1), (0, -1))]
        short = [
            self.stock.wire(at[i], (side * (MIDDLE_M + level), 0.0, h - self.apart_m))
            for i, side in ((1, 1), (0, -1))
        ]
        return Structure([self.stock.wire(*at), *long, *short], Source(0, 0.5), ground=self.ground)


@dataclass(frozen=True, slots=True)
class NestedLoops(Hung):
    """Two triangles or squares in one plane on one feedpoint, the smaller inside."""

    lengths: ClassVar[tuple[str, ...]] = ("inside_m", "perimeter_m")
    heights: ClassVar[tuple[str, ...]] = ("low_m",)
    others: ClassVar[tuple[str, ...]] = ("apart_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("corner", "lower corner", ("perimeter_m", "low_m"), wire=1),
        Handle("inside", "inner corner", ("inside_m", "apart_m"), wire=5),
    )
    tuned_by: ClassVar[str] = "perimeter_m"
    in_turn: ClassVar[tuple[str, ...]] = ("inside_m", "perimeter_m")
    inside_m: float
    perimeter_m: float
    low_m: float
    apart_m: float = 0.2
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    @property
    def trimmed_m(self) -> float:
        """The outer loop, once round."""
        return self.perimeter_m

    @property
    def reaches_m(self) -> tuple[float, ...]:
        """The inner loop and the outer one."""
        return (self.inside_m, self.perimeter_m)

    def _reaching(self, reach_m: Sequence[float]) -> Self:
        return self.told(inside_m=reach_m[0], perimeter_m=reach_m[1])

    def shortened(self, by_m: float) -> Self:
        """Wire is taken out of the outer loop."""
        return self.told(perimeter_m=self.perimeter_m - by_m)

    def band_of(self, frequency_hz: float) -> int:
        """That of the loop which is nearer to a wave round."""
        return _nearest(frequency_hz, ROUND, self.reaches_m)

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("inner loop", 1, self.inside_m), WirePiece("outer loop, once round", 1, self.perimeter_m))

    def _square(self, around_m: float, low_m: float, at: Sequence[Point]) -> list[Wire]:
        """Round from one end of the feed's piece to the other."""
        # The lower side rises from the feed to its corners: what it is longer, the other sides are not.
        rise = low_m - self.low_m
        side = around_m / 4
        for _ in range(8):
            lower = 2 * math.hypot(side / 2 - MIDDLE_M, rise) + 2 * MIDDLE_M
            side += (around_m - 3 * side - lower) / 4
        corners: list[Point] = [
            (side / 2, 0.0, low_m),
            (side / 2, 0.0, low_m + side),
            (-side / 2, 0.0, low_m + side),
            (-side / 2, 0.0, low_m),
        ]
        ring = [at[1], *corners, at[0]]
        return [self.stock.wire(a, b) for a, b in pairwise(ring)]

    def structure(self) -> Structure:
        """A short piece with the feed in it, two squares from its ends round."""
        side = self.perimeter_m / 4
        if not (self.inside_m / 4 + 2 * self.apart_m < side):
            raise refused("inside_m", f"{self.inside_m:.4g} m", f"less than {4 * (side - 2 * self.apart_m):.4g} m")
        at: list[Point] = [(side * MIDDLE_M, 0.0, self.low_m) for side in (-1, 1)]
        wires = [
            self.stock.wire(*at),
            *self._square(self.perimeter_m, self.low_m, at),
            *self._square(self.inside_m, self.low_m + self.apart_m, at),
        ]
        return Structure(wires, Source(0, 0.5), ground=self.ground)


@dataclass(frozen=True, slots=True)
class DipoleBeside(Hung):
    """A level dipole, and another wire of the same height beside it that nobody feeds."""

    lengths: ClassVar[tuple[str, ...]] = ("leg_m", "other_m")
    heights: ClassVar[tuple[str, ...]] = ("height_m",)
    others: ClassVar[tuple[str, ...]] = ("apart_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("end", "end", ("leg_m", "height_m")),
        Handle("other", "other end", ("leg_m", "height_m"), at=0.0),
    )
    tuned_by: ClassVar[str] = "leg_m"
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    leg_m: float
    other_m: float
    height_m: float
    apart_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("leg", 2, self.leg_m), WirePiece("the one beside, end to end", 1, 2 * self.other_m))

    def structure(self) -> Structure:
        """Two wires along x, side by side."""
        wires = [
            self.stock.wire((-leg, y, self.height_m), (leg, y, self.height_m))
            for leg, y in ((self.leg_m, 0.0), (self.other_m, self.apart_m))
        ]
        return Structure(wires, Source(0, 0.5), ground=self.ground)


def _fan(high_hz: float, low_hz: float) -> FanDipole:
    leg = LEG * wave_m(low_hz)
    return FanDipole(LEG * wave_m(high_hz), leg, usual_height_m(low_hz), FAN * leg)


def _loops(high_hz: float, low_hz: float) -> NestedLoops:
    return NestedLoops(ROUND * wave_m(high_hz), ROUND * wave_m(low_hz), 2.5, 0.01 * wave_m(low_hz))


# One band alone is the lower of two.
UPPER = 1.35

FAN_DIPOLE = AntennaKind(
    key="fan-dipole",
    name="fan dipole, two bands",
    purpose="two bands without a walk, two pairs of legs on one feedpoint",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="spreaders between the legs; the coax at its middle; sag",
    form="dipole",
    start=lambda f: _fan(UPPER * f, f),
    start_for=_fan,
    arrangement="nested",
)
NESTED_LOOPS = AntennaKind(
    key="nested-loops",
    name="two full-wave squares, one inside the other",
    purpose="two bands on one feedpoint, between two supports",
    fed_by="quarter-wave of 75 Ω coax on one band",
    feed_ohm=112.0,
    not_modelled="the coax under it; its frame",
    form="loop",
    start=lambda f: _loops(UPPER * f, f),
    start_for=_loops,
    arrangement="nested",
)
DIPOLE_BESIDE = AntennaKind(
    key="dipole-beside",
    name="dipole with a second wire beside it",
    purpose="one band, more towards one side: a shorter wire draws it, a longer one holds it off",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="the coax at its middle; sag of two wires that should hang alike",
    form="dipole",
    start=lambda f: DipoleBeside(LEG * wave_m(f), 0.95 * LEG * wave_m(f), usual_height_m(f), 0.2 * wave_m(f)),
)
