"""A ring that fell, and was glued or tied: a gap in its path."""

from dataclasses import replace

from yielding_coil.core.bench.faults.faulty_ring import FaultyRing
from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.transformer import Transformer

# All gaps along the path together, metres: a glued crack to two badly closed ones (from memory).
GAPS_M = (30e-6, 60e-6, 120e-6, 240e-6, 480e-6)


def cracked_core(planned: Planned) -> list[Hypothesis]:
    """Of everything on rings of ferrite: powder has its gap everywhere."""
    part = planned.part
    if not isinstance(part, Transformer | RingCoil) or not isinstance(part.ring, Ring):
        return []
    if part.ring.material.kind == "powder":
        return []
    return [
        Hypothesis(
            "cracked_core",
            replace(part, ring=FaultyRing(part.ring, gap)),
            planned.own,
            {"gap_m": gap},
            1 / len(GAPS_M),
        )
        for gap in GAPS_M
    ]
