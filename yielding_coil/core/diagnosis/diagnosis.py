"""From what was read to what is left, with its odds, and to the test that tells most for the least effort."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

import numpy as np
import numpy.typing as npt

from yielding_coil.core.diagnosis.acts import AS_IT_IS
from yielding_coil.core.diagnosis.evidence import Case, Done, Evidence, Left
from yielding_coil.core.diagnosis.offers import FOUND, Offered, alike, offers, shows
from yielding_coil.core.diagnosis.readings import MOST_NUMBERS, AnyReading, SweepRead, Weighed

State = Literal["looking", "found", "alike", "cannot_tell", "contradiction"]
# Of so many suspects it is said what a test will show, and of so many tests.
LEADING, SHOWN = 3, 6
# Below it an element is cleared.
CLEARED = 0.02
# A suspect speaks against a sweep that lies so many times further off than it should, against another reading that
# it makes so rare, in nats.
TOO_FAR, TOO_RARE = 5.0, -4.5
# A sweep agrees so much better, in nats, with another plane; a test tells nothing below so many bits.
OTHER_PLANE, LEAST_BITS = 9.0, 0.02
# What agrees so well, in nats, needs no other plane.
WELL_ENOUGH = -30.0


@dataclass(frozen=True, slots=True)
class Against:
    """Two readings that do not go together."""

    first: int
    second: int


@dataclass(frozen=True, slots=True)
class Diagnosis:
    """What is left, and what to do next.

    Args:
        state: found, where one is at nine in ten; alike, where up to three are that no test splits.
        left: the likeliest first.
        alike: how many of them nothing splits.
        cleared: elements that are hardly suspected any more.
        offered: tests, the best first.
        against: readings that contradict each other.
        other_plane: of a sweep that looks as if it had been read elsewhere: its index, and the act it looks like.
        trips: walks to the garden or up the ladder so far, and effort.
    """

    state: State
    left: tuple[Left, ...]
    alike: int
    cleared: tuple[str, ...]
    offered: tuple[Offered, ...]
    against: Against | None
    other_plane: tuple[int, str] | None
    trips: int
    effort: int


class Inquiry(Evidence):
    """A case with its odds, the tests on offer, and what cannot be."""

    def offers(self) -> list[Offered]:
        """Every test that was not done, what it is expected to tell, the best first."""
        return offers(self)

    def diagnosis(self, leading: int = LEADING) -> Diagnosis:
        """What is left, and what to do next."""
        left = self.odds()
        offered = self.offers()
        against = self._against()
        plane = self._other_plane()
        together = alike(self, left, offered)
        state: State = "looking"
        if against is not None:
            state = "contradiction"
        elif left[0].odds >= FOUND and left[0].code != "something_else":
            state = "found"
        elif together:
            state = "alike"
        elif not offered or max(o.bits for o in offered) < LEAST_BITS:
            state = "cannot_tell"
        first_few = [each for each in left if each.code != "something_else"][:leading]
        first = [Offered(o.act, o.bits, o.splits, shows(self, o.act, first_few)) for o in offered[:SHOWN]]
        walked = [self.act(d.act) for d in self.case.done if d.act != AS_IT_IS]
        return Diagnosis(
            state,
            tuple(left[:12]),
            together,
            self._cleared(),
            (*first, *offered[SHOWN:]),
            against,
            plane,
            sum(1 for act in walked if act.where != "shack"),
            sum(act.effort for act in walked),
        )

    def _cleared(self) -> tuple[str, ...]:
        return tuple(key for key, odds in self.odds_by_element().items() if odds < CLEARED)

    def _against(self) -> Against | None:
        """The first two readings that no suspect explains together, though some explain each."""
        fits = [np.concatenate([self._explains(w[s.name]) for s in self.suspects]) for w in self.weighed]
        for b in range(len(fits)):
            for a in range(b):
                if fits[a].any() and fits[b].any() and not (fits[a] & fits[b]).any():
                    return Against(a, b)
        return None

    def _explains(self, weighed: Weighed) -> npt.NDArray[np.bool_]:
        """Whether rows agree with a reading well enough not to speak against it."""
        if weighed.squares is not None:
            return np.asarray(weighed.squares < TOO_FAR * MOST_NUMBERS)
        return np.asarray(weighed.log > TOO_RARE)

    def _other_plane(self) -> tuple[int, str] | None:
        """A sweep that agrees far better with another plane than with that of its test."""
        for k, done in enumerate(self.case.done):
            if not isinstance(done.reading, SweepRead):
                continue
            own = self._best(self.weighed[k])
            # What agrees as it should was read where it says.
            if own > WELL_ENOUGH:
                continue
            for act in self.acts.values():
                if act.reads != "sweep" or act.key == done.act or act.view == self.act(done.act).view:
                    continue
                there = self._weigh(act, done.reading)
                if self._best(there) > own + OTHER_PLANE:
                    return k, act.key
        return None

    def _best(self, weighed: Mapping[tuple[str, str], Weighed]) -> float:
        return max(float((weighed[s.name].log + math.log(self.prior(s))).max()) for s in self.suspects)


def diagnose(case: Case) -> Diagnosis:
    """What is left of a case, and what to do next.

    Raises:
        RefusedError: a reading that its test has not; a test that the installation has not.
    """
    return Inquiry(case).diagnosis()


def hindsight_way(inquiry: Inquiry, readings: Mapping[str, AnyReading]) -> tuple[str, ...] | None:
    """The least effort after which it would have been found, had one known what every test would read.

    Args:
        inquiry: with the first sweep alone.
        readings: of every other test, by its key.

    Returns:
        Keys of at most three tests; none where the first sweep was enough; None where no three would do.
    """
    first = list(inquiry.weighed)
    weighed = {key: inquiry.weigh(Done(key, reading)) for key, reading in readings.items()}
    ways = [way for most in range(4) for way in combinations(sorted(weighed), most)]
    ways.sort(key=lambda way: sum(inquiry.act(key).effort for key in way))
    try:
        for way in ways:
            inquiry.weighed = [*first, *(weighed[key] for key in way)]
            if inquiry.odds()[0].odds >= FOUND:
                return way
    finally:
        inquiry.weighed = first
    return None
