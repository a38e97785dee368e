"""The tap, or the primary, a turn too high or too low."""

from yielding_coil.core.bench.faults.turn_count import with_turns
from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.finding import FaultCode
from yielding_coil.core.transformer import Transformer

_CODES: tuple[tuple[int, FaultCode], ...] = ((1, "tap_more"), (-1, "tap_less"))


def tap(planned: Planned) -> list[Hypothesis]:
    """Where the turns of two windings are counted."""
    part = planned.part
    if not isinstance(part, Transformer) or not planned.counted:
        return []
    m, n = round(part.primary_turns), round(part.secondary_turns)
    return [
        Hypothesis(code, with_turns(part, m + more, n), planned.own, {"turns": m + more})
        for more, code in _CODES
        if 1 <= m + more <= n
    ]
