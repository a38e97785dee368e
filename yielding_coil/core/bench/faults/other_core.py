"""A ring of another mix, or one ring where a stack is planned."""

from dataclasses import replace

from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.transformer import Transformer


def other_core(planned: Planned) -> list[Hypothesis]:
    """Of everything on rings."""
    part, own, others = planned.part, planned.own, planned.others
    if not isinstance(part, Transformer | RingCoil):
        return []
    ring = part.ring
    assert isinstance(ring, Ring)
    found = []
    for other in others:
        spreads = tuple(
            replace(s, relative=other.material.tolerance) if s.field == "permeability_factor" else s for s in own
        )
        values = {"mix": other.material.mix}
        found.append(Hypothesis("other_mix", replace(part, ring=other), spreads, values, 1 / len(others)))
    if ring.stack > 1:
        found.append(Hypothesis("one_ring", replace(part, ring=replace(ring, stack=1)), own, {"stack": 1}))
    return found
