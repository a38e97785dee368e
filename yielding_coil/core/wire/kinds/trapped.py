"""Two bands from one wire: a trap in each leg, or in a vertical."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar, Literal, Self

from yielding_coil.core.errors import NotMatchableError
from yielding_coil.core.trap import Trap, TrappedLeg, coil_for, leg_for
from yielding_coil.core.wire.geometry import Ground, GroundKind, Load, Source
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    BARE,
    AntennaKind,
    Handle,
    Hung,
    OnRadials,
    Stock,
    Stray,
    WirePiece,
    usual_height_m,
)
from yielding_coil.core.wire.structure import Structure

# A trap's capacitor has so many ohms on its band (common practice: 150 to 200), its coil such a Q.
TRAP_OHM, TRAP_Q = 175.0, 200.0
# From so far under the trap's own frequency on, the wire inside it is what dips.
INNER_FROM = 0.93
# A trap as it is wound, closed and measured (common practice), two standard deviations.
TRAP_SPREAD = 0.01
# Wire over ground is a little shorter than the line estimate, which knows no end effect (from memory).
END_EFFECT = 0.97


class Trapped(Hung):
    """What has traps: where they resonate, and of what they are made."""

    __slots__ = ()
    trap_hz: float
    trap_f: float
    q: float

    @property
    def trap(self) -> Trap:
        """One of them."""
        return Trap(coil_for(self.trap_f, self.trap_hz), self.trap_f, self.q)

    def strays(self) -> tuple[Stray, ...]:
        """And where its traps resonate."""
        return (*super().strays(), Stray("trap", ("trap_hz",), TRAP_SPREAD))

    def band_of(self, frequency_hz: float) -> int:
        """The upper band ends at the trap."""
        return 0 if frequency_hz >= INNER_FROM * self.trap_hz else 1


@dataclass(frozen=True, slots=True)
class TrapDipole(Trapped):
    """Level, fed in the middle, a trap in each leg and wire beyond it for the lower band."""

    lengths: ClassVar[tuple[str, ...]] = ("inner_m", "outer_m")
    heights: ClassVar[tuple[str, ...]] = ("height_m",)
    others: ClassVar[tuple[str, ...]] = ("trap_hz", "trap_f", "q")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("end", "end", ("outer_m", "height_m")),
        Handle("trap", "trap", ("inner_m",), load=1),
        Handle("other", "other end", ("outer_m", "height_m"), at=0.0),
    )
    tuned_by: ClassVar[str] = "outer_m"
    in_turn: ClassVar[tuple[str, ...]] = ("inner_m", "outer_m")
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    inner_m: float
    outer_m: float
    height_m: float
    trap_hz: float
    trap_f: float
    q: float = TRAP_Q
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    @property
    def trimmed_m(self) -> float:
        """A leg with all that is in it."""
        return self.inner_m + self.outer_m

    @property
    def reaches_m(self) -> tuple[float, ...]:
        """To the trap, and to the end."""
        return (self.inner_m, self.inner_m + self.outer_m)

    def _reaching(self, reach_m: Sequence[float]) -> Self:
        return self.told(inner_m=reach_m[0], outer_m=reach_m[1] - reach_m[0])

    def shortened(self, by_m: float) -> Self:
        """Wire is taken off the ends."""
        return self.told(outer_m=self.outer_m - by_m)

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("leg to the trap", 2, self.inner_m), WirePiece("piece beyond the trap", 2, self.outer_m))

    def structure(self) -> Structure:
        """One wire along x, a trap on each side."""
        whole = self.trimmed_m
        wire = self.stock.wire((-whole, 0.0, self.height_m), (whole, 0.0, self.height_m))
        share, trap = self.inner_m / whole / 2, self.trap
        loads = [Load(0, 0.5 + side * share, trap) for side in (-1, 1)]
        return Structure([wire], Source(0, 0.5), loads, self.ground)


class _TrappedOnRadials(OnRadials, Trapped):
    __slots__ = ()


@dataclass(frozen=True, slots=True)
class TrapVertical(_TrappedOnRadials):
    """On radials, a trap and wire above it for the lower band."""

    lengths: ClassVar[tuple[str, ...]] = ("under_m", "over_m")
    others: ClassVar[tuple[str, ...]] = ("trap_hz", "trap_f", "q", "radials")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("top", "top", ("over_m",)),
        Handle("trap", "trap", ("under_m",), load=1),
    )
    tuned_by: ClassVar[str] = "over_m"
    in_turn: ClassVar[tuple[str, ...]] = ("under_m", "over_m")
    under_m: float
    over_m: float
    trap_hz: float
    trap_f: float
    q: float = TRAP_Q
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE
    soil: Ground = AVERAGE_GROUND

    @property
    def trimmed_m(self) -> float:
        """All of it; what is trimmed on the lower band is its top."""
        return self.under_m + self.over_m

    @property
    def reaches_m(self) -> tuple[float, ...]:
        """To the trap, and to the top."""
        return (self.under_m, self.under_m + self.over_m)

    def _reaching(self, reach_m: Sequence[float]) -> Self:
        return self.told(under_m=reach_m[0], over_m=reach_m[1] - reach_m[0])

    def shortened(self, by_m: float) -> Self:
        """Wire is taken off the top."""
        return self.told(over_m=self.over_m - by_m)

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire below the trap", 1, self.under_m), WirePiece("wire above the trap", 1, self.over_m))

    def structure(self) -> Structure:
        """One wire from the ground up, the trap in it."""
        whole = self.trimmed_m
        wire = self.stock.wire((0.0, 0.0, 0.0), (0.0, 0.0, whole))
        loads = [self.earth, Load(0, self.under_m / whole, self.trap)]
        return Structure([wire], Source(0, 0.0), loads, "perfect")


def _leg(high_hz: float, low_hz: float, legs: int) -> TrappedLeg:
    """By the line estimate, with a usual trap on the upper band.

    Bands an octave and more apart may leave no length with such a trap: then with a smaller coil.
    """
    for ohm in (TRAP_OHM, TRAP_OHM / 2, TRAP_OHM / 4, TRAP_OHM / 8):
        farad = 1 / (2 * math.pi * high_hz * ohm)
        try:
            return leg_for(Trap(coil_for(farad, high_hz), farad, TRAP_Q), high_hz, low_hz, BARE.radius_m, legs)
        except NotMatchableError:
            continue
    raise NotMatchableError(
        f"no trap serves {high_hz / 1e6:.4g} and {low_hz / 1e6:.4g} MHz", accepted="two bands that lie nearer"
    )


def _dipole(high_hz: float, low_hz: float) -> TrapDipole:
    leg = _leg(high_hz, low_hz, 2)
    return TrapDipole(
        END_EFFECT * leg.inner_m,
        END_EFFECT * leg.outer_m,
        usual_height_m(low_hz),
        high_hz,
        float(leg.trap.capacitance_f),
    )


def _vertical(high_hz: float, low_hz: float) -> TrapVertical:
    leg = _leg(high_hz, low_hz, 1)
    return TrapVertical(END_EFFECT * leg.inner_m, END_EFFECT * leg.outer_m, high_hz, float(leg.trap.capacitance_f))


# One band alone is the lower of two.
UPPER = 1.25

TRAP_DIPOLE = AntennaKind(
    key="trap-dipole",
    name="trap dipole",
    purpose="two bands without a walk, between two supports",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="the traps' size and housing; the coax at its middle; sag",
    form="trap-dipole",
    start=lambda f: _dipole(UPPER * f, f),
    start_for=_dipole,
)
TRAP_VERTICAL = AntennaKind(
    key="trap-vertical",
    name="trap vertical on radials",
    purpose="two bands on one pole, low angles",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="the trap's size and housing; what radials lose but by a table",
    form="trap-vertical",
    start=lambda f: _vertical(UPPER * f, f),
    start_for=_vertical,
)
