"""A planned antenna hung on the simulated site: what the place makes of it, its desk does not know."""

import json
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from yielding_coil import data
from yielding_coil.analyser.bench import Aloft, Site
from yielding_coil.analyser.windings import ring_factor
from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.ring import Ring
from yielding_coil.core.system import Element, System
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.wire import KINDS, Ground, Hung, Insulation, OnRadials, Stock, Trapped

# What a usual unun leaks, and what lies across its winding (common practice; the desk knows neither exactly).
LEAKAGE_H, STRAY_F = 0.1e-6, 3e-12
# How what radials lose goes with the soil's conductivity (common practice: better soil, less of it).
RADIALS_BY_SOIL = -0.2


@dataclass(frozen=True)
class HungThing:
    """One antenna as it hangs there, behind its unun where it has one.

    Args:
        text: a JSON object: antenna, numbers, stock, soil, hands (frequency, leg and folds of each band
            that they changed), unun.
        seed: the simulator's.

    Raises:
        ValueError: the text is not understood, or it cannot hang so.
    """

    text: str
    seed: int

    def __post_init__(self) -> None:
        try:
            assert self.antenna is not None
        except (KeyError, TypeError, AttributeError, json.JSONDecodeError) as why:
            raise ValueError("an antenna as a JSON object of its numbers") from why
        except RefusedError as why:
            raise ValueError(str(why)) from why

    @cached_property
    def antenna(self) -> System:
        """Its wires as they really hang, and its unun."""
        spec = json.loads(self.text)
        wires = Aloft(as_it_hangs(spec, Site.of(self.seed)).structure())
        unun = spec.get("unun")
        if unun is None:
            return System(_Seen(wires), [])
        mix, size = str(unun["mix"]), str(unun["size"])
        part = Transformer(
            Ring(data.ring_material(mix), data.ring_size(size), int(unun.get("stack", 1))),
            int(unun["primary"]),
            int(unun["secondary"]),
            leakage_h=LEAKAGE_H,
            winding_capacitance_f=STRAY_F,
            input_capacitance_f=float(unun.get("input_f", 0.0)),
            permeability_factor=ring_factor(self.seed, mix, size),
        )
        return System(_Seen(wires), [Element("unun", "through", part)])

    def impedance_ohm(self, f: Real) -> Complex:
        """At its feedpoint, or below its unun; shape of the frequencies."""
        return self.antenna.impedance(f, len(self.antenna.elements))


@dataclass(frozen=True)
class _Seen:
    """Wires aloft as an antenna of a system."""

    wires: Aloft

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        return self.wires.impedance_ohm(np.asarray(frequency_hz, dtype=float))


def as_it_hangs(spec: dict[str, Any], site: Site) -> Hung:
    """The antenna with everything off that a place puts off."""
    told, (sigma, epsilon) = spec["stock"], spec["soil"]
    cover = None if told["outer_radius_m"] is None else Insulation(told["outer_radius_m"], told["permittivity"])
    planned = Stock(told["radius_m"], told["conductor"], cover)
    soil = site.soil(Ground(sigma, epsilon))
    hung = KINDS[spec["antenna"]].made(spec["numbers"], site.stock(planned), soil)
    numbers = hung.numbers
    changes = {name: numbers[name] * site.stretch for name in hung.lengths}
    changes |= {name: max(0.3, numbers[name] * site.height - site.lower_m) for name in hung.heights}
    hung = hung.told(**changes)
    if isinstance(hung, Trapped):
        hung = hung.told(trap_hz=hung.trap_hz * site.traps)
    reaches, hands = list(hung.reaches_m), spec.get("hands", [])
    for near_hz, leg_m, folded_m in hands:
        at = hung.band_of(float(near_hz))
        now = (float(leg_m) - float(folded_m) * site.fold_moves) * site.stretch
        # What company adds no cut takes away.
        reaches[at] += (now - hung.reaches_m[at]) * (1 - site.company)
    if hands:
        hung = hung.reaching(reaches)
    if isinstance(hung, OnRadials):
        own: Any = hung
        hung = replace(own, ground_ohm=(hung.ground_ohm or 0.0) * site.wetter**RADIALS_BY_SOIL)
    return hung
