"""A whole match as it is built on the simulated bench, within its tolerances or with a slip: for practice.

It comes as plain numbers; what its parts really are, and which slip there is when any may be, is drawn from the
simulator's seed and stays the same until it is built anew.
"""

import json
from collections.abc import Mapping, Sequence
from dataclasses import fields, is_dataclass
from typing import Any

import numpy as np

from yielding_coil import data
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.conductor import Conductor
from yielding_coil.core.design import Design, slips_of
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.line import Cable, Line, OpenCoax, Stub
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Antenna, Element, System
from yielding_coil.core.tolerance import Spread, sampled
from yielding_coil.core.transformer import Transformer

# Of the sweep that it hangs on so many points travel.
POINTS = 201
# Chance of a slip, where any may be, and how far values stray at the most, in standard deviations.
SLIPPED, FURTHEST = 0.7, 1.8
_KINDS: Mapping[str, type] = {
    kind.__name__: kind
    for kind in (Inductor, Capacitor, OpenCoax, Cable, Line, Stub, Transformer, RingCoil, Conductor)
}


def build_text(design: Design, fault: str, *, at_radio: bool) -> str:
    """A design as a JSON object: its antenna as swept, each part as meant and as it may slip.

    Args:
        fault: "none", or "any": a slip more often than not.
        at_radio: swept through its line; else below the match.

    Raises:
        OutOfDomainError: something that is not built there.
    """
    system = design.system()
    last = len(system.elements) if at_radio else system.match_station
    f, center = _grid(design), design.center_hz
    z = np.asarray(design.antenna.impedance_at(f), dtype=complex)
    elements = []
    for made, element in list(zip(system.elements, design.elements, strict=True))[:last]:
        slips = [slip.element.part(center) for slip in slips_of(element, center)]
        spreads = [[s.field, s.relative, s.absolute] for s in element.spreads(center)]
        elements.append(
            {
                "key": made.key,
                "place": made.place,
                "part": part_numbers(made.part),
                "slips": [part_numbers(part) for part in slips],
                "spreads": spreads,
            }
        )
    antenna = {"f": f.tolist(), "r": z.real.tolist(), "x": z.imag.tolist()}
    return json.dumps({"fault": fault, "antenna": antenna, "elements": elements})


def _grid(design: Design) -> Real:
    if isinstance(design.antenna, Sweep):
        own = design.antenna.frequency_hz
        return np.linspace(own[0], own[-1], POINTS)
    low, high = min(t.low_hz for t in design.targets), max(t.high_hz for t in design.targets)
    return np.linspace(0.9 * low, 1.1 * high, POINTS)


def part_numbers(value: Any) -> Any:
    """A part as numbers and names."""
    if isinstance(value, Ring):
        return {"ring": [value.material.mix, value.size.name, value.stack, value.al_h]}
    if is_dataclass(value) and type(value).__name__ in _KINDS:
        own = {field.name: part_numbers(getattr(value, field.name)) for field in fields(value)}
        return {"part": type(value).__name__, **own}
    if isinstance(value, np.ndarray | np.generic):
        return float(value)
    if value is None or isinstance(value, str | int | float):
        return value
    raise OutOfDomainError("elements", type(value).__name__, "parts that are built on the simulated bench")


def part_from(told: Any) -> Any:
    if not isinstance(told, dict):
        return told
    if "part" not in told:
        mix, size, stack, al_h = told["ring"]
        return Ring(data.ring_material(mix), data.ring_size(size), stack, al_h)
    kind = _KINDS[told["part"]]
    return kind(**{name: part_from(value) for name, value in told.items() if name != "part"})


class BuiltThing:
    """A match as it stands there.

    Args:
        text: as `build_text` writes it.
        seed: the simulator's.

    Raises:
        ValueError: the text is not understood.
    """

    def __init__(self, text: str, seed: int) -> None:
        try:
            spec = json.loads(text)
            fault = str(spec["fault"])
            slips = np.random.default_rng([seed, 7, *json.dumps(spec["elements"], sort_keys=True).encode()])
            self._system = _built(spec, seed, slips if fault == "any" and slips.uniform() < SLIPPED else None)
        except (KeyError, TypeError, AttributeError, json.JSONDecodeError) as why:
            raise ValueError("a match as a JSON object of its parts") from why
        except RefusedError as why:
            raise ValueError(str(why)) from why

    def impedance_ohm(self, f: Real) -> Complex:
        """At its lower end; beyond what is known of its antenna as at the edge."""
        return self._system.impedance(f)


class _Table:
    """An antenna by a table, at its edge beyond it."""

    def __init__(self, told: Mapping[str, Sequence[float]]) -> None:
        self._f = np.asarray(told["f"], dtype=float)
        self._z: Complex = np.asarray(told["r"], dtype=float) + 1j * np.asarray(told["x"], dtype=float)
        if not (self._f.size == self._z.size > 1 and (np.diff(self._f) > 0).all()):
            raise ValueError("an antenna by rising frequencies, R and X")

    def impedance_at(self, frequency_hz: Any) -> Complex:
        return np.asarray(np.interp(frequency_hz, self._f, self._z))


def _built(spec: Mapping[str, Any], seed: int, slips: np.random.Generator | None) -> System:
    """With its parts strayed, each in its own way whatever it is meant to be; and with a slip drawn, if any."""
    told = list(spec["elements"])
    able = [i for i, each in enumerate(told) if each["slips"]]
    at = int(slips.choice(able)) if slips is not None and able else None
    elements: list[Element] = []
    spreads: list[Spread] = []
    drawn: list[float] = []
    for i, each in enumerate(told):
        choices = each["slips"]
        slipped = slips is not None and i == at
        part = part_from(
            choices[int(slips.integers(len(choices)))] if slips is not None and slipped else each["part"]
        )
        elements.append(Element(each["key"], each["place"], part))
        spreads += [Spread(each["key"], each["key"], *told_spread) for told_spread in each["spreads"]]
        own = np.random.default_rng([seed, 6, *str(each["key"]).encode()])
        drawn += np.clip(own.normal(size=len(each["spreads"])), -FURTHEST, FURTHEST).tolist()
    antenna: Antenna = _Table(spec["antenna"])
    strayed = sampled(System(FixedLoad(50.0), elements), spreads, [np.array([[complex(z)]]) for z in drawn])
    return System(antenna, [_single(e) for e in strayed.elements])


def _single(element: Element) -> Element:
    """With numbers in place of arrays of one build."""

    def plain(value: Any) -> Any:
        if isinstance(value, np.ndarray) and value.size == 1:
            return float(value.reshape(-1)[0].real)
        if is_dataclass(value) and type(value).__name__ in _KINDS:
            return type(value)(**{f.name: plain(getattr(value, f.name)) for f in fields(value)})  # type: ignore[misc]
        return value

    return Element(element.key, element.place, plain(element.part))
