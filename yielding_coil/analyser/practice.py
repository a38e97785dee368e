"""A winding or an antenna as plain numbers, for the simulated bench to wind it, or its site to hang it."""

import json
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any, NamedTuple

import numpy as np

from yielding_coil.core.bench import setup_of
from yielding_coil.core.parts import Inductor
from yielding_coil.core.tuner import Tuner, TunerSetting
from yielding_coil.core.winding import (
    AirCoil,
    AnyWinding,
    CoilOnRing,
    LegTrap,
    LineChoke,
    RingCore,
    WoundTransformer,
)
from yielding_coil.core.wire import KINDS, AntennaKind, Hung

Numbers = dict[str, object]
# The usual ununs, where none is designed, by the ohms they are for (common practice): two turns in fourteen for
# kilohms, three wires in hand and nine turns for nine to one.
USUAL_UNUNS: dict[float, Numbers] = {
    2450.0: {"mix": "43", "size": "FT240", "stack": 1, "primary": 2, "secondary": 14, "input_f": 1e-10},
    450.0: {"mix": "43", "size": "FT140", "stack": 1, "primary": 9, "secondary": 27, "input_f": 0.0},
}


class TunerRound(NamedTuple):
    """An antenna to practise at with a tuner, and the band on which."""

    antenna: str
    label: str
    band: str
    low_hz: float
    high_hz: float


# From easy to hard; the usual tuner can match each in the middle of its band.
TUNER_ROUNDS = (
    TunerRound("loft-shack", "the loft dipole through its coax, on 15 m", "15 m", 21.0e6, 21.45e6),
    TunerRound("orchard", "the orchard's sloping wire on 30 m", "30 m", 10.1e6, 10.15e6),
    TunerRound("allotment-shack", "the allotment's vertical through its coax, on 15 m", "15 m", 21.0e6, 21.45e6),
    TunerRound("allotment", "the allotment's vertical on 30 m", "30 m", 10.1e6, 10.15e6),
    TunerRound("orchard", "the orchard's sloping wire on 12 m", "12 m", 24.89e6, 24.99e6),
    TunerRound("loft-shack", "the loft dipole through its coax, on 30 m", "30 m", 10.1e6, 10.15e6),
    TunerRound("orchard", "the orchard's sloping wire on 15 m", "15 m", 21.0e6, 21.45e6),
    TunerRound("allotment", "the allotment's vertical on 60 m", "60 m", 5.25e6, 5.45e6),
)


def tuner_text(number: int, level: str, tuner: Tuner, dials: TunerSetting, in_line: bool) -> str:
    """A tuner before the antenna of a round, as a JSON object.

    Args:
        number: of the round, from 0; beyond the last it begins anew, with other errors of the dials.
        level: "easy" or "hard".
        dials: as they are turned.
        in_line: False where the power passes by.
    """
    values = [float(v) if np.isfinite(v) else None for v in (dials.output_f, dials.coil_h, dials.input_f)]
    return json.dumps(
        {
            "antenna": TUNER_ROUNDS[number % len(TUNER_ROUNDS)].antenna,
            "round": number,
            "level": level,
            "in_line": in_line,
            "tuner": asdict(tuner),
            "dials": {"side": dials.side, **dict(zip(("output_f", "coil_h", "input_f"), values, strict=True))},
        }
    )


def winding_text(element: AnyWinding, center_hz: float, setup_key: str, fault: str) -> str:
    """One wound element as a JSON object.

    Args:
        center_hz: where values of parts are meant.
        fault: its code; "any" or "none".

    Raises:
        NotFoundError: it is not swept so.
    """
    setup = setup_of(element, setup_key)
    spec: Numbers = {
        "fault": fault,
        "setup": {
            "key": setup.key,
            "load_ohm": setup.load_ohm if math.isfinite(setup.load_ohm) else None,
            "link_turns": setup.link_turns,
            "common": setup.common,
        },
    }
    return json.dumps({**spec, **NUMBERS[type(element)](element, center_hz)})


