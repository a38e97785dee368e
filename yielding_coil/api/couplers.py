"""A tuned coupler over its bands: the capacitor's settings, what is left there, what it must stand."""

import math
from dataclasses import replace

import numpy as np

from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import number
from yielding_coil.api.warmth import HeatOut, heats_of
from yielding_coil.api.wound import CouplerOut, SettingOut
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.system import Antenna
from yielding_coil.core.winding import Coupler
from yielding_coil.documents.design import DesignContent
from yielding_coil.documents.ring_wound import WoundTransformer


def _coupler(element: WoundTransformer, center_hz: float) -> Coupler | None:
    tuning = element.tuning
    if tuning is None:
        return None
    if not tuning.low_f < tuning.high_f:
        raise OutOfDomainError("low_f", f"{tuning.low_f:g}", f"below the other end, {tuning.high_f:g} F")
    fixed = element.model_copy(update={"tuning": None}).to_core(center_hz)
    return Coupler(fixed, tuning.low_f, tuning.high_f)


def coupler_report(
    content: DesignContent, antenna: Antenna, element: WoundTransformer, power_w: float
) -> CouplerOut | None:
    """The coupler over its bands; None for a transformer without a variable capacitor."""
    coupler = _coupler(element, content.center_hz)
    if coupler is None:
        return None
    settings = coupler.settings(antenna, content.core_targets())
    return CouplerOut(
        low_hz=coupler.tunes_hz(coupler.high_f),
        high_hz=coupler.tunes_hz(max(coupler.low_f, 1e-15)),
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


def tuned_heats(
    content: DesignContent, antenna: Antenna, element: WoundTransformer, power_w: float
) -> list[HeatOut]:
    """Heat on every band, the capacitor set for it as one does before sending."""
    coupler = _coupler(element, content.center_hz)
    assert coupler is not None
    assert element.tuning is not None
    found = []
    for target, setting in zip(content.targets, coupler.settings(antenna, content.core_targets()), strict=True):
        tuning = element.tuning.model_copy(update={"set_f": setting.capacitance_f})
        turned = element.model_copy(update={"tuning": tuning})
        elements = [turned if e is element else e for e in content.elements]
        there = content.model_copy(update={"targets": [target], "elements": elements})
        found += heats_of(there, there.system(antenna), turned, power_w)
    return found


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
