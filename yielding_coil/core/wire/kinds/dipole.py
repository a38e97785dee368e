"""A half-wave dipole: level, sloping, as an inverted V, and with links."""

import math
from dataclasses import dataclass
from typing import ClassVar, Literal

from yielding_coil.core.parts import Capacitor
from yielding_coil.core.wire.geometry import GroundKind, Load, Source
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

# A leg of bare wire in waves: a little less than a quarter (practice: 468/f feet for both).
LEG = 0.2385
# Two insulators' worth across an open link (from memory).
LINK_F = 1e-12


@dataclass(frozen=True, slots=True)
class Dipole(Hung):
    """Level, fed in the middle."""

    lengths: ClassVar[tuple[str, ...]] = ("leg_m",)
    heights: ClassVar[tuple[str, ...]] = ("height_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("end", "end", ("leg_m", "height_m")),
        Handle("other", "other end", ("leg_m", "height_m"), at=0.0),
    )
    tuned_by: ClassVar[str] = "leg_m"
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    leg_m: float
    height_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("leg", 2, self.leg_m),)

    def structure(self) -> Structure:
        """One wire along x."""
        a, b = (-self.leg_m, 0.0, self.height_m), (self.leg_m, 0.0, self.height_m)
        return Structure([self.stock.wire(a, b)], Source(0, 0.5), ground=self.ground)


@dataclass(frozen=True, slots=True)
class SlopingDipole(Hung):
    """From a high end to a low one, fed in the middle."""

    lengths: ClassVar[tuple[str, ...]] = ("leg_m",)
    heights: ClassVar[tuple[str, ...]] = ("high_m", "low_m")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("high", "high end", ("high_m",), at=0.0),
        Handle("low", "low end", ("leg_m", "low_m")),
    )
    tuned_by: ClassVar[str] = "leg_m"
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    leg_m: float
    high_m: float
    low_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("leg", 2, self.leg_m),)

    def structure(self) -> Structure:
        """One wire falling towards +x."""
        fall = self.high_m - self.low_m
        if not abs(fall) < 2 * self.leg_m:
            raise refused("high_m", f"{self.high_m:.4g} m", "less above the low end than both legs are long")
        level = math.sqrt((2 * self.leg_m) ** 2 - fall**2)
        wire = self.stock.wire((0.0, 0.0, self.high_m), (level, 0.0, self.low_m))
        return Structure([wire], Source(0, 0.5), ground=self.ground)


@dataclass(frozen=True, slots=True)
class InvertedV(Hung):
    """Both legs fall from one support."""

    lengths: ClassVar[tuple[str, ...]] = ("leg_m",)
    heights: ClassVar[tuple[str, ...]] = ("apex_m",)
    others: ClassVar[tuple[str, ...]] = ("angle_deg",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("apex", "apex", ("apex_m",), at=0.0),
        Handle("end", "end", ("leg_m", "angle_deg")),
        Handle("other", "other end", ("leg_m", "angle_deg"), wire=1),
    )
    tuned_by: ClassVar[str] = "leg_m"
    leg_m: float
    apex_m: float
    angle_deg: float = 120.0
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("leg", 2, self.leg_m),)

    def structure(self) -> Structure:
        """Two wires from the apex, the angle between them."""
        if not 30 <= self.angle_deg <= 180:
            raise refused("angle_deg", self.angle_deg, "30 to 180 between the legs")
        half = math.radians(self.angle_deg / 2)
        out, low = self.leg_m * math.sin(half), self.apex_m - self.leg_m * math.cos(half)
        apex = (0.0, 0.0, self.apex_m)
        legs = [self.stock.wire(apex, (x, 0.0, low)) for x in (out, -out)]
        return Structure(legs, Source(0, 0.0), ground=self.ground)


@dataclass(frozen=True, slots=True)
class LinkedDipole(Hung):
    """Level, with an open link in each leg and the wire of longer bands beyond."""

    lengths: ClassVar[tuple[str, ...]] = ("leg_m", "beyond_m")
    heights: ClassVar[tuple[str, ...]] = ("height_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("end", "end", ("beyond_m", "height_m")),
        Handle("link", "link", ("leg_m",), load=1),
        Handle("other", "other end", ("beyond_m", "height_m"), at=0.0),
    )
    tuned_by: ClassVar[str] = "leg_m"
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    leg_m: float
    beyond_m: float
    height_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("leg to the link", 2, self.leg_m), WirePiece("beyond the link", 2, self.beyond_m))

    def structure(self) -> Structure:
        """One wire along x, a small capacitor at each link."""
        whole = self.leg_m + self.beyond_m
        wire = self.stock.wire((-whole, 0.0, self.height_m), (whole, 0.0, self.height_m))
        share = self.leg_m / whole / 2
        links = [Load(0, 0.5 + side * share, Capacitor(LINK_F)) for side in (-1, 1)]
        return Structure([wire], Source(0, 0.5), links, self.ground)


DIPOLE = AntennaKind(
    key="dipole",
    name="half-wave dipole, level",
    purpose="one band, two supports; the one that others are compared with",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="the coax at its middle and what the choke lets pass; sag",
    form="dipole",
    start=lambda f: Dipole(LEG * wave_m(f), usual_height_m(f)),
)
SLOPING_DIPOLE = AntennaKind(
    key="sloping-dipole",
    name="half-wave dipole, sloping",
    purpose="one band, one high support; sends more towards its low end",
    fed_by="1 : 1 balun or choke, the coax led off at right angles",
    feed_ohm=50.0,
    not_modelled="a metal mast beside it; the coax",
    form="dipole",
    start=lambda f: SlopingDipole(LEG * wave_m(f), 3.0 + 0.3 * wave_m(f), 3.0),
)
INVERTED_V = AntennaKind(
    key="inverted-v",
    name="half-wave dipole as an inverted V",
    purpose="one band, one support",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="the mast and the coax between the legs",
    form="dipole",
    start=lambda f: InvertedV(LEG * wave_m(f), 2.0 + usual_height_m(f)),
)
LINKED_DIPOLE = AntennaKind(
    key="linked-dipole",
    name="linked dipole, this band's links open",
    purpose="several bands, one at a time, by closing links",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="the links' insulators but for a picofarad across each; sag",
    form="dipole",
    start=lambda f: LinkedDipole(0.97 * LEG * wave_m(f), 0.5 * LEG * wave_m(f), usual_height_m(f)),
)
FIVE_EIGHTHS_DIPOLE = AntennaKind(
    key="five-eighths-dipole",
    name="centre-fed five eighths of a wave",
    purpose="one band, a little more broadside than a half-wave, where the span allows it",
    fed_by="a series capacitor and a shorted stub of coax, then a choke",
    feed_ohm=50.0,
    not_modelled="the coax parts at its middle; sag",
    form="long-dipole",
    start=lambda f: Dipole(0.5 * 0.612 * wave_m(f), usual_height_m(f)),
)
