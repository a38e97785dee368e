"""Two turns that touch: a closed ring in the field of the others."""

from dataclasses import replace

import numpy as np

from yielding_coil.core.bench.faults.faulty_ring import FaultyRing
from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap

# Of a closed turn round a ring, not linked by the others: a few centimetres of wire (from memory).
CLOSED_H = (10e-9, 30e-9)
# Enamel seldom touches there, against a turn that was miscounted (common practice).
ON_RING = 0.03
# Of a closed turn in an air coil: what its Q falls to, and how wide both stray.
LOSS, LOSS_SPREAD, VALUE_SPREAD = 0.1, 1.0, 1.0


def shorted_turn(planned: Planned) -> list[Hypothesis]:
    """Less inductance, hardly any Q."""
    part = planned.part
    if isinstance(part, Transformer | RingCoil) and isinstance(part.ring, Ring):
        return [
            Hypothesis(
                "shorted_turn",
                replace(part, ring=FaultyRing(part.ring, closed_h=henry)),
                planned.own,
                weight=ON_RING / len(CLOSED_H),
            )
            for henry in CLOSED_H
        ]
    if not isinstance(part, Trap | Inductor):
        return []
    henry = float(np.asarray(part.inductance_h)) * (1 - 1 / planned.turns)
    q = min(float(np.asarray(part.q)), 1000.0) * LOSS
    spreads = (
        *(s for s in planned.own if s.field not in ("inductance_h", "q")),
        Spread("value", "part", "inductance_h", VALUE_SPREAD / planned.turns),
        Spread("loss", "part", "q", LOSS_SPREAD),
    )
    return [Hypothesis("shorted_turn", replace(part, inductance_h=henry, q=q), spreads, shaped=False)]
