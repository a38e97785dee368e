"""Where the watts of a wound thing go on every target, and how warm it gets by mode."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple, Protocol

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.element import Part
from yielding_coil.core.ring import Ring, flux_guide_t
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.system import Station, System
from yielding_coil.core.target import Target
from yielding_coil.core.winding import heat

# Frequencies on each target at which heat and voltage are looked at.
TARGET_POINTS = 9
# Copper's density and heat (CRC Handbook of Chemistry and Physics, from memory).
COPPER_KG_PER_M3, COPPER_J_PER_KG_K = 8960.0, 385.0

HeatVerdict = Literal["cool", "warm", "hot"]


class ThermalBody(NamedTuple):
    """Surface that gives heat off, and heat that it takes for a degree."""

    surface_m2: float
    heat_j_per_k: float

    @property
    def bears_w(self) -> float:
        """Averaged loss with which it gets as hot as may still be called safe."""
        return heat.loss_w(heat.HOT_C, self.surface_m2)


class SplitLoss(NamedTuple):
    """Watts in core and copper at one watt into the design, and the peak voltage that magnetises; shapes (n,)."""

    core_w: Real
    copper_w: Real
    core_v: Real


@dataclass(frozen=True, slots=True)
class TemperatureRise:
    """How warm it gets in one mode at the power set, how soon, and the power that keeps it within 40 °C."""

    mode: str
    duty: float
    rise_c: float
    settles_s: float | None
    highest_power_w: float | None
    verdict: HeatVerdict


@dataclass(frozen=True, slots=True)
class BandLosses:
    """On one target, at its worst place and full power: what goes where, flux, voltage, and heat by mode.

    `swr` is the worst below it on this target, where that is known; `swr_limit` its limit.
    """

    label: str
    at_hz: float
    core_w: float
    copper_w: float
    loss_db: float
    swr_limit: float
    rises: tuple[TemperatureRise, ...]
    flux_t: float | None = None
    flux_guide_t: float | None = None
    swr: float | None = None
    voltage_v: float | None = None
    current_a: float | None = None


class InCascade(Protocol):
    """A wound thing that stands in a cascade, by what it heats."""

    @property
    def key(self) -> str: ...

    def body(self, center_hz: float) -> ThermalBody: ...

    def split_loss(self, part: Part, frequency_hz: Real, above: Station, station: Station) -> SplitLoss: ...

    def flux_t(self, part: Part, frequency_hz: float, core_v: float) -> float | None: ...


def ring_body(ring: Ring) -> ThermalBody:
    """A ring, or a stack of them."""
    return ThermalBody(ring.surface_m2, ring.heat_j_per_k)


def coil_body(wound: Solenoid) -> ThermalBody:
    """A coil on air: the surface of its winding as a tube, the metal of its wire."""
    metal = math.pi * wound.wire_diameter_m**2 / 4 * wound.wire_length_m
    return ThermalBody(math.pi * wound.diameter_m * wound.length_m, metal * COPPER_KG_PER_M3 * COPPER_J_PER_KG_K)


def heat_verdict(rise_c: float) -> HeatVerdict:
    """What a rise over the air means to a hand.

    >>> heat_verdict(30.0), heat_verdict(55.0), heat_verdict(80.0)
    ('cool', 'warm', 'hot')
    """
    return "cool" if rise_c <= heat.WARM_C else "warm" if rise_c <= heat.HOT_C else "hot"


def temperature_rises(
    loss_w: float, power_w: float, body: ThermalBody, duties: Mapping[str, float]
) -> tuple[TemperatureRise, ...]:
    """How warm a loss at full power makes a body, by mode.

    Args:
        loss_w: at peak envelope power, W; one that is not finite counts as none.
        duties: share of it that heats, by mode.
    """
    return tuple(_rise(mode, duty, loss_w, power_w, body) for mode, duty in duties.items())


def _rise(mode: str, duty: float, loss_w: float, power_w: float, body: ThermalBody) -> TemperatureRise:
    mean = loss_w * duty if math.isfinite(loss_w) else 0.0
    rise = heat.warming_c(mean, body.surface_m2)
    return TemperatureRise(
        mode,
        duty,
        rise,
        heat.settling_s(mean, body.surface_m2, body.heat_j_per_k),
        heat.highest_power_w(power_w, rise) if power_w > 0 else None,
        heat_verdict(rise),
    )


def band_losses(
    element: InCascade,
    system: System,
    targets: Sequence[Target],
    power_w: float,
    duties: Mapping[str, float],
    center_hz: float,
) -> tuple[BandLosses, ...]:
    """On every target, at the frequency where it warms most.

    Args:
        element: an element of the system, by its key.
        center_hz: where values of parts are meant.

    Raises:
        OutOfDomainError: a target lies outside what is known of the antenna.
    """
    index = system.index(element.key)
    part, body = system.elements[index].part, element.body(center_hz)
    found = []
    for target in targets:
        f = np.linspace(target.low_hz, target.high_hz, TARGET_POINTS)
        # At one watt, so that a power of nothing is a power too.
        stations = system.stations(f, 1.0)
        above, station = stations[index], stations[index + 1]
        split = element.split_loss(part, f, above, station)
        both = split.core_w + split.copper_w
        k = int(np.nanargmax(np.where(np.isfinite(both), both, -1)))
        into, loss = float(above.power_w[k]), float(both[k]) * power_w
        flux = element.flux_t(part, float(f[k]), float(split.core_v[k]))
        found.append(
            BandLosses(
                label=target.label,
                at_hz=float(f[k]),
                core_w=float(split.core_w[k]) * power_w,
                copper_w=float(split.copper_w[k]) * power_w,
                loss_db=10 * math.log10((into + float(station.loss_w[k])) / into) if into > 0 else 0.0,
                flux_t=None if flux is None else flux * math.sqrt(power_w),
                flux_guide_t=None if flux is None else float(flux_guide_t(f[k])),
                swr=float(np.nanmax(station.swr)),
                swr_limit=target.swr_limit,
                voltage_v=float(np.nanmax(station.peak_voltage_v)) * math.sqrt(power_w),
                current_a=float(np.nanmax(station.peak_current_a)) * math.sqrt(power_w),
                rises=temperature_rises(loss, power_w, body, duties),
            )
        )
    return tuple(found)
