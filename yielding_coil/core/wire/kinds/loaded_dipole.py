"""A short dipole with a coil in each leg."""

from dataclasses import dataclass
from typing import ClassVar, Literal

from yielding_coil.core.parts import Inductor
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
from yielding_coil.core.wire.kinds.loading import line_estimate_h
from yielding_coil.core.wire.kinds.vertical import OWN_F
from yielding_coil.core.wire.structure import Structure


@dataclass(frozen=True, slots=True)
class LoadedDipole(Hung):
    """Level; the coils stand at a share of each leg, 0 next to the feed."""

    lengths: ClassVar[tuple[str, ...]] = ("leg_m",)
    heights: ClassVar[tuple[str, ...]] = ("height_m",)
    others: ClassVar[tuple[str, ...]] = ("inductance_h", "coil_at", "q")
    handles: ClassVar[tuple[Handle, ...]] = (
        Handle("end", "end", ("leg_m", "height_m")),
        Handle("coil", "coil", ("coil_at",), load=1),
        Handle("other", "other end", ("leg_m", "height_m"), at=0.0),
    )
    tuned_by: ClassVar[str] = "inductance_h"
    spans: ClassVar[Literal["", "wire", "coax"]] = "coax"
    leg_m: float
    height_m: float
    inductance_h: float
    coil_at: float = 0.5
    q: float = 200.0
    own_f: float = OWN_F
    stock: Stock = BARE
    ground: GroundKind = AVERAGE_GROUND

    def pieces(self) -> tuple[WirePiece, ...]:
        """What to cut: of each leg above the coil, and below it."""
        below = self.coil_at * self.leg_m
        return (WirePiece("leg above the coil", 2, self.leg_m - below), WirePiece("leg below the coil", 2, below))

    def shortened(self, by_m: float) -> "LoadedDipole":
        """Wire is taken off the ends: the coils stay where they are."""
        leg = self.leg_m - by_m
        return self.told(leg_m=leg, coil_at=self.coil_at * self.leg_m / leg)

    def structure(self) -> Structure:
        """One wire along x, a coil on each side."""
        if not 0.05 <= self.coil_at <= 0.95:
            raise refused("coil_at", self.coil_at, "0.05 to 0.95 of a leg")
        wire = self.stock.wire((-self.leg_m, 0.0, self.height_m), (self.leg_m, 0.0, self.height_m))
        coil = Inductor(self.inductance_h, self.q, self_capacitance_f=self.own_f)
        loads = [Load(0, 0.5 + side * self.coil_at / 2, coil) for side in (-1, 1)]
        return Structure([wire], Source(0, 0.5), loads, self.ground)


def _start(frequency_hz: float) -> LoadedDipole:
    half = 0.07 * wave_m(frequency_hz)
    coil = line_estimate_h(frequency_hz, half, half, BARE.radius_m, OWN_F)
    return LoadedDipole(2 * half, usual_height_m(frequency_hz), coil)


LOADED_DIPOLE = AntennaKind(
    key="loaded-dipole",
    name="short dipole with two coils",
    purpose="a low band between two near supports",
    fed_by="1 : 1 balun or choke",
    feed_ohm=50.0,
    not_modelled="the coils' size; the coax at its middle",
    form="loaded-dipole",
    start=_start,
)
