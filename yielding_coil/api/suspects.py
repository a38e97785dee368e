"""What may lie on the bench in place of a wound element, and how it can be swept: a design's part for the core."""

from yielding_coil import data
from yielding_coil.core.bench import Setup, Suspect
from yielding_coil.core.bench import suspects as faults
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.documents.choke_and_trap import Choke, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import DesignContent, Windable
from yielding_coil.documents.ring_wound import CAPACITANCE_SPREAD_F, CoilOnRing, RingCore, WoundTransformer


def fitting_ohm(element: WoundTransformer) -> float:
    """The resistor that shows 50 Ω through an ideal core: fifty times the impedance ratio."""
    return 50.0 * (element.secondary / element.primary_turns) ** 2


def setups_of(element: Windable, resistor_ohm: float | None = None) -> list[Setup]:
    """How it can be swept on the bench, the usual way first."""
    if isinstance(element, WoundTransformer):
        return faults.transformer_setups(resistor_ohm or fitting_ohm(element), element.way.in_hand)
    if isinstance(element, CoilOnRing) or (isinstance(element, Choke) and element.core is not None):
        return faults.alone_setups()
    return faults.alone_setups()[:1]


def _others(core: RingCore) -> list[Ring]:
    """The same size in the other mixes of its family."""
    kind = data.ring_material(core.mix).kind
    size = data.ring_size(core.size)
    return [
        Ring(material, size, core.stack)
        for material in data.ring_materials().values()
        if material.kind == kind and material.mix != core.mix
    ]


def suspects_of(content: DesignContent, element: Windable) -> list[Suspect]:
    """The element as planned, and what may have gone wrong with it."""
    center = content.center_hz
    if isinstance(element, WoundTransformer):
        return faults.transformer_suspects(
            element.to_core(center),
            element.spreads(center),
            wiring=element.way,
            crossed=element.crossed,
            others=_others(element.core),
        )
    if isinstance(element, Coil):
        wound = element.to_core(center)
        spreads = (
            *element.spreads(center),
            Spread("own capacitance", element.key, "self_capacitance_f", 0.3),
            Spread("loss", element.key, "q", 0.4),
        )
        return faults.coil_suspects(wound, element.turns(center), spreads)
    if isinstance(element, WireTrap):
        farad = 1.0 if element.coax is None else 0.0
        trap = element.to_core()
        own = float(trap.capacitance_f) - farad * element.capacitance_f
        return faults.trap_suspects(trap, element.turns, element.spreads(), own_f=own)
    if isinstance(element, CoilOnRing):
        part: RingCoil | Inductor = element.to_core(center)
        stray = Spread("stray", element.key, "winding_capacitance_f", absolute=CAPACITANCE_SPREAD_F)
        spreads_of: tuple[Spread, ...] = (*element.spreads(center), stray)
        core, crossed = element.core, element.crossed
    else:
        part, spreads_of = element.to_core(), element.spreads()
        if isinstance(part, Inductor):
            return faults.coil_suspects(part, element.turns, spreads_of)
        core, crossed = element.on_ring, element.crossed
    assert isinstance(part, RingCoil)
    return faults.ring_suspects(part, spreads_of, crossed=crossed, others=_others(core))
