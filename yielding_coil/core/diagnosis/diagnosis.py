"""From what was read to what is left, with its odds, and to the test that tells most for the least effort."""

import math
from collections.abc import Mapping, Sequence
from copy import copy
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.diagnosis.acts import AS_IT_IS, Act, School, acts_of, sees
from yielding_coil.core.diagnosis.as_built import as_built
from yielding_coil.core.diagnosis.faults import FaultCode
from yielding_coil.core.diagnosis.installation import Installation
from yielding_coil.core.diagnosis.readings import (
    DIAL_SPREAD,
    KNOWN_SCALE,
    LEAST_OHM,
    MOST_NUMBERS,
    MOST_OHM,
    OHM_DECADES,
    SOMETHING_ELSE,
    AnyReading,
    BandsRead,
    DialRead,
    LookRead,
    OhmRead,
    Predictions,
    SweepRead,
    Weighed,
    weigh_bands,
    weigh_dial,
    weigh_look,
    weigh_ohm,
    weigh_sweep,
    whitened_features,
)
from yielding_coil.core.diagnosis.suspects import (
    FAIRLY,
    LENGTH,
    NUISANCES,
    ROUGHLY,
    WELL,
    Knowledge,
    Model,
    Suspect,
)
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.wire import Ints

Happened = Literal["storm", "rain", "digging", "tuner_used", "ladder_work", "moved_leads", "noise_up", "noise_down"]
State = Literal["looking", "found", "alike", "cannot_tell", "contradiction"]
Instrument = Literal["analyser", "dial"]
# What is called found, and how many that nothing splits are named together.
FOUND, MOST_ALIKE = 0.9, 3
# Below it an element is cleared.
CLEARED = 0.02
# How often it is nothing that is on the list (from memory: one in thirty).
ELSE = 0.03
# No ladder while something lower changes the odds of the leading two by so much; a test that changes them less
# splits nothing.
SPLITS = 3.0
# Rows that are looked at for what a test would tell.
LIVE, LEAST_LIVE = 160, 1e-4
# A suspect speaks against a sweep that lies so many times further off than it should, against another reading that
# it makes so rare, in nats.
TOO_FAR, TOO_RARE = 5.0, -4.5
# What nobody expects would read what one of the suspects reads so often.
SURPRISE = 0.03
# From such odds of something else on nothing on the list explains what was read; it then counts so little.
UNEXPLAINED, LITTLE = 0.5, 0.05
# Between its rows a number is shown at most so far away, in steps.
AWAY = 3.0
# So many tests are kept weighed.
MOST_KNOWN = 120
# A school's own tests count so many times.
PREFERRED = 4.0
# What people say happened makes some faults likelier: so many times (common practice, rough).
LIKELIER: Mapping[Happened, Mapping[FaultCode, float]] = {
    "storm": {"broken": 4, "fallen": 6, "end_down": 5, "touching": 4, "open": 1.5},
    "rain": {"damp": 4, "wet": 4, "resistance": 2},
    "digging": {"radials_gone": 4},
    "tuner_used": {"left_in": 6},
    "ladder_work": {"resistance": 2, "open": 2, "shorted": 2},
    "moved_leads": {"open": 1.5, "resistance": 1.5},
    "noise_up": {"core_broken": 3, "resistance": 1.5},
    "noise_down": {"open": 2, "shorted": 1.5, "broken": 1.5},
}
# And in one kind of thing more than in another.
LIKELIER_IN: Mapping[Happened, tuple[str, float]] = {"digging": ("line", 6.0), "moved_leads": ("lead", 3.0)}


@dataclass(frozen=True)
class Done:
    """A test that was done.

    Args:
        act: its key.
        reading: what came of it.
    """

    act: str
    reading: AnyReading


