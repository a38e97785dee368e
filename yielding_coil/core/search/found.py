"""What a search is asked, and what it finds: networks that can be made, and how far it has come."""

import math
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.design import Design
from yielding_coil.core.element import DesignElement
from yielding_coil.core.search.front import Worth, steps
from yielding_coil.core.search.ideal import Ideal
from yielding_coil.core.search.network import Network
from yielding_coil.core.search.shelf import Item, Shelf
from yielding_coil.core.search.topology import TOPOLOGIES, Family, Slot, Topology
from yielding_coil.core.target import Target

# A fifth of the power.
MOST_LOSS_DB = 1.0

Stage = Literal["ideal", "making", "yield", "done"]


@dataclass(frozen=True, slots=True)
class SearchTask:
    """What is searched for.

    Args:
        design: its antenna and targets; of its elements only the line stays.
        shelf: what parts are made from.
        power_w: peak envelope at the radio.
        duty: share of it that heats, by the mode.
        most_parts: of a network, places counted.
        most_loss_db: in the network; what loses more is no match but a heater.
        topologies: that are looked at.
        seed: of the search's own dice.
    """

    design: Design
    shelf: Shelf
    power_w: float = 100.0
    duty: float = 1.0
    most_parts: int = 4
    most_loss_db: float = MOST_LOSS_DB
    topologies: tuple[Topology, ...] = TOPOLOGIES
    seed: int = 1


class FoundPart(NamedTuple):
    """One part of a network that was found: what it is made as, and from which things."""

    slot: Slot
    item: Item
    element: DesignElement


@dataclass(frozen=True, slots=True)
class Choice:
    """A network that can be made.

    Args:
        network: its topology and lines.
        parts: from the antenna down.
        worst_swr: on each target.
        excess: the worst SWR over its limit.
        loss_db: in the network, at its worst.
        ideal: the same network with the best values there could be.
        curve_hz, curve_swr: of it, somewhat beyond the targets.
        share: of builds that hold; None until it was counted.
    """

    network: Network
    parts: tuple[FoundPart, ...]
    worst_swr: tuple[float, ...]
    excess: float
    loss_db: float
    ideal: Ideal
    curve_hz: Real
    curve_swr: Real
    share: float | None = None

    @property
    def family(self) -> Family:
        """What kind of network it is."""
        return self.network.topology.family

    @property
    def kind(self) -> str:
        """Which network it is, whatever its values."""
        return self.network.key

    @property
    def count(self) -> int:
        """Parts that one makes or buys."""
        return sum(p.item.count for p in self.parts)

    @property
    def worth(self) -> Worth:
        """What it is compared by."""
        excess, loss = steps(np.array(self.excess), np.array(self.loss_db))
        return Worth(int(excess), int(loss), self.count)

    @property
    def buys(self) -> int:
        """Things that are not in the drawer."""
        return sum(p.item.buys for p in self.parts)

    @property
    def volume_m3(self) -> float:
        """What all parts take."""
        return sum(p.item.volume_m3 for p in self.parts)

    @property
    def price(self) -> float | None:
        """Of all parts; None where one is not known."""
        prices = [p.item.price for p in self.parts]
        return None if any(p is None for p in prices) else sum(p or 0.0 for p in prices)

    @property
    def ties(self) -> tuple[float, ...]:
        """What decides between equals: less to buy, smaller, cheaper."""
        return (self.buys, self.volume_m3, math.inf if self.price is None else self.price)


class GivenUp(NamedTuple):
    """What one network does when one target is given up."""

    target: Target
    ideal: Ideal


class Groups(NamedTuple):
    """Two networks and a switch: the targets that each serves, and its best."""

    first: tuple[Target, ...]
    first_ideal: Ideal
    second: tuple[Target, ...]
    second_ideal: Ideal

    @property
    def excess(self) -> float:
        """The worse of both."""
        return max(self.first_ideal.excess, self.second_ideal.excess)


@dataclass(frozen=True, slots=True)
class SearchState:
    """How far a search is, and what it has found.

    Args:
        done, of: topologies that are through (each twice: at its ideal, then made), and all of them.
        looked: networks judged.
        front: best compromises so far, best SWR first.
        others: the best of every family that is not on the front.
        ideals: every topology at its best, best first; none where parts of every value would not help.
        over_rating: networks left out because a part would not bear it.
        too_lossy: networks left out because too much would be lost.
        holds: whether anything keeps every limit.
        give_up, switched: what else could be done where nothing does, of several targets.
    """

    stage: Stage
    done: int = 0
    of: int = 0
    looked: int = 0
    front: tuple[Choice, ...] = ()
    others: tuple[Choice, ...] = ()
    ideals: tuple[Ideal, ...] = ()
    over_rating: int = 0
    too_lossy: int = 0
    give_up: GivenUp | None = None
    switched: Groups | None = None

    @property
    def holds(self) -> bool:
        """Whether anything that was found keeps every limit."""
        return bool(self.front) and self.front[0].excess <= 1
