"""Verticals: on the ground with radials, raised with their own, loaded, and five eighths of a wave."""

import contextlib
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.wire.geometry import Ground, GroundKind, Load, Source
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
from yielding_coil.core.wire.kinds.loading import line_estimate_h
from yielding_coil.core.wire.structure import Structure

# Radials need not touch: so far above the ground they are wires (practice).
LOWEST_BASE_M = 0.3
# Across an air coil of some centimetres (from memory).
OWN_F = 1.5e-12
# From so much of a wave on what stands below a coil serves a band by itself.
QUARTER_FROM = 0.2
# A coil so large parts the wire above it (33 µH at 14.2 MHz: practice); longer pieces above it ask for less coil.
ISOLATES_OHM = 2000.0
UPPER_SHARES = (0.6, 0.5, 0.4, 0.3, 0.237, 0.2, 0.16, 0.12, 0.08)


@dataclass(frozen=True, slots=True)
class Vertical(OnRadials):
    """Of any length."""

    lengths: ClassVar[tuple[str, ...]] = ("height_m",)
    others: ClassVar[tuple[str, ...]] = ("radials",)
    handles: ClassVar[tuple[Handle, ...]] = (Handle("top", "top", ("height_m",)),)
    tuned_by: ClassVar[str] = "height_m"
    height_m: float
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE
    soil: Ground = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire", 1, self.height_m),)

    def structure(self) -> Structure:
        """One wire from the ground up."""
        wire = self.stock.wire((0.0, 0.0, 0.0), (0.0, 0.0, self.height_m))
        return Structure([wire], Source(0, 0.0), [self.earth], "perfect")


@dataclass(frozen=True, slots=True)
class RaisedVertical(Hung):
    """With two or more radials of its own, level or drooping."""

    lengths: ClassVar[tuple[str, ...]] = ("height_m", "radial_m")
    heights: ClassVar[tuple[str, ...]] = ("base_m",)
    others: ClassVar[tuple[str, ...]] = ("radials", "droop_deg")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("top", "top", ("height_m",)),
        Handle("base", "base", ("base_m",), at=0.0),
        Handle("radial", "a radial's end", ("radial_m", "droop_deg"), wire=1),
    )
    tuned_by: ClassVar[str] = "height_m"
    height_m: float
    radial_m: float
    base_m: float
    radials: int = 4
    droop_deg: float = 45.0
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (WirePiece("wire", 1, self.height_m), WirePiece("radial", self.radials, self.radial_m))

    def structure(self) -> Structure:
        """One wire up from the base, the others from it outwards."""
        if not 2 <= self.radials <= 8:
            raise refused("radials", self.radials, "2 to 8 raised ones")
        if not 0 <= self.droop_deg <= 85:
            raise refused("droop_deg", self.droop_deg, "0 (level) to 85")
        droop = math.radians(self.droop_deg)
        low, out = self.base_m - self.radial_m * math.sin(droop), self.radial_m * math.cos(droop)
        if low < LOWEST_BASE_M:
            raise refused(
                "base_m",
                f"{self.base_m:.4g} m: the radials' ends are {low:.3g} m high",
                "higher, or with less droop",
            )
        base = (0.0, 0.0, self.base_m)
        turns = [2 * math.pi * i / self.radials for i in range(self.radials)]
        wires = [self.stock.wire(base, (0.0, 0.0, self.base_m + self.height_m))]
        wires += [self.stock.wire(base, (out * math.cos(t), out * math.sin(t), low)) for t in turns]
        return Structure(wires, Source(0, 0.0), ground=self.ground)