@dataclass(frozen=True)
class Case:
    """What is known of something that went wrong.

    Args:
        baseline: the sweep of when it was good, and the act by whose plane it was read.
        happened: what people tell.
        done: tests so far, the first sweep at the radio among them.
        skipped: tests that cannot be done, and are not offered.
    """

    one: Installation
    baseline: Sweep | None = None
    baseline_act: str = AS_IT_IS
    happened: tuple[Happened, ...] = ()
    done: tuple[Done, ...] = ()
    school: School = "least_effort"
    instrument: Instrument = "analyser"
    skipped: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Left:
    """One suspect that is left.

    Args:
        key, code: the element and its fault.
        odds: probability.
        at_m: where on the line, from its lower end; within_m to either side nine times in ten.
        amount: ohms, a factor, a share: what of it was tried, where it has one.
    """

    key: str
    code: FaultCode
    odds: float
    at_m: float | None = None
    within_m: float | None = None
    amount: float | None = None


@dataclass(frozen=True, slots=True)
class Shows:
    """What a test will show where one suspect it is.

    Args:
        swr: on each band in turn; None where it is no sweep.
        ohm: of an ohmmeter; endless without a path.
        answer: the likeliest of a look.
        change: how far from what is sound, root mean square of Γ.
    """

    key: str
    code: FaultCode
    swr: tuple[float, ...] | None = None
    ohm: float | None = None
    answer: str | None = None
    change: float | None = None


@dataclass(frozen=True, slots=True)
class Offered:
    """A test that can be done next.

    Args:
        bits: what it is expected to tell.
        splits: by how much it changes the odds of the leading two, as a factor.
        shows: of the leading suspects.
    """

    act: Act
    bits: float
    splits: float
    shows: tuple[Shows, ...] = ()


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


KNOWLEDGE: tuple[Knowledge, ...] = (WELL, FAIRLY, ROUGHLY)
UNKNOWN = Suspect("", "something_else", ELSE, np.zeros((1, 0)), np.zeros(0))


