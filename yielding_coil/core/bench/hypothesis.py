"""One thing that may lie on the bench, and how it is swept there."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from yielding_coil.core.finding import FaultCode
from yielding_coil.core.line import Line
from yielding_coil.core.parts import OnePort
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer

# Resistors, two standard deviations: of the trade's five per cent.
RESISTOR_TOLERANCE = 0.05
RIGHT: FaultCode = "right"
# How many turns are on it: one question, whichever the answer.
TURNS = "turns"
COUNTED: frozenset[FaultCode] = frozenset({"turn_more", "turn_less", "other_turns"})
# Faults of any size, down to none: whether they hide is no question.
GRADUAL: tuple[FaultCode, ...] = ("capacitor_wrong", "value_off", "resistor_off", "cracked_core")


@dataclass(frozen=True, slots=True)
class Fixture:
    """How a winding is swept on the bench.

    Args:
        key: its name.
        load_ohm: what is put on the other side; infinite when nothing is; not looked at for a thing alone.
        tolerance: of that resistor, two standard deviations over the value.
        link_turns: of a wire of one's own put on the same core beside what is wound, and swept in its place.
        common: all wires joined at each end, swept as one: what the core chokes.
    """

    key: str
    load_ohm: float = math.inf
    tolerance: float = RESISTOR_TOLERANCE
    link_turns: int | None = None
    common: bool = False


@dataclass(frozen=True, slots=True)
class Hypothesis:
    """One thing that may lie on the bench.

    Args:
        code: what it is called: "right", or a fault; suspects that share a code are weighed as one.
        part: the thing as it then is.
        spreads: of its values, by the key "part".
        values: what tells it from others of its code.
        weight: how often it happens, against the others.
        load_factor: of the resistor as it then counts; infinite where nothing of it is seen.
        load_doubt: two standard deviations of the resistor; as the set-up has it when None.
        shaped: whether a core's curve, known by its table only, plays a part.
    """

    code: FaultCode
    part: OnePort | Transformer | Line
    spreads: tuple[Spread, ...] = ()
    values: Mapping[str, float | str] = field(default_factory=dict)
    weight: float = 1.0
    load_factor: float = 1.0
    shaped: bool = True
    load_doubt: float | None = None


def name_of(code: FaultCode) -> str:
    """What suspects are weighed as: those of one name together."""
    return TURNS if code in COUNTED else code


def widened(spreads: Sequence[Spread], name: str, times: float) -> tuple[Spread, ...]:
    """Spreads with one field's many times as wide."""
    return tuple(
        replace(s, relative=s.relative * times, absolute=s.absolute * times) if s.field == name else s
        for s in spreads
    )