@dataclass(frozen=True, slots=True)
class LoadedVertical(OnRadials):
    """A short one with a coil at its base, between, or near its top."""

    lengths: ClassVar[tuple[str, ...]] = ("height_m",)
    others: ClassVar[tuple[str, ...]] = ("inductance_h", "coil_at", "q", "radials")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("top", "top", ("height_m",)),
        Handle("coil", "coil", ("coil_at",), load=1),
    )
    tuned_by: ClassVar[str] = "inductance_h"
    height_m: float
    inductance_h: float
    coil_at: float = 0.0
    q: float = 200.0
    own_f: float = OWN_F
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE
    soil: Ground = AVERAGE_GROUND

    def __post_init__(self) -> None:
        OnRadials.__post_init__(self)
        if not 0 <= self.coil_at <= 0.95:
            raise refused("coil_at", self.coil_at, "0 (the base) to 0.95 of the height")

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut: above the coil, and below it."""
        below = self.coil_at * self.height_m
        above = WirePiece("wire above the coil", 1, self.height_m - below)
        return (above, WirePiece("wire below the coil", 1, below)) if below > 0 else (above,)

    def shortened(self, by_m: float) -> "LoadedVertical":
        """Wire is taken off the top: the coil stays where it is."""
        height = self.height_m - by_m
        return self.told(height_m=height, coil_at=self.coil_at * self.height_m / height)

    def structure(self) -> Structure:
        """One wire from the ground up, the coil in it."""
        wire = self.stock.wire((0.0, 0.0, 0.0), (0.0, 0.0, self.height_m))
        coil = Load(0, self.coil_at, Inductor(self.inductance_h, self.q, self_capacitance_f=self.own_f))
        return Structure([wire], Source(0, 0.0), [self.earth, coil], "perfect")


@dataclass(frozen=True, slots=True)
class CoilIsolatedVertical(OnRadials):
    """A quarter-wave of the upper band, a coil that holds it apart there, and wire above it for the lower band."""

    lengths: ClassVar[tuple[str, ...]] = ("upper_m", "lower_m")
    others: ClassVar[tuple[str, ...]] = ("inductance_h", "q", "radials")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("top", "top", ("upper_m",)),
        Handle("coil", "coil", ("lower_m",), load=1),
    )
    tuned_by: ClassVar[str] = "upper_m"
    in_turn: ClassVar[tuple[str, ...]] = ("lower_m", "upper_m")
    lower_m: float
    upper_m: float
    inductance_h: float
    q: float = 200.0
    own_f: float = OWN_F
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE
    soil: Ground = AVERAGE_GROUND

    @property
    def trimmed_m(self) -> float:
        """All of it; what is trimmed is its top."""
        return self.lower_m + self.upper_m

    @property
    def reaches_m(self) -> tuple[float, ...]:
        """To the coil, and to the top."""
        return (self.lower_m, self.lower_m + self.upper_m)

    def _reaching(self, reach_m: Sequence[float]) -> "CoilIsolatedVertical":
        return self.told(lower_m=reach_m[0], upper_m=reach_m[1] - reach_m[0])

    def band_of(self, frequency_hz: float) -> int:
        """The upper band is that on which the wire below the coil is nearly a quarter-wave."""
        return 0 if self.lower_m > QUARTER_FROM * wave_m(frequency_hz) else 1

    def shortened(self, by_m: float) -> "CoilIsolatedVertical":
        """Wire is taken off the top."""
        return self.told(upper_m=self.upper_m - by_m)

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut."""
        return (
            WirePiece("wire below the coil", 1, self.lower_m),
            WirePiece("wire above the coil", 1, self.upper_m),
        )

    def structure(self) -> Structure:
        """One wire from the ground up, the coil in it."""
        whole = self.lower_m + self.upper_m
        wire = self.stock.wire((0.0, 0.0, 0.0), (0.0, 0.0, whole))
        coil = Inductor(self.inductance_h, self.q, self_capacitance_f=self.own_f)
        return Structure(
            [wire],
            Source(0, 0.0),
            [self.earth, Load(0, self.lower_m / whole, coil)],
            "perfect",
        )


def _loaded(frequency_hz: float) -> LoadedVertical:
    half = 0.06 * wave_m(frequency_hz)
    return LoadedVertical(2 * half, line_estimate_h(frequency_hz, half, half, BARE.radius_m, OWN_F), 0.5)


def _isolated(frequency_hz: float) -> CoilIsolatedVertical:
    lower, upper = 0.128 * wave_m(frequency_hz), 0.0303 * wave_m(frequency_hz)
    coil = line_estimate_h(frequency_hz, lower, upper, BARE.radius_m, OWN_F)
    return CoilIsolatedVertical(lower, upper, coil)


def _isolated_for(high_hz: float, low_hz: float) -> CoilIsolatedVertical:
    """A coil that parts its upper wire on the upper band, and the wire above it that the lower one asks for."""
    lower = 0.256 * wave_m(high_hz)
    for share in UPPER_SHARES:
        with contextlib.suppress(OutOfDomainError):
            upper = share * lower
            coil = line_estimate_h(low_hz, lower, upper, BARE.radius_m, OWN_F)
            if 2 * math.pi * high_hz * coil > ISOLATES_OHM:
                return CoilIsolatedVertical(lower, upper, coil)
    raise refused(
        "bands", f"{high_hz / 1e6:.4g} and {low_hz / 1e6:.4g} MHz", "further apart, for a coil to part them"
    )


VERTICAL = AntennaKind(
    key="vertical",
    name="quarter-wave vertical on radials",
    purpose="one band, low angles, one pole",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="what radials lose but by a table; a metal pole beside the wire",
    form="vertical",
    start=lambda f: Vertical(0.242 * wave_m(f)),
)
FIVE_EIGHTHS = AntennaKind(
    key="five-eighths",
    name="five eighths of a wave on radials",
    purpose="most towards the horizon for one band, where a pole so tall stands",
    fed_by="LC match at its base",
    feed_ohm=50.0,
    not_modelled="what radials lose but by a table, and they must be many; a metal pole beside the wire",
    form="five-eighths",
    start=lambda f: Vertical(0.607 * wave_m(f), radials=32),
)
RAISED_VERTICAL = AntennaKind(
    key="raised-vertical",
    name="quarter-wave vertical with raised radials",
    purpose="one band, low angles; two to four wires in place of dozens in the lawn",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="the mast and the coax under it",
    form="vertical",
    start=lambda f: RaisedVertical(0.24 * wave_m(f), 0.24 * wave_m(f), 0.5 + 0.19 * wave_m(f)),
)
LOADED_VERTICAL = AntennaKind(
    key="loaded-vertical",
    name="short vertical with a coil",
    purpose="a low band on a short pole",
    fed_by="coax and a choke, or a small step-up",
    feed_ohm=25.0,
    not_modelled="the coil's size, its field on the wire; what radials lose but by a table",
    form="loaded-vertical",
    start=_loaded,
)
COIL_ISOLATED_VERTICAL = AntennaKind(
    key="coil-isolated-vertical",
    name="vertical for two bands, one coil apart",
    purpose="a band and the one of half its frequency on one short pole",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="the coil's size; what radials lose but by a table",
    form="trap-vertical",
    start=_isolated,
    start_for=_isolated_for,
)