class Inquiry:
    """A case with everything computed so far; tests are added one by one."""

    def __init__(self, case: Case) -> None:
        self.case = case
        one = case.one
        self.acts = {act.key: act for act in acts_of(one)}
        view = self.act(case.baseline_act).view
        assert view is not None
        self.model = Model(one, as_built(one, case.baseline, view))
        self.predictions = Predictions(self.model)
        self.suspects = self.model.suspects
        self._known: dict[int, tuple[Done, dict[tuple[str, str], Weighed]]] = {}
        self._weighed: list[dict[tuple[str, str], Weighed]] = [self.weigh(each) for each in case.done]

    def act(self, key: str) -> Act:
        """One by its key.

        Raises:
            NotFoundError: there is none.
        """
        if key not in self.acts:
            raise NotFoundError(
                f"no test of this installation is called “{key}”",
                field="act",
                came_in=key,
                accepted=", ".join(self.acts),
            )
        return self.acts[key]

    def continued(self, case: Case) -> "Inquiry":
        """Another state of the same installation and baseline: what was computed stays.

        Raises:
            RefusedError: a reading that its test has not.
        """
        found = copy(self)
        found.case = case
        found._weighed = [found.weigh(d) for d in case.done]
        return found

    def add(self, done: Done) -> None:
        """One test more.

        Raises:
            RefusedError: a reading that its test has not.
        """
        self._weighed.append(self.weigh(done))
        self.case = Case(**{**self.case.__dict__, "done": (*self.case.done, done)})

    def weigh(self, done: Done) -> dict[tuple[str, str], Weighed]:
        """Every suspect against one test; the same test once only.

        Raises:
            RefusedError: a reading that its test has not; a test that there is not.
        """
        if id(done) not in self._known:
            # Kept with the test itself, whose place no other takes as long as it is.
            self._known[id(done)] = done, self._weigh(self.act(done.act), done.reading)
            while len(self._known) > MOST_KNOWN:
                self._known.pop(next(iter(self._known)))
        return self._known[id(done)][1]

    def _weigh(self, act: Act, reading: AnyReading) -> dict[tuple[str, str], Weighed]:
        if isinstance(reading, LookRead):
            if act.reads != "look":
                raise OutOfDomainError("reading", "something seen", f"a reading of {act.reads}")
            return weigh_look(self.model, self.suspects, act, reading.answer)
        if act.view is None:
            raise OutOfDomainError("reading", "a measurement", "what was seen, for a test that is looked at")
        if isinstance(reading, OhmRead):
            if act.reads != "ohm":
                raise OutOfDomainError("reading", "an ohmmeter's", "a sweep or an SWR")
            return weigh_ohm(self.model, self.suspects, act.view, reading.ohm)
        if act.reads == "ohm":
            raise OutOfDomainError("reading", "a sweep or an SWR", "an ohmmeter's")
        if isinstance(reading, SweepRead):
            return weigh_sweep(self.predictions, self.suspects, act.view, reading.sweep)
        if isinstance(reading, DialRead):
            return weigh_dial(self.predictions, self.suspects, act.view, reading.points)
        assert isinstance(reading, BandsRead)
        return weigh_bands(self.predictions, self.suspects, act.view, reading.bands)

    # Odds.

    def prior(self, suspect: Suspect) -> float:
        """How often it is this, unscaled."""
        found = suspect.weight
        kind = suspect.slot.kind if suspect.slot is not None else "antenna"
        for each in self.case.happened:
            found *= LIKELIER[each].get(suspect.code, 1.0)
            where, times = LIKELIER_IN.get(each, ("", 1.0))
            found *= times if kind == where else 1.0
        return found

    def _log_rows(self, counts: float) -> tuple[list[Real], float]:
        """Unscaled log odds of every row of every suspect, and of something else; readings count so much."""
        total = sum(self.prior(s) for s in self.suspects)
        rows = []
        for s in self.suspects:
            log = np.full(len(s.thetas), math.log(self.prior(s) / total / len(s.thetas)))
            own = [weighed[s.name] for weighed in self._weighed]
            rows.append(log + counts * (sum((each.log for each in own), np.zeros(1)) + _agreed(own)[0]))
        other = sum(float(weighed[SOMETHING_ELSE].log[0]) for weighed in self._weighed)
        return rows, math.log(ELSE) + counts * other

    def row_odds(self, counts: float = 1.0) -> tuple[list[Real], float]:
        """Probability of every row, and of something else; readings count so much, 1 as they should."""
        rows, other = self._log_rows(counts)
        top = max(other, max(float(r.max()) for r in rows))
        weights = [np.exp(r - top) for r in rows]
        total = math.exp(other - top) + sum(float(w.sum()) for w in weights)
        return [np.asarray(w / total) for w in weights], math.exp(other - top) / total

    def odds(self) -> list[Left]:
        """What is left, the likeliest first."""
        rows, other = self.row_odds()
        found = [self._left(s, odds) for s, odds in zip(self.suspects, rows, strict=True)]
        found.append(Left("", "something_else", other))
        return sorted(found, key=lambda each: -round(each.odds, ALIKE_TO))

    def odds_by_element(self) -> dict[str, float]:
        """How likely each element is broken, whatever its fault."""
        found: dict[str, float] = {}
        for each in self.odds():
            if each.key:
                found[each.key] = found.get(each.key, 0.0) + each.odds
        return found

    def _left(self, suspect: Suspect, odds: Real) -> Left:
        total = float(odds.sum())
        if suspect.thetas.shape[1] == 0 or total < 1e-12:
            return Left(suspect.key, suspect.code, total)
        share = odds / total
        values = suspect.thetas[:, 0].copy()
        inner = np.zeros(len(values))
        if len(suspect.steps):
            inner = np.full(len(values), suspect.steps[0] / math.sqrt(3))
            _, moved, covariance = _agreed([weighed[suspect.name] for weighed in self._weighed])
            if moved is not None and covariance is not None:
                values = suspect.thetas[:, 0] + moved[:, 0] * suspect.steps[0]
                inner = np.sqrt(covariance[:, 0, 0]) * suspect.steps[0]
        middle = float(share @ values)
        if suspect.slot is not None and suspect.slot.kind == "line" and suspect.code != "aged":
            variance = float(share @ (inner**2 + (values - middle) ** 2))
            # By the tape that measured the line, as a share of it; the tape's doubt goes along.
            middle /= 1 + self.model.built.mean[LENGTH]
            speed = math.hypot(self.model.built.spread[LENGTH], TAPE) * middle
            resolution = math.hypot(math.sqrt(variance), speed, LEAST_WITHIN_M / 1.645)
            within = 1.645 * resolution
            if within > NOWHERE * (float(values.max()) - float(values.min())):
                return Left(suspect.key, suspect.code, total)
            return Left(suspect.key, suspect.code, total, at_m=float(middle), within_m=float(within))
        if suspect.states:
            amounts = np.array([state.theta for state in suspect.states])
            amount = float(share @ amounts)
            spread = math.sqrt(max(float(share @ (amounts - amount) ** 2), 0.0))
            told = len(amounts) > 1 and spread < SOMEWHERE * max(float(np.ptp(amounts)), abs(amount))
            return Left(suspect.key, suspect.code, total, amount=amount if told else None)
        size = math.exp(middle) if suspect.code != "left_in" else None
        return Left(suspect.key, suspect.code, total, amount=size)

    # The next test.

    def _live(self) -> tuple[list[tuple[Suspect, int]], Real]:
        """The likeliest rows; what nobody expects is one of them."""
        rows, other = self.row_odds()
        if other > UNEXPLAINED:
            # Nothing on the list fits: what was read counts little, and what splits the list is done first.
            rows, other = self.row_odds(LITTLE)
        flat = [(s, k, float(w)) for s, r in zip(self.suspects, rows, strict=True) for k, w in enumerate(r)]
        flat = sorted((x for x in flat if x[2] > min(LEAST_LIVE, LEAST_LIVE * (1 - other))), key=lambda x: -x[2])
        flat = [*flat[:LIVE], (UNKNOWN, 0, other)]
        weights = np.array([w for *_, w in flat])
        return [(s, k) for s, k, _ in flat], weights / max(weights.sum(), 1e-300)

    def offers(self, top: int = 0) -> list[Offered]:
        """Every test that was not done, what it is expected to tell, the best first."""
        live, weights = self._live()
        if not live:
            return []
        names = sorted({s.name for s, _ in live})
        group = np.array([names.index(s.name) for s, _ in live])
        shares: Real = np.asarray(np.bincount(group, weights, len(names)), dtype=float)
        before = _entropy(shares)
        leading = [int(k) for k in np.argsort(-shares) if names[k] != SOMETHING_ELSE][:2]
        found = []
        done = {*(each.act for each in self.case.done), *self.case.skipped}
        for act in self.acts.values():
            if act.key in done or act.key == AS_IT_IS:
                continue
            like = self._likeness(act, live)
            told = before - _left_entropy(like, weights, group, len(names), look=act.reads == "look")
            splits = _splits(like, weights, group, leading, look=act.reads == "look") if len(leading) == 2 else 1.0
            found.append(Offered(act, max(told, 0.0), splits))
        return self._ranked(found)

    def _ranked(self, offered: list[Offered]) -> list[Offered]:
        """The most bits for the least effort first; a ladder only where nothing lower splits the leading two."""
        lower = any(each.splits >= SPLITS and each.act.where != "ladder" for each in offered)

        def score(each: Offered) -> tuple[bool, float]:
            liked = PREFERRED if each.act.code in SCHOOLS[self.case.school] else 1.0
            barred = lower and each.act.where == "ladder"
            return barred, -liked * each.bits / each.act.effort

        return sorted(offered, key=score)

    def _likeness(self, act: Act, live: list[tuple[Suspect, int]]) -> Real:
        """How likely what one row reads is by another, (rows, rows); of a look each answer, (answers, rows)."""
        some = [(s, k) for s, k in live if s is not UNKNOWN]
        like = self._likeness_of(act, some)
        if len(some) == len(live):
            return like
        if act.reads == "look":
            return np.column_stack([like, np.full(len(like), 1 / len(like))])
        # What nobody expects reads anything: as by none, and each a little likely by it.
        whole = np.full((len(live), len(live)), SURPRISE)
        whole[:-1, :-1], whole[-1, -1] = like, 1.0
        whole[-1, :-1] = 1e-4
        return whole

    def _likeness_of(self, act: Act, live: list[tuple[Suspect, int]]) -> Real:
        if act.reads == "look":
            tables = [sees(self.model.one, act, s.key, s.code) for s, _ in live]
            return np.array([[table[answer] for table in tables] for answer in act.answers])
        assert act.view is not None
        if act.reads == "ohm":
            ohm = np.array([self.model.direct_ohm(s, act.view)[k] for s, k in live])
            feature = np.log10(np.clip(ohm, LEAST_OHM, MOST_OHM))[:, np.newaxis] / OHM_DECADES
            return _gaussian(feature, None)
        gamma = np.array([_row(self.predictions.rows(s, act.view).gamma, k) for s, k in live])
        if self.case.instrument == "dial":
            f = self.model.f
            at = [int(np.argmin(np.abs(f - band.center_hz))) for band in self.model.one.bands]
            return _gaussian(np.abs(gamma[:, at]) / (1.4 * DIAL_SPREAD), None)
        change = self.predictions.rows(self.model.healthy, act.view).change[0]
        # A pair is told apart as well as the one of them that is known worse.
        known = np.array([s.known if act.view.closed == "antenna" else WELL for s, _ in live])
        pair = np.maximum(known[:, np.newaxis], known)
        found = np.zeros(pair.shape)
        for level in KNOWLEDGE:
            if (pair == level).any():
                features = whitened_features(self.model.f, gamma, change, level)
                found = np.where(pair == level, _gaussian(features, MOST_NUMBERS), found)
        return found

    # All together.

    def diagnosis(self, shows: int = 3) -> Diagnosis:
        """What is left, and what to do next."""
        left = self.odds()
        offered = self.offers()
        against = self._against()
        plane = self._other_plane()
        alike = self._alike(left, offered)
        state: State = "looking"
        if against is not None:
            state = "contradiction"
        elif left[0].odds >= FOUND and left[0].code != "something_else":
            state = "found"
        elif alike:
            state = "alike"
        elif not offered or max(o.bits for o in offered) < LEAST_BITS:
            state = "cannot_tell"
        leading = [each for each in left if each.code != "something_else"][:shows]
        by_name: dict[tuple[str, str], Suspect] = {s.name: s for s in self.suspects}
        first = [Offered(o.act, o.bits, o.splits, self._shows(o.act, leading, by_name)) for o in offered[:6]]
        walked = [self.act(d.act) for d in self.case.done if d.act != AS_IT_IS]
        return Diagnosis(
            state,
            tuple(left[:12]),
            alike,
            self._cleared(),
            (*first, *offered[6:]),
            against,
            plane,
            sum(1 for act in walked if act.where != "shack"),
            sum(act.effort for act in walked),
        )

    def _cleared(self) -> tuple[str, ...]:
        return tuple(key for key, odds in self.odds_by_element().items() if odds < CLEARED)

    def _alike(self, left: list[Left], offered: list[Offered]) -> int:
        """How many of the leading ones hold nine in ten and are split by nothing; zero where that is none."""
        total, some = 0.0, []
        for each in left[:MOST_ALIKE]:
            total += each.odds
            some.append((each.key, each.code))
            if total >= FOUND:
                break
        if total < FOUND or len(some) < 2 or SOMETHING_ELSE in some:
            return 0
        live = [
            (s, int(np.argmax(r))) for s, r in zip(self.suspects, self.row_odds()[0], strict=True) if s.name in some
        ]
        weights, group = np.full(len(live), 1 / len(live)), np.arange(len(live))
        for offer in offered:
            like = self._likeness(offer.act, live)
            for a in range(len(live)):
                for b in range(a):
                    if _splits(like, weights, group, [a, b], look=offer.act.reads == "look") >= SPLITS:
                        return 0
        return len(some)

    def _shows(
        self, act: Act, leading: Sequence[Left], by_name: Mapping[tuple[str, str], Suspect]
    ) -> tuple[Shows, ...]:
        return tuple(self._show(act, self._settled(by_name[each.key, each.code])) for each in leading)

    def _settled(self, suspect: Suspect) -> Suspect:
        """A suspect as it most likely is: its best row, brought to where its sweeps have it."""
        rows, _ = self.row_odds()
        best = int(np.argmax(rows[self.suspects.index(suspect)]))
        theta = suspect.thetas[best : best + 1].copy()
        _, moved, _ = _agreed([weighed[suspect.name] for weighed in self._weighed])
        if moved is not None:
            theta += np.clip(moved[best], -AWAY, AWAY) * suspect.steps
        return replace(suspect, thetas=theta)

    def _show(self, act: Act, suspect: Suspect) -> Shows:
        name = suspect.key, suspect.code
        if act.reads == "look":
            table = sees(self.model.one, act, *name)
            return Shows(*name, answer=max(table, key=lambda a: table[a]))
        assert act.view is not None
        if act.reads == "ohm":
            return Shows(*name, ohm=float(self.model.direct_ohm(suspect, act.view)[0]))
        f, still = self.model.f, np.zeros((1, NUISANCES))
        gamma = reflection_of(self.model.impedance(suspect, suspect.thetas, still, act.view)[0])
        sound = self.predictions.rows(self.model.healthy, act.view).gamma[0]
        size = [min(abs(gamma[int(np.argmin(np.abs(f - b.center_hz)))]), 0.999) for b in self.model.one.bands]
        swr = tuple(float((1 + g) / (1 - g)) for g in size)
        return Shows(*name, swr=swr, change=float(np.sqrt(np.mean(np.abs(gamma - sound) ** 2))))

    # What cannot be.

    def _against(self) -> Against | None:
        """The first two readings that no suspect explains together, though some explain each."""
        fits = [np.concatenate([self._explains(w[s.name]) for s in self.suspects]) for w in self._weighed]
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
            own = self._best(self._weighed[k])
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


