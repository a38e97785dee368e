"""A case and the evidence on it: every suspect with its odds, by what was told and read."""

import math
from collections.abc import Mapping
from copy import copy
from dataclasses import dataclass
from typing import Literal, Self

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.diagnosis.acts import AS_IT_IS, Act, School, acts_of
from yielding_coil.core.diagnosis.as_built import as_built
from yielding_coil.core.diagnosis.faults import FaultCode
from yielding_coil.core.diagnosis.installation import Installation
from yielding_coil.core.diagnosis.readings import (
    SOMETHING_ELSE,
    AnyReading,
    BandsRead,
    DialRead,
    LookRead,
    OhmRead,
    Predictions,
    SweepRead,
    Weighed,
    agreed,
    weigh_bands,
    weigh_dial,
    weigh_look,
    weigh_ohm,
    weigh_sweep,
)
from yielding_coil.core.diagnosis.suspects import LENGTH, Model, Suspect
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.sweep import Sweep

Happened = Literal["storm", "rain", "digging", "tuner_used", "ladder_work", "moved_leads", "noise_up", "noise_down"]
Instrument = Literal["analyser", "dial"]
# How often it is nothing that is on the list (from memory: one in thirty).
ELSE = 0.03
# So many tests are kept weighed.
MOST_KNOWN = 120
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
# Nobody digs more narrowly than so, metres.
LEAST_WITHIN_M = 0.3
# Odds that are the same to so many places stand in the order of the elements: nearest first of twins.
ALIKE_TO = 6
# No place is told that is open within such a share of the line, no amount that is open within such a
# share of itself.
NOWHERE, SOMEWHERE = 0.3, 0.35
# How well a line was measured by tape, and marks on it found again, relative.
TAPE = 0.008


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


class Evidence:
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
        self.weighed: list[dict[tuple[str, str], Weighed]] = [self.weigh(each) for each in case.done]

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

    def continued(self, case: Case) -> Self:
        """Another state of the same installation and baseline: what was computed stays.

        Raises:
            RefusedError: a reading that its test has not.
        """
        found = copy(self)
        found.case = case
        found.weighed = [found.weigh(d) for d in case.done]
        return found

    def add(self, done: Done) -> None:
        """One test more.

        Raises:
            RefusedError: a reading that its test has not.
        """
        self.weighed.append(self.weigh(done))
        self.case = Case(**{**self.case.__dict__, "done": (*self.case.done, done)})

    def weigh(self, done: Done) -> dict[tuple[str, str], Weighed]:
        """Every suspect against one test; the same test once only.

        Raises:
            RefusedError: a reading that its test has not; a test that there is not.
        """
        kept = self._known.get(id(done))
        if kept is None:
            if len(self._known) > MOST_KNOWN:
                self._known.clear()
            # Kept with the test itself, whose place no other takes as long as it is.
            kept = self._known[id(done)] = done, self._weigh(self.act(done.act), done.reading)
        return kept[1]

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
            own = [weighed[s.name] for weighed in self.weighed]
            rows.append(log + counts * (sum((each.log for each in own), np.zeros(1)) + agreed(own)[0]))
        other = sum(float(weighed[SOMETHING_ELSE].log[0]) for weighed in self.weighed)
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
            _, moved, covariance = agreed([weighed[suspect.name] for weighed in self.weighed])
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
