"""Every closed form as values of a network: where the search for its best begins."""

import cmath
import math
from collections.abc import Callable, Iterator, Mapping

from yielding_coil.core.errors import RefusedError
from yielding_coil.core.matching import (
    Ladder,
    l_networks,
    part_for_reactance,
    part_for_susceptance,
    pi_networks,
    series_sections,
    shunt_stubs,
    tee_networks,
)
from yielding_coil.core.search.kernel import REFERENCE_OHM
from yielding_coil.core.search.network import Network, Question
from yielding_coil.core.search.topology import Slot

# Virtual resistances at which pi and T are begun, over the one where they become an L.
DEPTHS = (0.95, 0.7, 0.4, 0.2, 0.08)


def closed_forms(network: Network, question: Question) -> list[tuple[float, ...]]:
    """Values of every closed form of a network, in the middle of each target; none where it has none."""
    found: list[tuple[float, ...]] = []
    for frequency_hz, load in question.loads():
        try:
            found += [
                values
                for values in _FORMS[network.topology.family](network, frequency_hz, load)
                if all(math.isfinite(v) and v > 0 for v in values)
            ]
        except RefusedError:
            continue
    return found


Values = Iterator[tuple[float, ...]]


def _none(network: Network, frequency_hz: float, load: complex) -> Values:
    return iter(())


def _value(slot: Slot, amount: float, frequency_hz: float) -> float | None:
    """Henry or farad of a reactance in series or a susceptance across; None where it wants the other kind."""
    find = part_for_reactance if slot.place == "series" else part_for_susceptance
    kind, value = find(amount, frequency_hz)
    return value if kind == slot.kind and math.isfinite(value) else None


def _arms(network: Network, ladder: Ladder, frequency_hz: float) -> Values:
    values = [_value(s, arm.value, frequency_hz) for s, arm in zip(network.topology.slots, ladder, strict=True)]
    if all(v is not None for v in values):
        yield tuple(v for v in values if v is not None)


def _one(network: Network, frequency_hz: float, load: complex) -> Values:
    (slot,) = network.topology.slots
    amount = -load.imag if slot.place == "series" else -(1 / load).imag
    value = _value(slot, amount, frequency_hz)
    if value is not None:
        yield (value,)


def _l(network: Network, frequency_hz: float, load: complex) -> Values:
    slots = network.topology.slots
    for found in l_networks(load, frequency_hz):
        if (slots[0].place == "shunt") != (found.shunt_at == "load"):
            continue
        amounts = {"series": found.series_reactance_ohm, "shunt": found.shunt_susceptance_s}
        values = [_value(s, amounts[s.place], frequency_hz) for s in slots]
        if all(v is not None for v in values):
            yield tuple(v for v in values if v is not None)


def _pi(network: Network, frequency_hz: float, load: complex) -> Values:
    most = min(1 / (1 / load).real, REFERENCE_OHM)
    for depth in DEPTHS:
        for ladder in pi_networks(load, depth * most):
            yield from _arms(network, ladder, frequency_hz)


def _tee(network: Network, frequency_hz: float, load: complex) -> Values:
    least = max(load.real, REFERENCE_OHM)
    for depth in DEPTHS:
        for ladder in tee_networks(load, least / depth):
            yield from _arms(network, ladder, frequency_hz)


def _section(network: Network, frequency_hz: float, load: complex) -> Values:
    yield (90.0,)


def _series_section(network: Network, frequency_hz: float, load: complex) -> Values:
    first, second = network.lines
    assert first is not None
    assert second is not None
    for found in series_sections(load, second.impedance_ohm, first.impedance_ohm):
        yield math.degrees(found.main_rad), math.degrees(found.section_rad)


def _stub(network: Network, frequency_hz: float, load: complex) -> Values:
    line = network.lines[-1]
    assert line is not None
    if len(network.lines) == 1:
        wanted = -(1 / load).imag * line.impedance_ohm
        angle = cmath.atan(wanted).real if line.end == "open" else math.atan2(-1, wanted)
        yield (math.degrees(angle % math.pi),)
        return
    for found in shunt_stubs(load):
        angle = found.open_rad if line.end == "open" else found.shorted_rad
        yield math.degrees(found.distance_rad), math.degrees(angle)


def _transformer(network: Network, frequency_hz: float, load: complex) -> Values:
    yield (max(load.real, 1e-3) / REFERENCE_OHM,)


def _transformer_and(network: Network, frequency_hz: float, load: complex) -> Values:
    slots = network.topology.slots
    at = next(k for k, s in enumerate(slots) if s.kind != "transformer")
    slot = slots[at]
    seen = 1 / (1 / load).real if slot.place == "shunt" else load.real
    ratio = seen / REFERENCE_OHM
    amount = -(1 / load).imag if slot.place == "shunt" else -load.imag
    # Below the transformer it is carried down with everything else.
    value = _value(slot, amount if at == 0 else amount / ratio, frequency_hz)
    if value is not None:
        yield (value, ratio) if at == 0 else (ratio, value)


_FORMS: Mapping[str, Callable[[Network, float, complex], Values]] = {
    "none": _none,
    "one": _one,
    "l": _l,
    "pi": _pi,
    "tee": _tee,
    "section": _section,
    "series_section": _series_section,
    "stub": _stub,
    "hairpin": _stub,
    "transformer": _transformer,
    "transformer_and": _transformer_and,
}