# A sweep agrees so much better, in nats, with another plane; a test tells nothing below so many bits; nobody digs
# more narrowly than so.
OTHER_PLANE, LEAST_BITS, LEAST_WITHIN_M = 9.0, 0.02, 0.3
# Odds that are the same to so many places stand in the order of the elements: nearest first of twins.
ALIKE_TO = 6
# No place is told that is open within such a share of the line, no amount that is open within such a
# share of itself.
NOWHERE, SOMEWHERE = 0.3, 0.35
# What agrees so well, in nats, needs no other plane.
WELL_ENOUGH = -30.0
# How well a line was measured by tape, and marks on it found again, relative; errors of a fit that no curve shows.
TAPE, FIT_FLOOR = 0.008, 0.15
SCHOOLS: Mapping[School, frozenset[str]] = {
    "least_effort": frozenset(),
    "line_first": frozenset(
        {
            "line_load",
            "line_open",
            "line_short",
            "ohm_line_open",
            "ohm_line_short",
            "ohm_shack",
            "look_line",
            "line_straight",
        }
    ),
    "antenna_first": frozenset(
        {
            "at_feed",
            "above_match",
            "ohm_feed",
            "ohm_antenna",
            "look_up",
            "look_radials",
            "look_at",
            "ohm_across",
            "twins",
        }
    ),
}


