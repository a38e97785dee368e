"""Two turns of a trap's coil that touch."""

from dataclasses import replace

import numpy as np

from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.bench.verdict import Hypothesis
from yielding_coil.core.trap import Trap


def shorted_turn(planned: Planned) -> list[Hypothesis]:
    """A turn that touches the next is a closed ring in the coil's field: less inductance, hardly any Q."""
    part = planned.part
    if not isinstance(part, Trap):
        return []
    henry = float(np.asarray(part.inductance_h)) * (1 - 1 / planned.turns)
    shorted = replace(part, inductance_h=henry, q=float(np.asarray(part.q)) / 10)
    return [Hypothesis("shorted_turn", shorted, planned.own, shaped=False)]
