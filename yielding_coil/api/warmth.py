"""Where the watts of a wound thing go on every target, and how warm it gets by mode."""

import math
from typing import Literal

import numpy as np
from pydantic import BaseModel

from yielding_coil import data
from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import number
from yielding_coil.core.arrays import Real
from yielding_coil.core.ring import Ring, RingCoil, flux_guide_t
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.system import Station, System
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import heat
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import DesignContent, InCascade

# Frequencies on each target at which heat and voltage are looked at.
TARGET_POINTS = 9
COPPER_KG_PER_M3, COPPER_J_PER_KG_K = 8960.0, 385.0
# Below this at the winding nobody is burnt.
VOLTAGE_TOLD_V = 50.0


class RiseOut(BaseModel):
    """How warm it gets in one mode at the power set, how soon, and the power that keeps it within 40 °C."""

    mode: str
    duty: float
    rise_c: float
    settles_s: float | None
    highest_power_w: float | None
    verdict: Literal["cool", "warm", "hot"]


class HeatOut(BaseModel):
    """On one target, at its worst place and full power: what goes where, flux, voltage, and heat by mode."""

    label: str
    at_hz: float
    core_w: float
    copper_w: float
    loss_db: float
    flux_t: float | None
    flux_guide_t: float | None
    # The worst SWR below it on this target, and its limit there.
    swr: float | None
    swr_limit: float
    voltage_v: float | None
    current_a: float | None
    rises: list[RiseOut]


def heats_of(content: DesignContent, system: System, element: InCascade, power_w: float) -> list[HeatOut]:
    """On every target, at the frequency where it warms most."""
    index = content.elements.index(element)
    part = system.elements[index].part
    body = (
        coil_body(element.solenoid(element.turns(content.center_hz)))
        if isinstance(element, Coil)
        else ring_body(element.core.ring)
    )
    found = []
    for target in content.core_targets():
        f = np.linspace(target.low_hz, target.high_hz, TARGET_POINTS)
        # At one watt, so that a power of nothing is a power too.
        stations = system.stations(f, 1.0)
        above, station = stations[index], stations[index + 1]
        core_w, copper_w, core_v = _where(part, f, above, station)
        k = int(np.nanargmax(np.where(np.isfinite(core_w + copper_w), core_w + copper_w, -1)))
        loss = float(core_w[k] + copper_w[k]) * power_w
        into = float(above.power_w[k])
        flux = part.flux_t(f[k], core_v[k]) * math.sqrt(power_w) if isinstance(part, Transformer) else None
        if isinstance(part, RingCoil):
            flux = part.ring.flux_t(f[k], part.turns, core_v[k]) * math.sqrt(power_w)
        found.append(
            HeatOut(
                label=target.label,
                at_hz=float(f[k]),
                core_w=float(core_w[k]) * power_w,
                copper_w=float(copper_w[k]) * power_w,
                loss_db=10 * math.log10((into + float(station.loss_w[k])) / into) if into > 0 else 0.0,
                flux_t=None if flux is None else number(flux),
                flux_guide_t=None if flux is None else float(flux_guide_t(f[k])),
                swr=number(np.nanmax(station.swr)),
                swr_limit=target.swr_limit,
                voltage_v=number(np.nanmax(station.peak_voltage_v) * math.sqrt(power_w)),
                current_a=number(np.nanmax(station.peak_current_a) * math.sqrt(power_w)),
                rises=rises_of(loss, power_w, body),
            )
        )
    return found


def rises_of(loss_w: float, power_w: float, body: tuple[float, float]) -> list[RiseOut]:
    """How warm a loss at full power makes a body, by mode."""
    return [_rise(mode, duty, loss_w, power_w, body) for mode, duty in data.MODE_DUTY.items()]


def _rise(mode: str, duty: float, loss_w: float, power_w: float, body: tuple[float, float]) -> RiseOut:
    surface, heat_j_per_k = body
    mean = loss_w * duty if math.isfinite(loss_w) else 0.0
    rise = heat.warming_c(mean, surface)
    return RiseOut(
        mode=mode,
        duty=duty,
        rise_c=rise,
        settles_s=heat.settling_s(mean, surface, heat_j_per_k),
        highest_power_w=heat.highest_power_w(power_w, rise) if power_w > 0 else None,
        verdict="cool" if rise <= heat.WARM_C else "warm" if rise <= heat.HOT_C else "hot",
    )


def ring_body(ring: Ring) -> tuple[float, float]:
    """Surface of a ring that gives heat off, and heat that it takes for a degree."""
    return ring.surface_m2, ring.heat_j_per_k


def coil_body(wound: Solenoid) -> tuple[float, float]:
    """The same of a coil on air."""
    metal = math.pi * wound.wire_diameter_m**2 / 4 * wound.wire_length_m
    return math.pi * wound.diameter_m * wound.length_m, metal * COPPER_KG_PER_M3 * COPPER_J_PER_KG_K


def _where(part: object, f: Real, above: Station, station: Station) -> tuple[Real, Real, Real]:
    """Watts in core and copper at one watt in, and the peak voltage that magnetises."""
    if isinstance(part, Transformer):
        flow = part.flow(f, above.impedance_ohm)
        amps2 = 2 * above.power_w / above.impedance_ohm.real
        return flow.core_w * amps2, flow.copper_w * amps2, flow.core_v * np.sqrt(amps2)
    if isinstance(part, RingCoil):
        core, copper = part.arm_ohm(f)
        share = core.real / (core.real + copper)
        return station.loss_w * share, station.loss_w * (1 - share), station.peak_voltage_v
    return np.zeros(f.shape), station.loss_w, station.peak_voltage_v


def heat_findings(heats: list[HeatOut], power_w: float) -> list[Finding]:
    found = []
    volts = max((h.voltage_v or 0.0 for h in heats), default=0.0)
    if power_w == 0:
        found.append(Finding(code="no_power", values={}))
    elif volts > VOLTAGE_TOLD_V:
        found.append(Finding(code="winding_voltage", values={"voltage_v": volts, "power_w": power_w}))
    for h in heats:
        if h.flux_t is not None and h.flux_guide_t is not None and h.flux_t > h.flux_guide_t:
            found.append(
                Finding(
                    code="flux_above_guide",
                    values={"label": h.label, "flux_t": h.flux_t, "guide_t": h.flux_guide_t},
                )
            )
    hottest = max((r.rise_c for h in heats for r in h.rises), default=0.0)
    if hottest > heat.EXTRAPOLATED_C:
        found.append(Finding(code="heat_extrapolated", values={"rise_c": hottest}))
    return found