def diagnose(case: Case) -> Diagnosis:
    """What is left of a case, and what to do next.

    Raises:
        RefusedError: a reading that its test has not; a test that the installation has not.
    """
    return Inquiry(case).diagnosis()


def _agreed(own: Sequence[Weighed]) -> tuple[Real | float, Real | None, Real | None]:
    """What sweeps of one thing say together of the numbers between rows, where each alone was free to choose.

    Returns:
        What is added to the sum of their logs, shape (rows,); where the numbers lie, (rows, numbers), and their
        covariance; None where no sweep tells.

    Source:
        Products of normal densities (MacKay, Information Theory, ch. 24), the prior counted once.
    """
    told = [(each.moved, each.covariance) for each in own if each.moved is not None and each.moved.shape[1]]
    if not told:
        return 0.0, None, None
    numbers = told[0][0].shape[1]
    unit = np.eye(numbers)
    log = np.zeros(len(told[0][0]))
    total, pull = np.zeros((len(log), numbers, numbers)) + unit, np.zeros((len(log), numbers))
    for moved, covariance in told:
        assert covariance is not None
        precision = np.linalg.inv(covariance + FIT_FLOOR**2 * unit)
        toward = np.einsum("rij,rj->ri", precision, moved)
        log += 0.5 * np.linalg.slogdet(precision)[1] - 0.5 * np.einsum("ri,ri->r", toward, moved)
        total += np.maximum(precision - unit, 0.0) if numbers == 1 else precision - unit
        pull += toward
    found = np.linalg.inv(total)
    middle = np.einsum("rij,rj->ri", found, pull)
    log += -0.5 * np.linalg.slogdet(total)[1] + 0.5 * np.einsum("ri,ri->r", pull, middle)
    # Agreement is no evidence by itself: only what they disagree on counts.
    log = np.minimum(log, 0.0) if len(told) > 1 else np.zeros(len(log))
    return np.asarray(log), np.asarray(middle), np.asarray(found)


