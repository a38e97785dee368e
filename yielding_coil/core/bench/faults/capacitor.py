"""The capacitor missing, or of another value."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from yielding_coil.core.bench.hypothesis import Hypothesis, widened
from yielding_coil.core.bench.planned import Planned
from yielding_coil.core.parts import OnePort
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap

# A wrong capacitor is this many times the right one: a value read wrongly, a decade off; each with its doubt.
WRONG_TIMES = (0.1, 0.2, 0.35, 0.6, 1.6, 2.8, 5.0, 10.0)
WRONG_SPREAD = 0.5


def capacitor(planned: Planned) -> list[Hypothesis]:
    """Across the input of a transformer, or in a trap."""
    part, own = planned.part, planned.own
    if isinstance(part, Transformer):
        farad = float(np.asarray(part.input_capacitance_f))
        without = tuple(s for s in own if s.field != "input_capacitance_f")
        return _missing_or_wrong(
            planned,
            farad,
            0.0,
            without,
            "input_capacitance_f",
            lambda value: replace(part, input_capacitance_f=value),
        )
    if isinstance(part, Trap):
        farad = float(np.asarray(part.capacitance_f))
        return _missing_or_wrong(
            planned,
            farad,
            planned.own_f,
            widened(own, "capacitance_f", 4.0),
            "capacitance_f",
            lambda value: replace(part, capacitance_f=value),
        )
    return []


def _missing_or_wrong(
    planned: Planned,
    farad: float,
    left_f: float,
    without: tuple[Spread, ...],
    field: str,
    made: Callable[[float], OnePort | Transformer],
) -> list[Hypothesis]:
    """Without it what is left stays across; nothing where there is none in the plan."""
    if farad <= left_f:
        return []
    found = [Hypothesis("capacitor_missing", made(left_f), without, shaped=planned.shaped)]
    spread = tuple(replace(s, relative=WRONG_SPREAD) if s.field == field else s for s in planned.own)
    for times in WRONG_TIMES:
        wrong = left_f + (farad - left_f) * times
        found.append(
            Hypothesis(
                "capacitor_wrong",
                made(wrong),
                spread,
                {"capacitance_f": wrong},
                weight=1 / len(WRONG_TIMES),
                shaped=planned.shaped,
            )
        )
    return found
