"""How each kind of wound thing comes to the bench: the ways to sweep it, and what it was planned to be."""

import math
from collections.abc import Callable, Mapping, Sequence
from typing import Any, NamedTuple

from yielding_coil.core.bench.hypothesis import Fixture, Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.bench.suspects import alone_setups, suspects_of, transformer_setups
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Material
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.winding import (
    CAPACITANCE_SPREAD_F,
    AirCoil,
    AnyWinding,
    CoilOnRing,
    LegTrap,
    LineChoke,
    RingCore,
    WoundTransformer,
)

Materials = Sequence[Material]
# Of an air coil alone, before anybody measured it (from memory).
OWN_CAPACITANCE_SPREAD, LOSS_SPREAD = 0.3, 0.4
# Set-ups whose resistor is a thing in hand that can be measured.
WITH_RESISTOR = ("resistor", "half")


class OnBench(NamedTuple):
    """A kind of wound thing on the bench.

    Args:
        setups: the ways to sweep it, the usual one first; with the resistor in hand where there is one.
        planned: what it was planned to be, its values meant at a frequency, among rings of these materials.
    """

    setups: Callable[[Any, float | None], list[Fixture]]
    planned: Callable[[Any, float, Materials], Planned]


def _transformer_setups(element: WoundTransformer, resistor_ohm: float | None) -> list[Fixture]:
    return transformer_setups(resistor_ohm or element.matching_resistor_ohm, element.way.in_hand)


def _transformer(element: WoundTransformer, center_hz: float, materials: Materials) -> Planned:
    others = tuple(element.core.others(materials))
    spreads = element.spreads(center_hz)
    return Planned(element.part(center_hz), element.secondary, spreads, element.way, element.crossed, others)


def _ring_coil(element: CoilOnRing, center_hz: float, materials: Materials) -> Planned:
    stray = Spread("stray", element.key, "winding_capacitance_f", absolute=CAPACITANCE_SPREAD_F)
    spreads = (*element.spreads(center_hz), stray)
    others = tuple(element.core.others(materials))
    return Planned(element.part(center_hz), element.turns, spreads, None, element.crossed, others)


def _air_coil(element: AirCoil, center_hz: float, materials: Materials) -> Planned:
    spreads = (
        *element.spreads(center_hz),
        Spread("own capacitance", element.key, "self_capacitance_f", OWN_CAPACITANCE_SPREAD),
        Spread("loss", element.key, "q", LOSS_SPREAD),
    )
    return Planned(element.part(center_hz), element.turns(center_hz), spreads)


def _choke(element: LineChoke, center_hz: float, materials: Materials) -> Planned:
    part = element.part()
    if isinstance(part, Inductor):
        return Planned(part, element.turns, element.spreads())
    others = tuple(element.on_ring.others(materials))
    return Planned(part, element.turns, element.spreads(), None, element.crossed, others)


def _trap(element: LegTrap, center_hz: float, materials: Materials) -> Planned:
    return Planned(element.part(), element.turns, element.spreads(), own_f=element.own_f)


def _on_core(element: CoilOnRing | LineChoke, resistor_ohm: float | None) -> list[Fixture]:
    core: RingCore | None = element.core
    return alone_setups() if core is not None else alone_setups()[:1]


def _alone(element: AnyWinding, resistor_ohm: float | None) -> list[Fixture]:
    return alone_setups()[:1]


ON_BENCH: Mapping[type[AnyWinding], OnBench] = {
    AirCoil: OnBench(_alone, _air_coil),
    CoilOnRing: OnBench(_on_core, _ring_coil),
    WoundTransformer: OnBench(_transformer_setups, _transformer),
    LineChoke: OnBench(_on_core, _choke),
    LegTrap: OnBench(_alone, _trap),
}


def setups_of(element: AnyWinding, resistor_ohm: float | None = None) -> list[Fixture]:
    """How it can be swept on the bench, the usual way first.

    Args:
        resistor_ohm: in place of the antenna; the one that shows 50 Ω through an ideal core when None.
    """
    return ON_BENCH[type(element)].setups(element, resistor_ohm)


def setup_of(element: AnyWinding, key: str, resistor_ohm: float | None = None) -> Fixture:
    """One way to sweep it; its resistor as it was measured, where that was done.

    Raises:
        NotFoundError: it is not swept so.
    """
    ways = {s.key: s for s in setups_of(element)}
    if key not in ways:
        raise NotFoundError(f"it is not swept “{key}”", field="setup", came_in=key, accepted=", ".join(ways))
    way = ways[key]
    return way if resistor_ohm is None or key not in WITH_RESISTOR else Fixture(key, resistor_ohm, way.tolerance)


def shown_resistor_ohm(setup: Fixture) -> float | None:
    """The resistor that is put on in a set-up; None where none is."""
    return setup.load_ohm if setup.key in WITH_RESISTOR and math.isfinite(setup.load_ohm) else None


def winding_suspects(element: AnyWinding, center_hz: float, materials: Materials) -> list[Hypothesis]:
    """The element as planned, and what may have gone wrong with it.

    Args:
        center_hz: where values of parts are meant.
        materials: among which a wrong ring may be.
    """
    return suspects_of(ON_BENCH[type(element)].planned(element, center_hz, materials))