def _row(values: Complex, k: int) -> Complex:
    return values[k] if len(values) > 1 else values[0]


def _gaussian(features: Real, numbers: int | None) -> Real:
    """Likelihood of what each row would read (first axis) under every row (second), noise apart."""
    square = (features**2).sum(axis=1)
    apart = np.maximum(square[:, np.newaxis] + square - 2 * features @ features.T, 0.0)
    if numbers is None:
        return np.asarray(np.exp(-0.5 * np.minimum(apart, 14.0)))
    tail = np.log1p((numbers + apart) / KNOWN_SCALE) - math.log1p(numbers / KNOWN_SCALE)
    return np.asarray(np.exp(-0.5 * (KNOWN_SCALE + numbers) * tail))


def _entropy(share: Real) -> float:
    share = share[share > 1e-12]
    return float(-(share * np.log2(share)).sum())


def _left_entropy(like: Real, weights: Real, group: Ints, groups: int, *, look: bool) -> float:
    """Expected entropy over groups after a test."""
    if look:
        reached = like @ weights
        total = 0.0
        for row, chance in zip(like, reached, strict=True):
            hit: Real = np.asarray(np.bincount(group, row * weights, groups), dtype=float)
            total += chance * _entropy(hit / max(hit.sum(), 1e-300))
        return total
    after: Real = like * weights
    after = after / after.sum(axis=1, keepdims=True)
    member = np.zeros((len(group), groups))
    member[np.arange(len(group)), group] = 1.0
    shares = np.clip(after @ member, 1e-15, 1.0)
    return float(weights @ -(shares * np.log2(shares)).sum(axis=1))


