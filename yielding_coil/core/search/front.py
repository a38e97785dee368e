"""The best compromises among networks: nothing that was looked at is better in one thing and nowhere worse.

SWR and loss are compared as they are shown: a difference that nobody sees decides nothing, size and price do.
"""

import math
from collections.abc import Callable, Sequence
from typing import NamedTuple, Protocol, TypeVar

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.search.kernel import Ints

# Steps in which SWR over its limit, and loss in dB, are shown and compared.
EXCESS_STEP, LOSS_STEP_DB = 0.005, 0.01


class Worth(NamedTuple):
    """What a network is compared by: steps of SWR over its limit, steps of loss, parts."""

    excess: int
    loss: int
    parts: int

    def dominates(self, other: "Worth") -> bool:
        """Whether it is nowhere worse and somewhere better."""
        return self != other and all(a <= b for a, b in zip(self, other, strict=True))


def steps(excess: Real, loss_db: Real) -> tuple[Ints, Ints]:
    """Both in whole steps."""
    capped = np.minimum(np.asarray(excess), 1e6)
    return (
        np.rint(capped / EXCESS_STEP).astype(np.int64),
        np.rint(np.minimum(loss_db, 1e6) / LOSS_STEP_DB).astype(np.int64),
    )


def undominated(excess: Ints, loss: Ints, ties: Real, holds: Callable[[Ints], np.ndarray]) -> Ints:
    """Those of one count of parts that no other beats, by their places in the arrays; one for each pair of values.

    Args:
        excess, loss: in steps.
        ties: smaller is better where both are the same.
        holds: which of some places stay within what their parts bear; asked for as few as need be.
    """
    order = np.lexsort((ties, loss, excess))
    fine = np.zeros(len(order), dtype=bool)
    known = np.zeros(len(order), dtype=bool)
    asked = 0
    while True:
        if order.size == 0:
            return order
        before = np.minimum.accumulate(np.concatenate([[np.iinfo(np.int64).max], loss[order][:-1]]))
        members = order[loss[order] < before]
        new = members[~known[members]]
        if new.size == 0:
            return members
        asked += 1
        if asked > ASKED_SINGLY:
            # Many fail: everything that is left is asked at once.
            new = order[~known[order]]
        known[new] = True
        fine[new] = holds(new)
        order = order[fine[order] | ~known[order]]


# After so many rounds in which some front members fail, all others are asked together.
ASKED_SINGLY = 4


class Valued(Protocol):
    """Anything with a worth, and what decides between equals."""

    @property
    def worth(self) -> Worth: ...

    @property
    def ties(self) -> tuple[float, ...]: ...

    @property
    def kind(self) -> str: ...


Some = TypeVar("Some", bound=Valued)


def front_of(some: Sequence[Some]) -> list[Some]:
    """Those that no other dominates, best SWR first; of equals the one that is smaller, then cheaper."""
    kept: dict[Worth, Some] = {}
    for one in some:
        same = kept.get(one.worth)
        if same is None or one.ties < same.ties:
            kept[one.worth] = one
    return [
        one
        for worth, one in sorted(kept.items(), key=lambda pair: pair[0])
        if not any(other.dominates(worth) for other in kept)
    ]


# What another network adds to a distance on the front, and from where on a card shows something new.
OTHER_NETWORK, NEW = 0.5, 0.08


def spread_out(front: Sequence[Some], most: int) -> list[Some]:
    """At most so many of a front, far from each other: its ends, then always the one farthest from those taken.

    Distances are shares of what the whole front spans; one that lies next to a like network already taken is left.
    """
    worths = [one.worth for one in front]
    at = np.array([[math.log(max(w.excess, 1)), math.sqrt(w.loss), w.parts] for w in worths]).reshape(-1, 3)
    span = np.ptp(at, axis=0) if len(front) else np.ones(3)
    at = at / np.where(span > 0, span, 1.0)
    kinds = np.array([one.kind for one in front])

    def away_from(k: int) -> Real:
        return np.asarray(np.abs(at - at[k]).sum(axis=1) + OTHER_NETWORK * (kinds != kinds[k]))

    taken = list(dict.fromkeys(int(at[:, k].argmin()) for k in (0, 1, 2))) if len(front) else []
    away = np.min([away_from(k) for k in taken], axis=0) if taken else np.zeros(0)
    while len(taken) < min(most, len(front)):
        k = int(away.argmax())
        if away[k] < NEW:
            break
        taken.append(k)
        away = np.minimum(away, away_from(k))
    return [front[k] for k in sorted(taken)]
