"""Verticals: on the ground with radials, raised with their own, loaded, and five eighths of a wave."""

import math
from dataclasses import dataclass
from typing import ClassVar

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.wire.geometry import GroundKind, Load, Source
from yielding_coil.core.wire.kinds.kind import (
    AVERAGE_GROUND,
    BARE,
    AntennaKind,
    Hung,
    OnRadials,
    Stock,
    wave_m,
)
from yielding_coil.core.wire.kinds.loading import line_estimate_h
from yielding_coil.core.wire.structure import Structure

# Radials need not touch: so far above the ground they are wires (practice).
LOWEST_BASE_M = 0.3
# Across an air coil of some centimetres (from memory).
OWN_F = 1.5e-12


@dataclass(frozen=True, slots=True)
class Vertical(OnRadials):
    """Of any length."""

    lengths: ClassVar[tuple[str, ...]] = ("height_m",)
    height_m: float
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE

    def structure(self) -> Structure:
        """One wire from the ground up."""
        wire = self.stock.wire((0.0, 0.0, 0.0), (0.0, 0.0, self.height_m))
        return Structure([wire], Source(0, 0.0), [self.earth], "perfect")


@dataclass(frozen=True, slots=True)
class RaisedVertical(Hung):
    """With two or more radials of its own, level or drooping."""

    lengths: ClassVar[tuple[str, ...]] = ("height_m", "radial_m")
    heights: ClassVar[tuple[str, ...]] = ("base_m",)
    height_m: float
    radial_m: float
    base_m: float
    radials: int = 4
    droop_deg: float = 45.0
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def structure(self) -> Structure:
        """One wire up from the base, the others from it outwards."""
        if not 2 <= self.radials <= 8:
            raise OutOfDomainError("radials", self.radials, "2 to 8 raised ones")
        if not 0 <= self.droop_deg <= 85:
            raise OutOfDomainError("droop_deg", self.droop_deg, "0 (level) to 85")
        droop = math.radians(self.droop_deg)
        low, out = self.base_m - self.radial_m * math.sin(droop), self.radial_m * math.cos(droop)
        if low < LOWEST_BASE_M:
            raise OutOfDomainError(
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
    height_m: float
    inductance_h: float
    coil_at: float = 0.0
    q: float = 200.0
    own_f: float = OWN_F
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE

    def __post_init__(self) -> None:
        OnRadials.__post_init__(self)
        if not 0 <= self.coil_at <= 0.95:
            raise OutOfDomainError("coil_at", self.coil_at, "0 (the base) to 0.95 of the height")

    def structure(self) -> Structure:
        """One wire from the ground up, the coil in it."""
        wire = self.stock.wire((0.0, 0.0, 0.0), (0.0, 0.0, self.height_m))
        coil = Load(0, self.coil_at, Inductor(self.inductance_h, self.q, self_capacitance_f=self.own_f))
        return Structure([wire], Source(0, 0.0), [self.earth, coil], "perfect")


@dataclass(frozen=True, slots=True)
class CoilIsolatedVertical(OnRadials):
    """A quarter-wave of the upper band, a coil that holds it apart there, and wire above it for the lower band."""

    lengths: ClassVar[tuple[str, ...]] = ("lower_m", "upper_m")
    lower_m: float
    upper_m: float
    inductance_h: float
    q: float = 200.0
    own_f: float = OWN_F
    radials: int = 16
    ground_ohm: float | None = None
    stock: Stock = BARE

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


VERTICAL = AntennaKind(
    key="vertical",
    name="quarter-wave vertical on radials",
    purpose="one band, low angles, one pole",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="what radials lose but by a table; a metal pole beside the wire",
    start=lambda f: Vertical(0.242 * wave_m(f)),
)
FIVE_EIGHTHS = AntennaKind(
    key="five-eighths",
    name="five eighths of a wave on radials",
    purpose="most towards the horizon for one band, where a pole so tall stands",
    fed_by="LC match at its base",
    feed_ohm=50.0,
    not_modelled="what radials lose but by a table, and they must be many; a metal pole beside the wire",
    start=lambda f: Vertical(0.607 * wave_m(f), radials=32),
)
RAISED_VERTICAL = AntennaKind(
    key="raised-vertical",
    name="quarter-wave vertical with raised radials",
    purpose="one band, low angles; two to four wires in place of dozens in the lawn",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="the mast and the coax under it",
    start=lambda f: RaisedVertical(0.24 * wave_m(f), 0.24 * wave_m(f), 0.5 + 0.19 * wave_m(f)),
)
LOADED_VERTICAL = AntennaKind(
    key="loaded-vertical",
    name="short vertical with a coil",
    purpose="a low band on a short pole",
    fed_by="coax and a choke, or a small step-up",
    feed_ohm=25.0,
    not_modelled="the coil's size, its field on the wire; what radials lose but by a table",
    start=_loaded,
)
COIL_ISOLATED_VERTICAL = AntennaKind(
    key="coil-isolated-vertical",
    name="vertical for two bands, one coil apart",
    purpose="a band and the one of half its frequency on one short pole",
    fed_by="coax and a choke",
    feed_ohm=50.0,
    not_modelled="the coil's size; what radials lose but by a table",
    start=_isolated,
)
