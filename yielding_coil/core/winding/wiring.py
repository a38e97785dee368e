"""How the wires of a transformer are joined: ununs and baluns, a row each, with the ends that meet anywhere."""

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from yielding_coil.core.errors import NotFoundError, OutOfDomainError

Kind = Literal[
    "tapped",
    "separate",
    "two-in-hand",
    "three-in-hand",
    "four-in-hand",
    "voltage-balun-4",
    "current-balun-1",
    "current-balun-4-one",
    "current-balun-4-two",
]

START, END, TAP = "start", "end", "tap"
HANDS = ("red", "blue", "copper", "ink")


Terminal = Literal["coax centre", "coax shield", "wire post", "counterpoise", "leg 1", "leg 2"]


@dataclass(frozen=True, slots=True)
class Join:
    """One place where wires meet.

    Args:
        at: the terminal; empty for a joint that goes nowhere else.
        ends: wire and which of its ends, or its tap.
    """

    at: Terminal | Literal[""]
    ends: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class Across:
    """A capacitor between two terminals: of one value, or variable from the lowest to the highest."""

    between: tuple[Terminal, Terminal]
    low_f: float
    high_f: float


# Turns of the usual primary, for which its leakage is told.
FEW = 2
# How the leakage of counted turns grows with them.
LEAKAGE_POWER = 1.55


@dataclass(frozen=True, slots=True)
class Wiring:
    """A way to join the wires of a transformer.

    Args:
        key: its name in designs.
        in_hand: wires wound together all along; 1 where the turns of two windings are counted.
        ratio: of turns, when the wires in hand fix it.
        joins: what meets where; of a tapped winding without a primary wire of its own see `joins_of`.
        rings: cores it takes (stacks count as one).
        share: of the input voltage that lies along each winding of a core, with a load that sits even.
        as_line: its wires run as a line; what magnetises the core is common to both.
        balanced: its output has two legs and no side at the coax's shield.
        leakage_h: nominal, from the primary, for each turn of one of two turns, and its two standard deviations
            (0.05 to 0.25 µH for a primary of a few turns, a range from memory).
    """

    key: Kind
    in_hand: int
    ratio: int | None
    joins: tuple[Join, ...]
    rings: int = 1
    share: float = 1.0
    as_line: bool = False
    balanced: bool = False
    leakage_h: float = 0.075e-6
    leakage_spread_h: float = 0.05e-6

    def leakage_at(self, primary_turns: float) -> float:
        """From the primary, in henry: of counted turns with their 1.55th power, of tight pairs with their length.

        Source:
            A sum of partial inductances of the drawn turns, 1 in 7 to 4 in 28 on two stacked rings: the square for
            one geometry, less where more turns spread further (computed; tests/core/winding/test_leakage.py).
        """
        grown = (primary_turns / FEW) ** (LEAKAGE_POWER - 1) if self.in_hand == 1 else 1.0
        return self.leakage_h * primary_turns * grown

    @property
    def strands(self) -> tuple[str, ...]:
        """The wires, as they are called."""
        return ("long", "primary") if self.in_hand == 1 else HANDS[: self.in_hand * self.rings]

    def secondary_turns(self, primary_turns: int, secondary_turns: int) -> int:
        """Turns of the whole secondary: as told, or by how many wires lie in hand."""
        return secondary_turns if self.ratio is None else primary_turns * self.ratio


def _in_hand(count: int) -> tuple[Join, ...]:
    """Each wire's end joins the next one's start; the input lies across the first wire."""
    joins = [Join("coax shield", (("red", START),)), Join("coax centre", (("red", END), ("blue", START)))]
    for earlier, later in pairwise(HANDS[1:count]):
        joins.append(Join("", ((earlier, END), (later, START))))
    return (*joins, Join("wire post", ((HANDS[count - 1], END),)))


_FOUR_TO_ONE = (
    Join("coax centre", (("red", START), ("copper", START))),
    Join("coax shield", (("blue", START), ("ink", START))),
    Join("leg 1", (("red", END),)),
    Join("", (("blue", END), ("copper", END))),
    Join("leg 2", (("ink", END),)),
)

# Wires that lie together all along leak little, a turn, and its two standard deviations (range from memory).
_CLOSE_H, _CLOSE_SPREAD_H = 0.004e-6, 0.003e-6

WIRINGS: Mapping[str, Wiring] = {
    wiring.key: wiring
    for wiring in (
        Wiring(
            "tapped",
            1,
            None,
            (
                Join("coax shield", (("long", START), ("primary", START))),
                Join("coax centre", (("primary", END),)),
                Join("wire post", (("long", END),)),
            ),
        ),
        Wiring(
            "separate",
            1,
            None,
            (
                Join("coax shield", (("primary", START),)),
                Join("coax centre", (("primary", END),)),
                Join("counterpoise", (("long", START),)),
                Join("wire post", (("long", END),)),
            ),
            leakage_h=0.1e-6,
        ),
        Wiring("two-in-hand", 2, 2, _in_hand(2), leakage_h=_CLOSE_H, leakage_spread_h=_CLOSE_SPREAD_H),
        Wiring("three-in-hand", 3, 3, _in_hand(3), leakage_h=_CLOSE_H, leakage_spread_h=_CLOSE_SPREAD_H),
        Wiring("four-in-hand", 4, 4, _in_hand(4), leakage_h=_CLOSE_H, leakage_spread_h=_CLOSE_SPREAD_H),
        Wiring(
            "voltage-balun-4",
            2,
            2,
            (
                Join("coax centre", (("red", START),)),
                Join("coax shield", (("red", END), ("blue", START))),
                Join("leg 1", (("red", START),)),
                Join("leg 2", (("blue", END),)),
            ),
            balanced=True,
            leakage_h=_CLOSE_H,
            leakage_spread_h=_CLOSE_SPREAD_H,
        ),
        Wiring(
            "current-balun-1",
            2,
            1,
            (
                Join("coax centre", (("red", START),)),
                Join("coax shield", (("blue", START),)),
                Join("leg 1", (("red", END),)),
                Join("leg 2", (("blue", END),)),
            ),
            share=0.5,
            as_line=True,
            balanced=True,
        ),
        Wiring("current-balun-4-one", 4, 2, _FOUR_TO_ONE, share=0.5, as_line=True, balanced=True),
        Wiring("current-balun-4-two", 2, 2, _FOUR_TO_ONE, rings=2, share=1.0, as_line=True, balanced=True),
    )
}


def wiring(key: str) -> Wiring:
    """A way to join the wires.

    Raises:
        NotFoundError: no such one.
    """
    if key not in WIRINGS:
        raise NotFoundError(f"there is no wiring “{key}”", field="wiring", came_in=key, accepted=", ".join(WIRINGS))
    return WIRINGS[key]


def joins_of(chosen: Wiring, primary_wire: bool) -> tuple[Join, ...]:
    """What meets where; a tapped winding without a primary wire of its own has its tap in the long wire.

    Raises:
        OutOfDomainError: only a tapped winding can do without.
    """
    if primary_wire or chosen.in_hand > 1:
        return chosen.joins
    if chosen.key != "tapped":
        raise OutOfDomainError("primary_wire", "left out", "a wire of its own for separate windings")
    return (
        Join("coax shield", (("long", START),)),
        Join("coax centre", (("long", TAP),)),
        Join("wire post", (("long", END),)),
    )