def _splits(like: Real, weights: Real, group: Ints, leading: Sequence[int], *, look: bool) -> float:
    """By how much a test is expected to change the odds of two groups, as a factor."""
    first, second = (np.where(group == k, weights, 0.0) for k in leading)
    if first.sum() <= 0 or second.sum() <= 0:
        return 1.0
    first, second = first / first.sum(), second / second.sum()
    one, other = np.maximum(like @ first, 1e-12), np.maximum(like @ second, 1e-12)
    if look:
        chance = (one + other) / 2
        return float(math.exp(min(chance @ np.abs(np.log(one / other)), 50)))
    each = np.abs(np.log(one / other))
    return float(math.exp(min((first + second) / 2 @ each, 50)))


def hindsight_way(inquiry: Inquiry, readings: Mapping[str, AnyReading]) -> tuple[str, ...] | None:
    """The least effort after which it would have been found, had one known what every test would read.

    Args:
        inquiry: with the first sweep alone.
        readings: of every other test, by its key.

    Returns:
        Keys of at most three tests; none where the first sweep was enough; None where no three would do.
    """
    first = list(inquiry._weighed)
    weighed = {key: inquiry.weigh(Done(key, reading)) for key, reading in readings.items()}
    ways = [way for most in range(4) for way in combinations(sorted(weighed), most)]
    ways.sort(key=lambda way: sum(inquiry.act(key).effort for key in way))
    try:
        for way in ways:
            inquiry._weighed = [*first, *(weighed[key] for key in way)]
            if inquiry.odds()[0].odds >= FOUND:
                return way
    finally:
        inquiry._weighed = first
    return None
