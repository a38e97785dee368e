"""What may lie on the bench: what was planned, and everything that goes wrong while winding it."""

from collections.abc import Sequence

from yielding_coil.core.bench.faults import FAULTS
from yielding_coil.core.bench.hypothesis import RIGHT, Fixture, Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.winding import Wiring

# A right winding against any one fault: more than half of what comes to the bench is right (common practice).
RIGHT_WEIGHT = 10.0
# Turns of one's own put beside a winding to know its core.
LINK_TURNS = 3


def suspects_of(planned: Planned) -> list[Hypothesis]:
    """A wound thing as planned, and with every fault that it can have."""
    right = Hypothesis(RIGHT, planned.part, planned.own, weight=RIGHT_WEIGHT, shaped=planned.shaped)
    return [right, *(suspect for fault in FAULTS for suspect in fault(planned))]


def transformer_suspects(
    planned: Transformer,
    spreads: Sequence[Spread],
    *,
    wiring: Wiring,
    crossed: bool = False,
    others: Sequence[Ring] = (),
) -> list[Hypothesis]:
    """A transformer on a `Ring`, and what may have gone wrong with it; arguments as `Planned` has them."""
    turns = planned.secondary_turns
    return suspects_of(Planned(planned, turns, tuple(spreads), wiring, crossed, tuple(others)))


def ring_suspects(
    planned: RingCoil, spreads: Sequence[Spread], *, crossed: bool = False, others: Sequence[Ring] = ()
) -> list[Hypothesis]:
    """A coil or a choke on rings alone, and what may have gone wrong with it."""
    return suspects_of(Planned(planned, planned.turns, tuple(spreads), None, crossed, tuple(others)))


def coil_suspects(planned: Inductor, turns: float, spreads: Sequence[Spread]) -> list[Hypothesis]:
    """An air coil alone, and a turn too many or too few."""
    return suspects_of(Planned(planned, turns, tuple(spreads)))


def trap_suspects(planned: Trap, turns: float, spreads: Sequence[Spread], *, own_f: float) -> list[Hypothesis]:
    """A trap across the port: a turn too many or too few, its capacitor missing or wrong, two turns touching.

    Args:
        turns: of its coil.
        own_f: capacitance that stays across it without the capacitor.
    """
    return suspects_of(Planned(planned, turns, tuple(spreads), own_f=own_f))


def transformer_setups(matching_resistor_ohm: float, in_hand: int = 1) -> list[Fixture]:
    """How a transformer can be swept: on its resistor, open, shorted, on half of it; wires in hand as one choke."""
    found = [
        Fixture("resistor", matching_resistor_ohm),
        Fixture("open"),
        Fixture("shorted", 0.0),
        Fixture("half", matching_resistor_ohm / 2),
        Fixture("link", link_turns=LINK_TURNS),
    ]
    return found if in_hand == 1 else [*found, Fixture("common", common=True)]


def alone_setups() -> list[Fixture]:
    """How something with two ends on a core can be swept: alone, or a few turns of one's own beside it."""
    return [Fixture("alone"), Fixture("link", link_turns=LINK_TURNS)]
