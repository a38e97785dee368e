"""End-fed half-waves: with a counterpoise, or with the shield of the coax down to a choke."""

from dataclasses import dataclass
from typing import ClassVar, Literal

from yielding_coil.core.wire.geometry import GroundKind, Source, Wire
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

# The outside of 5 mm coax.
SHIELD_RADIUS_M = 0.002
# Between the wires of window line (common practice).
WINDOW_M = 0.02


FAR_AND_FEED = (
    Handle("far", "far end", ("wire_m", "far_m")),
    Handle("feed", "feedpoint", ("feed_m",), at=0.0),
)


class _FromItsEnd(Hung):
    """A wire from a feedpoint to its far end, each at a height of its own."""

    __slots__ = ()
    heights: ClassVar[tuple[str, ...]] = ("feed_m", "far_m")
    tuned_by: ClassVar[str] = "wire_m"
    spans: ClassVar[Literal["", "wire", "coax"]] = "wire"
    wire_m: float
    feed_m: float
    far_m: float

    def _far_end(self) -> tuple[float, float, float]:
        rise = self.far_m - self.feed_m
        if not abs(rise) < self.wire_m:
            accepted = f"less than the wire's {self.wire_m:.4g} m from the feed's height"
            raise refused("far_m", f"{self.far_m:.4g} m", accepted)
        return ((self.wire_m**2 - rise**2) ** 0.5, 0.0, self.far_m)


@dataclass(frozen=True, slots=True)
class EndFed(_FromItsEnd):
    """A half-wave or more from a feedpoint, and a counterpoise the other way."""

    lengths: ClassVar[tuple[str, ...]] = ("wire_m", "counterpoise_m")
    handles: ClassVar[tuple[Handle, ...]] = (
        *FAR_AND_FEED,
        Handle("counterpoise", "counterpoise's end", ("counterpoise_m",), wire=1),
    )
    wire_m: float
    counterpoise_m: float
    feed_m: float
    far_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire", 1, self.wire_m), WirePiece("counterpoise", 1, self.counterpoise_m))

    def structure(self) -> Structure:
        """The wire towards +x, the counterpoise level towards −x."""
        feed = (0.0, 0.0, self.feed_m)
        away = self._far_end()
        wires = [self.stock.wire(feed, away), self.stock.wire(feed, (-self.counterpoise_m, 0.0, self.feed_m))]
        return Structure(wires, Source(0, 0.0), ground=self.ground)


@dataclass(frozen=True, slots=True)
class EndFedOnShield(_FromItsEnd):
    """A half-wave or more from a feedpoint; the shield of the coax hangs down, a wire as far as the choke."""

    lengths: ClassVar[tuple[str, ...]] = ("wire_m", "shield_m")
    handles: ClassVar[tuple[Handle, ...]] = (
        *FAR_AND_FEED,
        Handle("choke", "choke", ("shield_m",), wire=1),
    )
    wire_m: float
    shield_m: float
    feed_m: float
    far_m: float
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire", 1, self.wire_m),)

    def structure(self) -> Structure:
        """The wire towards +x, the shield straight down."""
        if not self.shield_m < self.feed_m:
            raise refused("shield_m", f"{self.shield_m:.4g} m", f"less than the feed is high, {self.feed_m:.4g} m")
        feed = (0.0, 0.0, self.feed_m)
        wires = [
            self.stock.wire(feed, self._far_end()),
            Wire(feed, (0.0, 0.0, self.feed_m - self.shield_m), SHIELD_RADIUS_M),
        ]
        return Structure(wires, Source(0, 0.0), ground=self.ground)


@dataclass(frozen=True, slots=True)
class EndFedBeside(_FromItsEnd):
    """A half-wave or more from a feedpoint; a short one runs back beside it, as the other wire of window line."""

    lengths: ClassVar[tuple[str, ...]] = ("wire_m", "counterpoise_m")
    others: ClassVar[tuple[str, ...]] = ("apart_m",)
    handles: ClassVar[tuple[Handle, ...]] = (
        *FAR_AND_FEED,
        Handle("beside", "end of the short wire", ("counterpoise_m",), wire=2),
    )
    wire_m: float
    counterpoise_m: float
    feed_m: float
    far_m: float
    apart_m: float = WINDOW_M
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire", 1, self.wire_m), WirePiece("short one beside it", 1, self.counterpoise_m))

    def structure(self) -> Structure:
        """The wire towards +x, the short one below it, a short piece with the feed between their ends."""
        if not self.counterpoise_m < self.wire_m:
            accepted = f"less than the wire's {self.wire_m:.4g} m, beside which it runs"
            raise refused("counterpoise_m", f"{self.counterpoise_m:.4g} m", accepted)
        away = self._far_end()
        share = self.counterpoise_m / self.wire_m
        low = self.feed_m - self.apart_m
        feed, below = (0.0, 0.0, self.feed_m), (0.0, 0.0, low)
        end = (share * away[0], 0.0, low + share * (away[2] - self.feed_m))
        wires = [self.stock.wire(feed, away), self.stock.wire(feed, below), self.stock.wire(below, end)]
        return Structure(wires, Source(1, 0.0), ground=self.ground)


END_FED = AntennaKind(
    key="end-fed",
    name="end-fed half-wave with a counterpoise",
    purpose="a band and its harmonics from one end of the garden",
    fed_by="49 : 1 or 64 : 1 unun",
    feed_ohm=2450.0,
    not_modelled="what goes on along the coax; the unun's capacitance to ground",
    form="end-fed",
    start=lambda f: EndFed(0.473 * wave_m(f), 0.05 * wave_m(f), usual_height_m(f), usual_height_m(f)),
)
END_FED_ON_SHIELD = AntennaKind(
    key="end-fed-on-shield",
    name="end-fed half-wave, the shield down to a choke",
    purpose="a band and its harmonics without a counterpoise to hang",
    fed_by="49 : 1 or 64 : 1 unun, the choke further down",
    feed_ohm=2450.0,
    not_modelled="what the choke lets pass; the coax beyond it",
    form="end-fed",
    start=lambda f: EndFedOnShield(0.473 * wave_m(f), 0.05 * wave_m(f) + 1.0, usual_height_m(f), usual_height_m(f)),
)
END_FED_BESIDE = AntennaKind(
    key="end-fed-beside",
    name="end-fed half-wave, a short wire beside its foot",
    purpose="a band and its harmonics with no counterpoise in the way: window line, its other wire cut short",
    fed_by="49 : 1 or 64 : 1 unun",
    feed_ohm=2450.0,
    not_modelled="the webs between the two wires, which slow that part by some 8 %; the coax",
    form="end-fed",
    start=lambda f: EndFedBeside(0.473 * wave_m(f), 0.05 * wave_m(f), usual_height_m(f), usual_height_m(f)),
)
ANY_LENGTH = AntennaKind(
    key="any-length",
    name="wire of any length through 9 : 1, with a tuner",
    purpose="many bands from one wire that is a half-wave on none of them",
    fed_by="9 : 1 unun, a tuner at the radio",
    feed_ohm=450.0,
    not_modelled="what goes on along the coax; the unun's capacitance to ground",
    form="any-length",
    start=lambda f: EndFed(0.36 * wave_m(f), 0.05 * wave_m(f), usual_height_m(f), usual_height_m(f)),
)
