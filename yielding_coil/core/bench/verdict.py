"""Which of several things a bench sweep shows: each suspect fitted with its tolerances, then weighed."""

import math
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.bench.hypothesis import GRADUAL, RIGHT, TURNS, Fixture, Hypothesis, name_of
from yielding_coil.core.bench.seen import NUISANCES
from yielding_coil.core.bench.suspect_fit import BenchSweep, fit_suspect
from yielding_coil.core.bench.telling import hidden_faults, telling_setup
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import FaultCode
from yielding_coil.core.fitting import FURTHEST_PULL, Fit

# So much of the weight is stated: one suspect that has it is named, else the likeliest that have it together.
NAMED = 0.95
# Weighted squares above the best by which a suspect is out of the question.
HOPELESS = 1000.0
# A fault and a value that far off at once are two, and more than is told from one sweep.
FURTHEST_OF_FAULT = 4.0
# Less of the weight than this is none.
NEGLIGIBLE = 1e-4


class Ranked(NamedTuple):
    """A suspect after the fit: its share of the weight, how often a true one fits so badly, and its furthest value.

    `pull` is how far one of its values lies from what it was planned to be, in standard deviations; `found` holds
    its values as they came out, by field; `counts` the turns that it may have, where turns are what is wrong.
    """

    suspect: Hypothesis
    share: float
    chance: float
    pull: float
    found: Mapping[str, float]
    counts: tuple[float, ...] = ()


class Verdict(NamedTuple):
    """What the sweeps say.

    `says` is one suspect ("named"), those that cannot be told apart ("apart"), or that nothing fits ("strange").
    `likely` holds one suspect for each thing stated, the likeliest first: how many turns it has is one thing,
    whichever they may be. Of what is strange it holds the nearest, which is not stated. `hidden` holds the faults
    that such sweeps cannot tell from what is planned, whatever they show, because they lie within its tolerances;
    `next_setup` the one more sweep that would tell, None when none would or none is needed.
    """

    says: Literal["named", "apart", "strange"]
    likely: tuple[Ranked, ...]
    shares: dict[FaultCode, float]
    hidden: tuple[Hypothesis, ...]
    next_setup: Fixture | None

    @property
    def codes(self) -> tuple[FaultCode, ...]:
        """What is stated: nothing where nothing fits."""
        return () if self.says == "strange" else tuple(w.suspect.code for w in self.likely)


def classify(
    taken: Sequence[BenchSweep], suspects: Sequence[Hypothesis], setups: Sequence[Fixture] = ()
) -> Verdict:
    """Weigh suspects against bench sweeps of one thing.

    Nothing is called anything before it fits: where the likeliest leaves more than chance would, or holds only with
    a value beyond three standard deviations, the sweep is strange.

    Args:
        taken: at least one sweep.
        suspects: at least one; what is planned is called "right".
        setups: that could be swept too; the one that would tell two apart is looked for among them.

    Raises:
        OutOfDomainError: no sweep, no suspect, or a sweep of fewer than eleven points.
    """
    if not taken or not suspects:
        raise OutOfDomainError("taken", "none", "at least one sweep, and one suspect")
    fits: list[Fit] = []
    bar = math.inf
    for suspect in suspects:
        fits.append(fit_suspect(suspect, taken, bar))
        bar = min(bar, fits[-1].cost + HOPELESS)
    # What fits like nothing expected has no say; where nothing fits, all have, and the sweep is strange.
    fitting = np.array([not f.strange for f in fits])
    evidence = np.array([f.evidence + math.log(s.weight) for f, s in zip(fits, suspects, strict=True)])
    able = _without_far_right(fitting, evidence, suspects, fits)
    found = _Weighed.of(evidence, able, suspects)
    stated = found.order[:1]
    while sum(found.weights[n] for n in stated) < NAMED and len(stated) < len(found.order):
        stated.append(found.order[len(stated)])
    leads = found.order[0]
    first = found.ranked(leads, suspects, fits)
    furthest = FURTHEST_PULL if first.suspect.code == RIGHT else FURTHEST_OF_FAULT
    if not able.any() or (first.pull > furthest and first.suspect.code not in GRADUAL):
        return Verdict("strange", (first,), found.by_code, (), None)
    # Where right is out of the question, only what is stated may still be too near to it.
    near = suspects if RIGHT in stated else [s for n in stated for s in found.of_name(n, suspects)]
    hidden = hidden_faults(taken, suspects, near)
    if hidden and RIGHT not in stated:
        right = found.best[RIGHT]
        # Beyond three standard deviations it is said beside what hides in its tolerances, and beside nothing else.
        heard = able[right] or (fitting[right] and {*stated} <= {name_of(h.code) for h in hidden})
        if heard and evidence[right] - evidence[found.best[leads]] > math.log(NEGLIGIBLE):
            stated.append(RIGHT)
            found = _Weighed.of(evidence, fitting, suspects)
            hidden = hidden_faults(taken, suspects, suspects)
    if stated[0] == RIGHT and {*stated[1:]} <= {name_of(h.code) for h in hidden}:
        # What such sweeps never tell from what is planned is no second opinion.
        stated = stated[:1]
    likely = tuple(found.ranked(n, suspects, fits) for n in stated)
    if len(stated) == 1 and (stated[0] != RIGHT or not hidden):
        return Verdict("named", likely, found.by_code, (), None)
    second = stated[1] if len(stated) > 1 else found.order[1]
    rival = hidden[0] if len(stated) == 1 and hidden else suspects[found.best[second]]
    telling = telling_setup(suspects[found.best[stated[0]]], rival, taken, setups)
    return Verdict("named" if len(stated) == 1 else "apart", likely, found.by_code, hidden, telling)


