"""One wire joined the wrong way round."""

import math

from yielding_coil.core.bench.hypothesis import Hypothesis, widened
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.transformer import Transformer


def reversed_wire(planned: Planned) -> list[Hypothesis]:
    """Of wires in hand.

    A primary that is a wire of its own may point either way: on a resistor, and on a wire of an antenna, the same
    is seen, so it is no fault there.
    """
    part, wiring = planned.part, planned.wiring
    if not isinstance(part, Transformer) or wiring is None or wiring.as_line or wiring.in_hand == 1:
        return []
    m, n = round(part.primary_turns), round(part.secondary_turns)
    # One of the wires after the first counts backwards: two wires fewer carry the load.
    left = n // m - 2
    factor = math.inf if left == 0 else (n / m / left) ** 2
    own = widened(planned.own, "leakage_h", 1.5)
    return [Hypothesis("reversed", part, own, {"wires": left}, load_factor=factor)]
