"""Two halves that magnetise against each other."""

import math
from dataclasses import replace

from yielding_coil.core.bench.hypothesis import Hypothesis, widened
from yielding_coil.core.bench.planned import LEFT_TURNS, Planned, bucking_turns
from yielding_coil.core.ring import RingCoil
from yielding_coil.core.transformer import Transformer


def bucking(planned: Planned) -> list[Hypothesis]:
    """Of what is wound half and half."""
    part, own = planned.part, planned.own
    if not planned.crossed:
        return []
    if isinstance(part, RingCoil):
        left = bucking_turns(round(part.turns))
        spread = tuple(replace(s, relative=1.0) if s.field == "permeability_factor" else s for s in own)
        return [Hypothesis("bucking", replace(part, turns=max(left, LEFT_TURNS)), spread, {"turns": left})]
    if not isinstance(part, Transformer) or planned.wiring is None:
        return []
    m, n = round(part.primary_turns), round(part.secondary_turns)
    if planned.counted and not planned.wiring.as_line:
        left = bucking_turns(n)
        # Nothing, or one turn, of the long winding is left to drive the resistor.
        factor = math.inf if left == 0 else (n / left) ** 2
        wide = widened(own, "leakage_h", 1.5)
        return [Hypothesis("bucking", part, wide, {"turns": left}, load_factor=factor)]
    # Wires in hand carry each other over as ever, but the core is left out: next to a short across the input.
    left = bucking_turns(m)
    return [Hypothesis("bucking", replace(part, core_turns=max(left, LEFT_TURNS)), own, {"turns": left})]