class _Weighed(NamedTuple):
    """Shares of the weight: of suspects, of codes (largest first), of names; the likeliest of each name."""

    shares: Real
    by_code: dict[FaultCode, float]
    weights: dict[str, float]
    best: dict[str, int]

    @classmethod
    def of(cls, evidence: Real, able: Real, suspects: Sequence[Hypothesis]) -> "_Weighed":
        """Those that are able to; where none is, all."""
        logs = np.where(able, evidence, -np.inf) if able.any() else evidence
        shares = np.exp(logs - logs.max())
        shares /= shares.sum()
        by_code: dict[FaultCode, float] = {}
        weights: dict[str, float] = {}
        best: dict[str, int] = {}
        for k, suspect in enumerate(suspects):
            name = name_of(suspect.code)
            by_code[suspect.code] = by_code.get(suspect.code, 0.0) + float(shares[k])
            weights[name] = weights.get(name, 0.0) + float(shares[k])
            if name not in best or logs[k] > logs[best[name]]:
                best[name] = k
        shown = {c: by_code[c] for c in sorted(by_code, key=lambda code: -by_code[code])}
        return cls(shares, shown, weights, best)

    @property
    def order(self) -> list[str]:
        """Names, the likeliest first."""
        return sorted(self.weights, key=lambda name: -self.weights[name])

    def of_name(self, name: str, suspects: Sequence[Hypothesis]) -> list[Hypothesis]:
        """Those that a stated name stands for: counts of turns that have its weight together, or the likeliest."""
        if name != TURNS:
            return [suspects[self.best[name]]]
        mine = sorted((k for k, s in enumerate(suspects) if name_of(s.code) == name), key=lambda k: -self.shares[k])
        weights = np.cumsum([self.shares[k] for k in mine])
        return [suspects[k] for k in mine[: int(np.searchsorted(weights, NAMED * weights[-1])) + 1]]

    def ranked(self, name: str, suspects: Sequence[Hypothesis], fits: Sequence[Fit]) -> Ranked:
        """What stands for a name, with what came out of its values."""
        k = self.best[name]
        suspect, fit = suspects[k], fits[k]
        values = {}
        for spread, deviate in zip(suspect.spreads, fit.deviates[NUISANCES:], strict=True):
            meant = getattr(suspect.part, spread.field, None)
            if isinstance(meant, float | int):
                values[spread.field] = meant * (1 + deviate * spread.relative / 2) + deviate * spread.absolute / 2
        turns = sorted(float(s.values["turns"]) for s in self.of_name(name, suspects)) if name == TURNS else []
        return Ranked(suspect, self.weights[name], fit.chance, _pull(suspect, fit), values, tuple(turns))


def _without_far_right(able: Real, logs: Real, suspects: Sequence[Hypothesis], fits: Sequence[Fit]) -> Real:
    """Which are weighed: what is planned is not, with a value beyond three standard deviations.

    Where it leads all the same, only a fault of any size that says just that is heard in its place.
    """
    right = next((k for k, s in enumerate(suspects) if s.code == RIGHT), None)
    if right is None or _pull(suspects[right], fits[right]) <= FURTHEST_PULL:
        return able
    others = able & (np.arange(len(suspects)) != right)
    if not others.any():
        return able
    first = int(np.argmax(np.where(others, logs, -np.inf)))
    leads = able[right] and logs[right] >= logs[first]
    return able if leads and suspects[first].code not in GRADUAL else others


def _pull(suspect: Hypothesis, found: Fit) -> float:
    """How far its furthest value lies from what it was planned to be, in standard deviations.

    What is planned holds in all its values; of a fault those count that are known by more than their range.
    """
    own = [
        NUISANCES + k
        for k, s in enumerate(suspect.spreads)
        if suspect.code == RIGHT or s.field not in ("leakage_h", "winding_capacitance_f", "self_capacitance_f", "q")
    ]
    return found.pull([0, *own])