@dataclass(frozen=True, slots=True)
class WireEnd:
    """The wire of a band near a frequency as hands have cut and folded it, from the feed to its end, in metres."""

    near_hz: float
    leg_m: float
    folded_m: float


def antenna_text(hung: Hung, key: str, hands: Sequence[WireEnd] = (), unun: WoundTransformer | None = None) -> str:
    """A planned antenna as a JSON object.

    Args:
        key: of its kind.
        hands: what they have cut and folded, a band each; as planned where left out.
        unun: between it and the analyser.
    """
    stock = hung.stock
    cover = stock.insulation
    return json.dumps(
        {
            "antenna": key,
            "numbers": hung.numbers,
            "stock": {
                "radius_m": stock.radius_m,
                "conductor": stock.conductor,
                "outer_radius_m": None if cover is None else cover.outer_radius_m,
                "permittivity": None if cover is None else cover.relative_permittivity,
            },
            "soil": [hung.soil.conductivity_s_per_m, hung.soil.relative_permittivity],
            "hands": [[each.near_hz, each.leg_m, each.folded_m] for each in hands],
            "unun": _unun(unun, KINDS[key]),
        }
    )


def _unun(unun: WoundTransformer | None, kind: AntennaKind) -> Numbers | None:
    """The one given; where a wire of kilohms has none yet, the one that is usual for it."""
    if unun is None:
        return USUAL_UNUNS[kind.feed_ohm] if kind.by_unun else None
    return {
        **_core(unun.core),
        "primary": unun.primary_turns,
        "secondary": unun.secondary,
        "input_f": unun.input_capacitance_f,
    }


def _core(core: RingCore) -> Numbers:
    return {"mix": core.ring.material.mix, "size": core.ring.size.name, "stack": core.ring.stack}


def _coil(part: Inductor, turns: float, spread: float) -> Numbers:
    return {
        "kind": "coil",
        "turns": turns,
        "inductance_h": float(np.asarray(part.inductance_h)),
        "q": float(np.asarray(part.q)),
        "q_at_hz": part.q_at_hz,
        "capacitance_f": float(np.asarray(part.self_capacitance_f)),
        "spread": spread,
    }


def _air_coil(element: AirCoil, center_hz: float) -> Numbers:
    return _coil(element.part(center_hz), element.turns(center_hz), element.spread)


def _ring(core: RingCore, turns: int, crossed: bool, stray_f: float) -> Numbers:
    return {"kind": "ring", **_core(core), "turns": turns, "crossed": crossed, "stray_f": stray_f}


def _ring_coil(element: CoilOnRing, center_hz: float) -> Numbers:
    return _ring(element.core, element.turns, element.crossed, element.winding_capacitance_f)


def _choke(element: LineChoke, center_hz: float) -> Numbers:
    part = element.part()
    if isinstance(part, Inductor):
        return _coil(part, element.turns, element.spreads()[0].relative)
    stray = float(np.asarray(part.winding_capacitance_f))
    return _ring(element.on_ring, element.turns, element.crossed, stray)


def _trap(element: LegTrap, center_hz: float) -> Numbers:
    trap = element.part()
    return {
        "kind": "trap",
        "turns": element.turns,
        "inductance_h": float(np.asarray(trap.inductance_h)),
        "capacitance_f": float(np.asarray(trap.capacitance_f)),
        "q": float(np.asarray(trap.q)),
        "own_f": element.own_f,
        "spread": element.coil_spread,
    }


def _transformer(element: WoundTransformer, center_hz: float) -> Numbers:
    way, part = element.way, element.part(center_hz)
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


NUMBERS: Mapping[type[AnyWinding], Callable[[Any, float], Numbers]] = {
    AirCoil: _air_coil,
    CoilOnRing: _ring_coil,
    WoundTransformer: _transformer,
    LineChoke: _choke,
    LegTrap: _trap,
}
