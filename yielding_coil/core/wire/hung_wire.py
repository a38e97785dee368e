"""A wire as it hangs: what of each leg was cut, folded, spliced since it went up. Acts give a new one."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire.lengths import Arrangement, segments

WireAct = Literal["fold", "cut", "unfold", "splice", "cut_folds"]


@dataclass(frozen=True, slots=True)
class HungWire:
    """Pieces of one leg, highest band first, each as cut and how much of it is folded back; means over the legs.

    `uneven_m` is how much longer one leg has become than the other.
    """

    arrangement: Arrangement
    pieces_m: tuple[float, ...]
    folded_m: tuple[float, ...]
    uneven_m: float = 0.0

    @classmethod
    def hung(
        cls, reach_m: Sequence[float], arrangement: Arrangement = "linked", folded_m: Sequence[float] = ()
    ) -> "HungWire":
        """As it went up: from the feedpoint to where each band ends, highest band first, folds included.

        Args:
            folded_m: how much of each band's piece is folded back already; none where left out.

        Raises:
            OutOfDomainError: no length, lengths that do not rise, or a fold longer than its piece.
        """
        if not reach_m:
            raise OutOfDomainError("reach_m", "empty", "one length a band")
        pieces = tuple(segments(reach_m, arrangement))
        folded = (*folded_m, *(0.0,) * (len(pieces) - len(folded_m)))[: len(pieces)]
        for piece, back in zip(pieces, folded, strict=True):
            if not 0 <= back < piece:
                raise OutOfDomainError("folded_m", f"{back:.3f} m", f"less than its piece, {piece:.3f} m")
        return cls(arrangement, pieces, folded)

    def leg(self, link: int) -> tuple[float, float]:
        """One leg from the feedpoint to the end of a band, folds included, and how much is folded, in metres."""
        own = slice(0, link + 1) if self.arrangement == "linked" else slice(link, link + 1)
        return sum(self.pieces_m[own]), sum(self.folded_m[own])

    def after(self, link: int, done: WireAct, per_leg_m: Sequence[float]) -> "HungWire":
        """After an act on the piece of a band, one amount a leg; cutting off folds takes all there are.

        Raises:
            OutOfDomainError: no such band, an amount not above zero, more than the leg has.
        """
        if not 0 <= link < len(self.pieces_m):
            raise OutOfDomainError("link", link, f"one of the {len(self.pieces_m)} bands of this wire, from 0")
        piece, folded = self.pieces_m[link], self.folded_m[link]
        if done == "cut_folds":
            if folded <= 0:
                raise OutOfDomainError("act", "cutting off folds", "one of a leg that has folds")
            return self._with(link, piece - folded, 0.0)
        if not per_leg_m:
            raise OutOfDomainError("per_leg_m", "empty", "one amount a leg")
        for amount in per_leg_m:
            require_positive("per_leg_m", amount)
        amount, most = float(np.mean(per_leg_m)), max(per_leg_m)
        room = {"fold": piece - folded, "cut": piece - folded, "unfold": folded, "splice": float("inf")}[done]
        # An unfolding of all there is may differ in its last bits; a leg folded or cut away whole is none.
        if most > room + 1e-9 or (done in ("fold", "cut") and most >= room):
            what = {"fold": "to fold is", "cut": "to cut is", "unfold": "folded back is", "splice": ""}[done]
            raise OutOfDomainError("per_leg_m", f"{most:.3f} m", f"less than what there {what}, {room:.3f} m a leg")
        uneven = self.uneven_m + (per_leg_m[-1] - per_leg_m[0]) * (1 if done in ("unfold", "splice") else -1)
        left = replace(self, uneven_m=uneven)
        if done == "fold":
            return left._with(link, piece, folded + amount)
        if done == "unfold":
            return left._with(link, piece, max(0.0, folded - amount))
        return left._with(link, piece - amount if done == "cut" else piece + amount, folded)

    def _with(self, link: int, piece_m: float, folded_m: float) -> "HungWire":
        pieces, folded = list(self.pieces_m), list(self.folded_m)
        pieces[link], folded[link] = piece_m, folded_m
        return replace(self, pieces_m=tuple(pieces), folded_m=tuple(folded))


@dataclass(frozen=True, slots=True)
class HungUp:
    """It went up: one leg from the feedpoint to where each band ends, highest band first."""

    reach_m: tuple[float, ...]
    arrangement: Arrangement = "linked"
    folded_m: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class ActOn:
    """Something was done to the piece of a band, one amount a leg."""

    link: int
    act: WireAct
    per_leg_m: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class ReadOn:
    """Something was read on a band."""

    link: int


WireEvent = HungUp | ActOn | ReadOn


def replay(events: Sequence[WireEvent | None]) -> list[HungWire | None]:
    """How the wire hung after each event; None before it went up.

    Args:
        events: of a log, oldest first; None for what does not concern the wire.

    Raises:
        OutOfDomainError: an act on a wire that does not hang yet, or that it cannot have had.
    """
    hanging: HungWire | None = None
    out: list[HungWire | None] = []
    for event in events:
        if isinstance(event, HungUp):
            hanging = HungWire.hung(event.reach_m, event.arrangement, event.folded_m)
        elif event is not None:
            if hanging is None:
                raise OutOfDomainError("entry", "of a wire not hung yet", "after how long its legs are as it hangs")
            if isinstance(event, ActOn):
                hanging = hanging.after(event.link, event.act, event.per_leg_m)
            elif event.link >= len(hanging.pieces_m):
                raise OutOfDomainError("link", event.link, f"one of {len(hanging.pieces_m)} bands, from 0")
        out.append(hanging)
    return out
