"""What lies on the bench as it was planned, and what one thing that may lie there instead looks like."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from yielding_coil.core.parts import Inductor
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.winding import Wiring

PART = "part"
# What is left where halves cancel whole: leakage, of the order of a turn squared in air.
LEFT_TURNS = 0.1
# A turn of a coil that sits elsewhere moves its inductance by two parts of its turns.
TAKEN_AS_TURN = 2.0


@dataclass(frozen=True, slots=True)
class Planned:
    """A wound thing as it was planned.

    Args:
        part: as it computes.
        turns: of the coil, or of the whole winding.
        spreads: of its values, whatever their key.
        wiring: of a transformer: how its wires are joined.
        crossed: wound half and half.
        others: rings of the same size and of other mixes.
        own_f: of a trap: what stays across it without the capacitor.
    """

    part: Transformer | RingCoil | Inductor | Trap
    turns: float
    spreads: tuple[Spread, ...]
    wiring: Wiring | None = None
    crossed: bool = False
    others: tuple[Ring, ...] = ()
    own_f: float = 0.0

    @property
    def own(self) -> tuple[Spread, ...]:
        """Its spreads under the one key that suspects have."""
        return named(self.spreads)

    @property
    def shaped(self) -> bool:
        """Whether a core's curve, known by its table only, plays a part."""
        return isinstance(self.part, Transformer | RingCoil)

    @property
    def counted(self) -> bool:
        """Whether the turns of two windings are counted, not wires in hand."""
        return self.wiring is not None and self.wiring.in_hand == 1


def named(spreads: Sequence[Spread]) -> tuple[Spread, ...]:
    """Spreads of a part under the one key that suspects have."""
    return tuple(replace(s, element=PART) for s in spreads)


def bucking_turns(turns: int) -> int:
    """Turns that are left when the second half magnetises against the first.

    Turns of one direction count plus, those that magnetise the other way minus; what is left of them carries.

    >>> bucking_turns(9), bucking_turns(16)
    (1, 0)
    """
    return math.ceil(turns / 2) - turns // 2
