"""Quite another count of turns: four for nine, a recipe for another ring."""

from collections.abc import Iterable
from dataclasses import replace

from yielding_coil.core.bench.faults.turn_count import with_turns
from yielding_coil.core.bench.hypothesis import Hypothesis
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.ring import RingCoil
from yielding_coil.core.transformer import Transformer

# As far as so many times the turns planned, and no further than so many turns off.
TIMES, MOST_OFF = 1.7, 6


def other_turns(planned: Planned) -> list[Hypothesis]:
    """Of wires in hand, and of turns on a core; of a counted transformer its whole winding."""
    part = planned.part
    if isinstance(part, Transformer):
        m, n = round(part.primary_turns), round(part.secondary_turns)
        counts = [k for k in _counts(n if planned.counted else m) if k >= m or not planned.counted]
        made = [(with_turns(part, m, k) if planned.counted else with_turns(part, k, k * n // m), k) for k in counts]
        return [_of(planned, wound, k, len(counts)) for wound, k in made]
    if isinstance(part, RingCoil):
        counts = _counts(round(part.turns))
        return [_of(planned, replace(part, turns=k), k, len(counts)) for k in counts]
    return []


def _counts(turns: int) -> list[int]:
    """Turns that are off by more than one."""
    most = min(round(TIMES * turns), turns + MOST_OFF)
    off: Iterable[int] = range(max(1, turns - MOST_OFF), most + 1)
    return [k for k in off if abs(k - turns) > 1]


def _of(planned: Planned, wound: Transformer | RingCoil, turns: int, of: int) -> Hypothesis:
    return Hypothesis("other_turns", wound, planned.own, {"turns": turns}, 1 / of)
