"""A winding of a design as plain numbers, for the simulated bench to wind it, right or with a fault."""

import json
import math

import numpy as np

from yielding_coil.api.suspects import setups_of
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import RingCoil
from yielding_coil.documents.choke_and_trap import Choke, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import DesignContent, wound_of
from yielding_coil.documents.ring_wound import CoilOnRing, RingCore, WoundTransformer


def winding_text(content: DesignContent, key: str, setup_key: str, fault: str) -> str:
    """One wound element as a JSON object.

    Raises:
        NotFoundError: nothing is wound under that key, or it is not swept so.
    """
    element = wound_of(content, key)
    setup = next((s for s in setups_of(element) if s.key == setup_key), None)
    if setup is None:
        accepted = ", ".join(s.key for s in setups_of(element))
        raise NotFoundError(f"it is not swept “{setup_key}”", field="setup", came_in=setup_key, accepted=accepted)
    spec: dict[str, object] = {
        "fault": fault,
        "setup": {
            "key": setup.key,
            "load_ohm": setup.load_ohm if math.isfinite(setup.load_ohm) else None,
            "link_turns": setup.link_turns,
            "common": setup.common,
        },
    }
    return json.dumps({**spec, **_numbers(content, element)})


def _core(core: RingCore) -> dict[str, object]:
    return {"mix": core.mix, "size": core.size, "stack": core.stack}


def _coil(part: Inductor, turns: float, spread: float) -> dict[str, object]:
    return {
        "kind": "coil",
        "turns": turns,
        "inductance_h": float(np.asarray(part.inductance_h)),
        "q": float(np.asarray(part.q)),
        "q_at_hz": part.q_at_hz,
        "capacitance_f": float(np.asarray(part.self_capacitance_f)),
        "spread": spread,
    }


def _numbers(
    content: DesignContent, element: Coil | CoilOnRing | WoundTransformer | Choke | WireTrap
) -> dict[str, object]:
    if isinstance(element, WoundTransformer):
        way, part = element.way, element.to_core(content.center_hz)
        line = part.line
        return {
            "kind": "transformer",
            **_core(element.core),
            "wiring": element.wiring,
            "crossed": element.crossed,
            "primary": element.primary_turns,
            "secondary": element.secondary,
            "leakage_h": element.nominal_leakage_h,
            "stray_f": float(np.asarray(part.winding_capacitance_f)),
            "input_f": element.input_capacitance_f,
            "share": way.share,
            "line": line
            and {
                "impedance_ohm": float(np.asarray(line.cable.impedance_ohm)),
                "velocity_factor": float(np.asarray(line.cable.velocity_factor)),
                "loss_sqrt": float(np.asarray(line.cable.loss_sqrt)),
                "length_m": line.length_m,
            },
        }
    if isinstance(element, Coil):
        return _coil(element.to_core(content.center_hz), element.turns(content.center_hz), element.spread)
    if isinstance(element, WireTrap):
        trap = element.to_core()
        farad = float(np.asarray(trap.capacitance_f))
        return {
            "kind": "trap",
            "turns": element.turns,
            "inductance_h": float(np.asarray(trap.inductance_h)),
            "capacitance_f": farad,
            "q": float(np.asarray(trap.q)),
            "own_f": farad if element.cable is not None else farad - element.capacitance_f,
            "spread": element.coil_spread,
        }
    wound = element.to_core(content.center_hz) if isinstance(element, CoilOnRing) else element.to_core()
    if not isinstance(wound, RingCoil):
        return _coil(wound, element.turns, 0.05)
    core = element.core
    assert core is not None
    return {
        "kind": "ring",
        **_core(core),
        "turns": element.turns,
        "crossed": element.crossed,
        "stray_f": float(np.asarray(wound.winding_capacitance_f)),
    }
