"""A coil of the right turns and another value: former, pitch or wire are not what was planned."""

from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.parts import Inductor
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.trap import Trap

# Two standard deviations of the inductance, relative; and of its Q, which then says nothing either.
OFF, LOSS_OFF = 0.6, 0.9
# Seldom, against a turn miscounted: former and wire are measured, and the pitch is held (common practice).
OFTEN = 0.3


def value_off(planned: Planned) -> list[Hypothesis]:
    """Of coils on air, and of a trap's."""
    if not isinstance(planned.part, Inductor | Trap):
        return []
    kept = [s for s in planned.own if s.field not in ("inductance_h", "q")]
    name = planned.own[0].element if planned.own else "part"
    wide = [Spread("value", name, "inductance_h", OFF), Spread("loss", name, "q", LOSS_OFF)]
    return [Hypothesis("value_off", planned.part, (*kept, *wide), weight=OFTEN, shaped=False)]
