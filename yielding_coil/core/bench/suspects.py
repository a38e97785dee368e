"""What goes wrong while winding, as the things that then lie on the bench: suspects for `verdict.judge`.

Turns of one direction count plus, those that magnetise the other way minus; what is left of them carries.
"""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from yielding_coil.core.bench.verdict import Setup, Suspect, widened
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.winding import Wiring

PART = "part"
# A right winding against any one fault: more than half of what comes to the bench is right (common practice).
RIGHT_WEIGHT = 10.0
# A wrong capacitor is this many times the right one: a value read wrongly, a decade off; each with its doubt.
WRONG_TIMES = (0.1, 0.2, 0.35, 0.6, 1.6, 2.8, 5.0, 10.0)
WRONG_SPREAD = 0.5
# What is left where halves cancel whole: leakage, of the order of a turn squared in air.
LEFT_TURNS = 0.1
# Turns of one's own put beside a winding to know its core.
LINK_TURNS = 3
# A turn of a coil that sits elsewhere moves its inductance by two parts of its turns.
TAKEN_AS_TURN = 2.0


def named(spreads: Sequence[Spread]) -> tuple[Spread, ...]:
    """Spreads of a part under the one key that suspects have."""
    return tuple(replace(s, element=PART) for s in spreads)


def bucking_turns(turns: int) -> int:
    """Turns that are left when the second half magnetises against the first."""
    return math.ceil(turns / 2) - turns // 2


