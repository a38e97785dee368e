"""Wound things on the simulated bench, right or with a fault that nobody at the desk knows: for practice.

A winding comes as plain numbers. What it really is, within its tolerances, and which fault it has when any may be
there, is drawn from the simulator's seed and stays the same until it is wound anew.
"""

import json
import math
from typing import Any

import numpy as np

from yielding_coil import data
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.bench import NUISANCES, Fixture, Hypothesis, seen_of
from yielding_coil.core.bench import suspects as faults
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.winding import wiring

ANY, NONE = "any", "none"
# Turns on a ring, to be characterised: across them, and their leads.
TURNS_F, TURNS_LEAD_H = 1.8e-12, 14e-9


def ring_factor(seed: int, mix: str, size: str) -> float:
    """How far the rings of a size and mix that lie on this bench are off their table."""
    rng = np.random.default_rng([seed, 3, *mix.encode(), *size.encode()])
    tolerance = data.ring_material(mix).tolerance
    return 1 + float(np.clip(rng.normal(), -1.6, 1.6)) * tolerance / 2


def turns_ohm(seed: int, turns: int, mix: str, size: str, f: Real) -> Complex:
    """So many turns on a ring that lies there."""
    ring = Ring(data.ring_material(mix), data.ring_size(size), permeability_factor=ring_factor(seed, mix, size))
    coil = RingCoil(ring, turns, TURNS_F)
    return np.asarray(coil.impedance_ohm(f) + 2j * math.pi * f * TURNS_LEAD_H, dtype=complex)


class WoundThing:
    """One winding as it lies there.

    Args:
        text: a JSON object; `kind` is transformer, ring, coil or trap; numbers in SI.
        seed: the simulator's.

    Raises:
        ValueError: the text is not understood.
    """

    def __init__(self, text: str, seed: int) -> None:
        try:
            spec = json.loads(text)
            fault = str(spec.pop("fault"))
            told = spec.pop("setup")
            self.setup = Fixture(
                str(told["key"]),
                math.inf if told["load_ohm"] is None else float(told["load_ohm"]),
                link_turns=told["link_turns"],
                common=bool(told.get("common", False)),
            )
            suspects = _suspects(spec)
            rng = np.random.default_rng([seed, 4, *json.dumps(spec, sort_keys=True).encode()])
            self.suspect = _chosen(suspects, fault, rng)
            deviates = np.clip(rng.normal(size=(1, 12)), -1.8, 1.8)
            self.deviates = deviates[:, : NUISANCES + len(self.suspect.spreads)]
            core = [k for k, s in enumerate(self.suspect.spreads) if s.field == "permeability_factor"]
            if core and "mix" in spec and self.suspect.code != "other_mix":
                spread = self.suspect.spreads[core[0]].relative / 2
                self.deviates[0, NUISANCES + core[0]] = (ring_factor(seed, spec["mix"], spec["size"]) - 1) / spread
        except (KeyError, TypeError, AttributeError, json.JSONDecodeError) as why:
            raise ValueError("a winding as a JSON object of its numbers") from why

    def reflection(self, f: Real) -> Complex:
        """Γ against 50 Ω as it is."""
        return seen_of(self.suspect, self.setup, f, self.deviates)[0]


def _chosen(suspects: list[Hypothesis], fault: str, rng: np.random.Generator) -> Hypothesis:
    codes = list(dict.fromkeys(s.code for s in suspects if s.code != "right"))
    if fault == NONE:
        return suspects[0]
    if fault == ANY:
        fault = codes[int(rng.integers(len(codes)))]
    mine = [s for s in suspects if s.code == fault]
    if not mine:
        raise ValueError(f"there is no fault {fault[:40]} of this; there are {', '.join(codes)}")
    return mine[int(rng.integers(len(mine)))]


def _ring(spec: dict[str, Any]) -> tuple[Ring, list[Ring]]:
    material, size = data.ring_material(spec["mix"]), data.ring_size(spec["size"])
    others = [
        Ring(m, size, spec["stack"])
        for m in data.ring_materials().values()
        if m.kind == material.kind and m.mix != material.mix
    ]
    return Ring(material, size, spec["stack"]), others


def _suspects(spec: dict[str, Any]) -> list[Hypothesis]:
    kind = spec["kind"]
    if kind == "coil":
        part = Inductor(spec["inductance_h"], spec["q"], spec["q_at_hz"], spec["capacitance_f"])
        return faults.coil_suspects(part, spec["turns"], _coil_spreads(spec["spread"]))
    if kind == "trap":
        trap = Trap(spec["inductance_h"], spec["capacitance_f"], spec["q"])
        spreads = (
            Spread("coil", "trap", "inductance_h", spec["spread"] / 2),
            Spread("capacitor", "trap", "capacitance_f", 0.02),
        )
        return faults.trap_suspects(trap, spec["turns"], spreads, own_f=spec["own_f"])
    ring, others = _ring(spec)
    core = Spread("core", "wound", "permeability_factor", ring.material.tolerance)
    stray = Spread("stray", "wound", "winding_capacitance_f", absolute=1e-12)
    if kind == "ring":
        wound = RingCoil(ring, spec["turns"], spec["stray_f"])
        return faults.ring_suspects(wound, (core, stray), crossed=spec["crossed"], others=others)
    if kind != "transformer":
        raise ValueError(f"there is no winding {str(kind)[:40]}")
    # Wires that run as a line leak nothing besides.
    told = spec["line"]
    unun = Transformer(
        ring,
        spec["primary"],
        spec["secondary"],
        0.0 if told else spec["leakage_h"],
        spec["stray_f"],
        spec["input_f"],
        1500.0,
        line=told and _line(**told),
        share=spec["share"],
    )
    leakage = () if told else (Spread("leakage", "wound", "leakage_h", 0.4),)
    mica = (Spread("mica", "wound", "input_capacitance_f", 0.05),) if spec["input_f"] > 0 else ()
    return faults.transformer_suspects(
        unun,
        (core, *leakage, stray, *mica),
        wiring=wiring(spec["wiring"]),
        crossed=spec["crossed"],
        others=others,
    )


def _line(impedance_ohm: float, velocity_factor: float, loss_sqrt: float, length_m: float) -> Line:
    return Line(Cable("wires in hand", impedance_ohm, velocity_factor, loss_sqrt, 0.0), length_m)


def _coil_spreads(spread: float) -> tuple[Spread, ...]:
    return (
        Spread("coil", "coil", "inductance_h", spread / 2),
        Spread("own capacitance", "coil", "self_capacitance_f", 0.2),
    )
