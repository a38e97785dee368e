"""A tuned coupler over its bands: the capacitor's settings, what is left there, what it must stand."""

import math
from dataclasses import replace

import numpy as np

from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import number
from yielding_coil.api.wound import CouplerOut, SettingOut
from yielding_coil.core.coupler import Coupler
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.system import Antenna
from yielding_coil.store.content import DesignContent
from yielding_coil.store.wound import WoundTransformer


def coupler_report(
    content: DesignContent, antenna: Antenna, element: WoundTransformer, power_w: float
) -> CouplerOut | None:
    """The coupler over its bands; None for a transformer without a variable capacitor."""
    tuning = element.tuning
    if tuning is None:
        return None
    fixed = element.model_copy(update={"tuning": None}).to_core(content.center_hz)
    if not tuning.low_f < tuning.high_f:
        raise OutOfDomainError("low_f", f"{tuning.low_f:g}", f"below the other end, {tuning.high_f:g} F")
    coupler = Coupler(fixed, tuning.low_f, tuning.high_f)
    settings = coupler.settings(antenna, content.core_targets())
    return CouplerOut(
        low_hz=coupler.tunes_hz(tuning.high_f),
        high_hz=coupler.tunes_hz(max(tuning.low_f, 1e-15)),
        settings=[
            SettingOut(
                label=s.label,
                at_hz=s.at_hz,
                capacitance_f=s.capacitance_f,
                within=s.within,
                swr=number(s.swr),
                edge_swr=number(s.edge_swr),
                resistance_ohm=s.seen_ohm.real,
                reactance_ohm=s.seen_ohm.imag,
                squeezed_reactance_ohm=s.squeezed_ohm.imag,
                apart_reactance_ohm=s.apart_ohm.imag,
                voltage_v=_volts(coupler, antenna, s.at_hz, s.capacitance_f, power_w),
            )
            for s in settings
        ],
    )


def _volts(coupler: Coupler, antenna: Antenna, at_hz: float, capacitance_f: float, power_w: float) -> float | None:
    """Peak across the capacitor at full power."""
    f = np.array([at_hz])
    load = antenna.impedance_at(f)
    across = np.asarray(coupler.transformer.winding_capacitance_f) + capacitance_f
    flow = replace(coupler.transformer, winding_capacitance_f=across).flow(f, load)
    return number(float((flow.load_v * np.sqrt(power_w / flow.input_w))[0]))


def coupler_findings(element: WoundTransformer, coupler: CouplerOut | None) -> list[Finding]:
    """Bands that the capacitor does not reach, and volts that it does not stand."""
    if coupler is None or element.tuning is None:
        return []
    found = [
        Finding(code="capacitor_at_its_stop", values={"label": s.label, "capacitance_f": s.capacitance_f})
        for s in coupler.settings
        if not s.within
    ]
    most = max((s.voltage_v or 0.0 for s in coupler.settings), default=0.0)
    if most > element.tuning.voltage_v:
        stands = element.tuning.voltage_v
        found.append(
            Finding(
                code="capacitor_voltage",
                values={"voltage_v": most, "stands_v": stands, "share": (stands / most) ** 2 if most else math.inf},
            )
        )
    return found