def transformer_suspects(
    planned: Transformer,
    spreads: Sequence[Spread],
    *,
    wiring: Wiring,
    crossed: bool = False,
    others: Sequence[Ring] = (),
) -> list[Suspect]:
    """A transformer as planned, and what may have gone wrong with it.

    Args:
        planned: as designed, on a `Ring`.
        spreads: of its values, whatever their key.
        wiring: how its wires are joined.
        crossed: whether it is wound half and half.
        others: rings of the same size and of other mixes.
    """
    ring = planned.ring
    assert isinstance(ring, Ring)
    m, n = round(planned.primary_turns), round(planned.secondary_turns)
    own = named(spreads)
    found = [Suspect("right", planned, own, weight=RIGHT_WEIGHT)]

    def wound(primary: int, secondary: int) -> Transformer:
        return replace(
            planned,
            primary_turns=primary,
            secondary_turns=secondary,
            leakage_h=np.asarray(planned.leakage_h) * primary / m,
        )

    counted = wiring.in_hand == 1
    for more, code in ((1, "turn_more"), (-1, "turn_less")):
        if counted and n + more >= m:
            found.append(Suspect(code, wound(m, n + more), own, {"turns": n + more}))
        elif not counted and m + more >= 1:
            found.append(Suspect(code, wound(m + more, (m + more) * n // m), own, {"turns": m + more}))
    if counted:
        for more, code in ((1, "tap_more"), (-1, "tap_less")):
            if 1 <= m + more <= n:
                found.append(Suspect(code, wound(m + more, n), own, {"turns": m + more}))
    found += _reversed(planned, own, wiring, m, n)
    if crossed and counted and not wiring.as_line:
        left = bucking_turns(n)
        # Nothing, or one turn, of the long winding is left to drive the resistor.
        factor = math.inf if left == 0 else (n / left) ** 2
        found.append(
            Suspect("bucking", planned, widened(own, "leakage_h", 1.5), {"turns": left}, load_factor=factor)
        )
    elif crossed:
        # Wires in hand carry each other over as ever, but the core is left out: next to a short across the input.
        left = bucking_turns(m)
        found.append(Suspect("bucking", replace(planned, core_turns=max(left, LEFT_TURNS)), own, {"turns": left}))
    found += _other_cores(planned, ring, own, others)
    capacitor = float(np.asarray(planned.input_capacitance_f))
    if capacitor > 0:
        without = tuple(s for s in own if s.field != "input_capacitance_f")
        found.append(Suspect("capacitor_missing", replace(planned, input_capacitance_f=0.0), without))
        for times in WRONG_TIMES:
            wrong = replace(planned, input_capacitance_f=capacitor * times)
            spread = [replace(s, relative=WRONG_SPREAD) if s.field == "input_capacitance_f" else s for s in own]
            found.append(
                Suspect(
                    "capacitor_wrong",
                    wrong,
                    tuple(spread),
                    {"capacitance_f": capacitor * times},
                    weight=1 / len(WRONG_TIMES),
                )
            )
    return found


def _reversed(planned: Transformer, own: tuple[Spread, ...], wiring: Wiring, m: int, n: int) -> list[Suspect]:
    """One wire joined the wrong way round.

    A primary that is a wire of its own may point either way: on a resistor, and on a wire of an antenna, the same
    is seen, so it is no fault there.
    """
    if wiring.as_line or wiring.in_hand == 1:
        return []
    # One of the wires after the first counts backwards: two wires fewer carry the load.
    left = n // m - 2
    factor = math.inf if left == 0 else (n / m / left) ** 2
    return [Suspect("reversed", planned, widened(own, "leakage_h", 1.5), {"wires": left}, load_factor=factor)]


def _other_cores(
    planned: Transformer | RingCoil, ring: Ring, own: tuple[Spread, ...], others: Sequence[Ring]
) -> list[Suspect]:
    """The same on a ring of another mix, and on one ring where a stack is planned."""
    found = []
    for other in others:
        spreads = tuple(
            replace(s, relative=other.material.tolerance) if s.field == "permeability_factor" else s for s in own
        )
        values = {"mix": other.material.mix}
        found.append(Suspect("other_mix", replace(planned, ring=other), spreads, values, 1 / len(others)))
    if ring.stack > 1:
        single = replace(planned, ring=replace(ring, stack=1))
        found.append(Suspect("one_ring", single, own, {"stack": 1}))
    return found


def transformer_setups(fitting_ohm: float, in_hand: int = 1) -> list[Setup]:
    """How a transformer can be swept: on its resistor, open, shorted, on half of it; wires in hand as one choke."""
    found = [
        Setup("resistor", fitting_ohm),
        Setup("open"),
        Setup("shorted", 0.0),
        Setup("half", fitting_ohm / 2),
        Setup("link", link_turns=LINK_TURNS),
    ]
    return found if in_hand == 1 else [*found, Setup("common", common=True)]


def alone_setups() -> list[Setup]:
    """How something with two ends on a core can be swept: alone, or a few turns of one's own beside it."""
    return [Setup("alone"), Setup("link", link_turns=LINK_TURNS)]


def ring_suspects(
    planned: RingCoil, spreads: Sequence[Spread], *, crossed: bool = False, others: Sequence[Ring] = ()
) -> list[Suspect]:
    """A coil or a choke on rings alone, and what may have gone wrong with it."""
    ring, n, own = planned.ring, round(planned.turns), named(spreads)
    found = [Suspect("right", planned, own, weight=RIGHT_WEIGHT)]
    for more, code in ((1, "turn_more"), (-1, "turn_less")):
        if n + more >= 1:
            found.append(Suspect(code, replace(planned, turns=n + more), own, {"turns": n + more}))
    if crossed:
        left = max(bucking_turns(n), LEFT_TURNS)
        spread = [replace(s, relative=1.0) if s.field == "permeability_factor" else s for s in own]
        found.append(Suspect("bucking", replace(planned, turns=left), tuple(spread), {"turns": bucking_turns(n)}))
    found += _other_cores(planned, ring, own, others)
    return found


def coil_suspects(planned: Inductor, turns: float, spreads: Sequence[Spread]) -> list[Suspect]:
    """An air coil alone, and a turn too many or too few."""
    own = named(spreads)
    found = [Suspect("right", planned, own, weight=RIGHT_WEIGHT, shaped=False)]
    for more, code in ((1.0, "turn_more"), (-1.0, "turn_less")):
        times = (1 + more / turns) ** TAKEN_AS_TURN
        if times > 0:
            found.append(
                Suspect(
                    code,
                    replace(planned, inductance_h=np.asarray(planned.inductance_h) * times),
                    own,
                    {"turns": turns + more},
                    shaped=False,
                )
            )
    return found


def trap_suspects(planned: Trap, turns: float, spreads: Sequence[Spread], *, own_f: float) -> list[Suspect]:
    """A trap across the port: a turn too many or too few, its capacitor missing or wrong, two turns touching.

    Args:
        turns: of its coil.
        own_f: capacitance that stays across it without the capacitor.
    """
    own = named(spreads)
    henry, farad = float(np.asarray(planned.inductance_h)), float(np.asarray(planned.capacitance_f))
    found = [Suspect("right", planned, own, weight=RIGHT_WEIGHT, shaped=False)]
    for more, code in ((1.0, "turn_more"), (-1.0, "turn_less")):
        if turns + more >= 1:
            coil = replace(planned, inductance_h=henry * (1 + more / turns) ** TAKEN_AS_TURN)
            found.append(Suspect(code, coil, own, {"turns": turns + more}, shaped=False))
    # A turn that touches the next is a closed ring in the coil's field: less inductance, hardly any Q.
    shorted = replace(planned, inductance_h=henry * (1 - 1 / turns), q=float(np.asarray(planned.q)) / 10)
    found.append(Suspect("shorted_turn", shorted, own, shaped=False))
    if own_f < farad:
        missing = replace(planned, capacitance_f=own_f)
        found.append(Suspect("capacitor_missing", missing, widened(own, "capacitance_f", 4.0), shaped=False))
        spread = tuple(replace(s, relative=WRONG_SPREAD) if s.field == "capacitance_f" else s for s in own)
        for times in WRONG_TIMES:
            wrong = own_f + (farad - own_f) * times
            found.append(
                Suspect(
                    "capacitor_wrong",
                    replace(planned, capacitance_f=wrong),
                    spread,
                    {"capacitance_f": wrong},
                    weight=1 / len(WRONG_TIMES),
                    shaped=False,
                )
            )
    return found
