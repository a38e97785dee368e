"""A turn too many or too few."""

from dataclasses import replace

import numpy as np

from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import TAKEN_AS_TURN, Planned
from yielding_coil.core.finding import FaultCode
from yielding_coil.core.parts import Inductor, OnePort
from yielding_coil.core.ring import RingCoil
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import LEAKAGE_POWER

_CODES: tuple[tuple[int, FaultCode], ...] = ((1, "turn_more"), (-1, "turn_less"))


def turn_count(planned: Planned) -> list[Hypothesis]:
    """Of the whole winding; of every wire in hand at once."""
    found = []
    for more, code in _CODES:
        miscounted = _miscounted(planned, more)
        if miscounted is not None:
            part, turns = miscounted
            found.append(Hypothesis(code, part, planned.own, {"turns": turns}, shaped=planned.shaped))
    return found


def _miscounted(planned: Planned, more: int) -> tuple[OnePort | Transformer, float] | None:
    """The thing with so many turns more, and how many it then has; None where there is no such thing."""
    part = planned.part
    if isinstance(part, Transformer):
        m, n = round(part.primary_turns), round(part.secondary_turns)
        if planned.counted:
            return (with_turns(part, m, n + more), n + more) if n + more >= m else None
        return (with_turns(part, m + more, (m + more) * n // m), m + more) if m + more >= 1 else None
    if isinstance(part, RingCoil):
        n = round(part.turns)
        return (replace(part, turns=n + more), n + more) if n + more >= 1 else None
    turns = planned.turns
    if isinstance(part, Inductor):
        # What of a single turn is left when it is missing is a piece of wire, no coil.
        if turns + more <= 0:
            return None
        henry = np.asarray(part.inductance_h) * (1 + more / turns) ** TAKEN_AS_TURN
        return replace(part, inductance_h=henry), turns + more
    if turns + more < 1:
        return None
    return (
        replace(part, inductance_h=float(np.asarray(part.inductance_h)) * (1 + more / turns) ** TAKEN_AS_TURN),
        turns + more,
    )


def with_turns(part: Transformer, primary: int, secondary: int) -> Transformer:
    """A transformer with other turns; its leakage goes with a power of the primary's."""
    leakage = np.asarray(part.leakage_h) * (primary / round(part.primary_turns)) ** LEAKAGE_POWER
    return replace(part, primary_turns=primary, secondary_turns=secondary, leakage_h=leakage)
