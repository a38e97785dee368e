"""Which test tells most for the least effort, and what it will show for whom."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.diagnosis.acts import AS_IT_IS, Act, School, sees
from yielding_coil.core.diagnosis.evidence import ELSE, Evidence, Left
from yielding_coil.core.diagnosis.faults import FaultCode
from yielding_coil.core.diagnosis.readings import (
    DIAL_SPREAD,
    KNOWN_SCALE,
    LEAST_OHM,
    MOST_NUMBERS,
    MOST_OHM,
    OHM_DECADES,
    SOMETHING_ELSE,
    agreed,
    whitened_features,
)
from yielding_coil.core.diagnosis.suspects import FAIRLY, NUISANCES, ROUGHLY, WELL, Knowledge, Suspect
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.wire import Ints

# What is called found, and how many that nothing splits are named together.
FOUND, MOST_ALIKE = 0.9, 3
# No ladder while something lower changes the odds of the leading two by so much; a test that changes them less
# splits nothing.
SPLITS = 3.0
# Rows that are looked at for what a test would tell.
LIVE, LEAST_LIVE = 160, 1e-4
# What nobody expects would read what one of the suspects reads so often.
SURPRISE = 0.03
# From such odds of something else on nothing on the list explains what was read; it then counts so little.
UNEXPLAINED, LITTLE = 0.5, 0.05
# Between its rows a number is shown at most so far away, in steps.
AWAY = 3.0
# A school's own tests count so many times.
PREFERRED = 4.0
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
KNOWLEDGE: tuple[Knowledge, ...] = (WELL, FAIRLY, ROUGHLY)
UNKNOWN = Suspect("", "something_else", ELSE, np.zeros((1, 0)), np.zeros(0))


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


def _live(known: Evidence) -> tuple[list[tuple[Suspect, int]], Real]:
    """The likeliest rows; what nobody expects is one of them."""
    rows, other = known.row_odds()
    if other > UNEXPLAINED:
        # Nothing on the list fits: what was read counts little, and what splits the list is done first.
        rows, other = known.row_odds(LITTLE)
    flat = [(s, k, float(w)) for s, r in zip(known.suspects, rows, strict=True) for k, w in enumerate(r)]
    flat = sorted((x for x in flat if x[2] > min(LEAST_LIVE, LEAST_LIVE * (1 - other))), key=lambda x: -x[2])
    flat = [*flat[:LIVE], (UNKNOWN, 0, other)]
    weights = np.array([w for *_, w in flat])
    return [(s, k) for s, k, _ in flat], weights / max(weights.sum(), 1e-300)


def offers(known: Evidence) -> list[Offered]:
    """Every test that was not done, what it is expected to tell, the best first."""
    live, weights = _live(known)
    if not live:
        return []
    names = sorted({s.name for s, _ in live})
    group = np.array([names.index(s.name) for s, _ in live])
    shares: Real = np.asarray(np.bincount(group, weights, len(names)), dtype=float)
    before = _entropy(shares)
    leading = [int(k) for k in np.argsort(-shares) if names[k] != SOMETHING_ELSE][:2]
    found = []
    done = {*(each.act for each in known.case.done), *known.case.skipped}
    for act in known.acts.values():
        if act.key in done or act.key == AS_IT_IS:
            continue
        like = _likeness(known, act, live)
        told = before - _left_entropy(like, weights, group, len(names), look=act.reads == "look")
        splits = _splits(like, weights, group, leading, look=act.reads == "look") if len(leading) == 2 else 1.0
        found.append(Offered(act, max(told, 0.0), splits))
    return _ranked(known, found)


def _ranked(known: Evidence, offered: list[Offered]) -> list[Offered]:
    """The most bits for the least effort first; a ladder only where nothing lower splits the leading two."""
    lower = any(each.splits >= SPLITS and each.act.where != "ladder" for each in offered)

    def score(each: Offered) -> tuple[bool, float]:
        liked = PREFERRED if each.act.code in SCHOOLS[known.case.school] else 1.0
        barred = lower and each.act.where == "ladder"
        return barred, -liked * each.bits / each.act.effort

    return sorted(offered, key=score)


def _likeness(known: Evidence, act: Act, live: list[tuple[Suspect, int]]) -> Real:
    """How likely what one row reads is by another, (rows, rows); of a look each answer, (answers, rows)."""
    some = [(s, k) for s, k in live if s is not UNKNOWN]
    like = _likeness_of(known, act, some)
    if len(some) == len(live):
        return like
    if act.reads == "look":
        return np.column_stack([like, np.full(len(like), 1 / len(like))])
    # What nobody expects reads anything: as by none, and each a little likely by it.
    whole = np.full((len(live), len(live)), SURPRISE)
    whole[:-1, :-1], whole[-1, -1] = like, 1.0
    whole[-1, :-1] = 1e-4
    return whole


def _likeness_of(known: Evidence, act: Act, live: list[tuple[Suspect, int]]) -> Real:
    if act.reads == "look":
        tables = [sees(known.model.one, act, s.key, s.code) for s, _ in live]
        return np.array([[table[answer] for table in tables] for answer in act.answers])
    assert act.view is not None
    if act.reads == "ohm":
        ohm = np.array([known.model.direct_ohm(s, act.view)[k] for s, k in live])
        feature = np.log10(np.clip(ohm, LEAST_OHM, MOST_OHM))[:, np.newaxis] / OHM_DECADES
        return _gaussian(feature, None)
    gamma = np.array([_row(known.predictions.rows(s, act.view).gamma, k) for s, k in live])
    if known.case.instrument == "dial":
        f = known.model.f
        at = [int(np.argmin(np.abs(f - band.center_hz))) for band in known.model.one.bands]
        return _gaussian(np.abs(gamma[:, at]) / (1.4 * DIAL_SPREAD), None)
    change = known.predictions.rows(known.model.healthy, act.view).change[0]
    # A pair is told apart as well as the one of them that is known worse.
    levels = np.array([s.known if act.view.closed == "antenna" else WELL for s, _ in live])
    pair = np.maximum(levels[:, np.newaxis], levels)
    found = np.zeros(pair.shape)
    for level in KNOWLEDGE:
        if (pair == level).any():
            features = whitened_features(known.model.f, gamma, change, level)
            found = np.where(pair == level, _gaussian(features, MOST_NUMBERS), found)
    return found


def alike(known: Evidence, left: list[Left], offered: list[Offered]) -> int:
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
        (s, int(np.argmax(r))) for s, r in zip(known.suspects, known.row_odds()[0], strict=True) if s.name in some
    ]
    weights, group = np.full(len(live), 1 / len(live)), np.arange(len(live))
    for offer in offered:
        like = _likeness(known, offer.act, live)
        for a in range(len(live)):
            for b in range(a):
                if _splits(like, weights, group, [a, b], look=offer.act.reads == "look") >= SPLITS:
                    return 0
    return len(some)


def shows(known: Evidence, act: Act, leading: Sequence[Left]) -> tuple[Shows, ...]:
    """What a test will show for each of the leading suspects."""
    by_name: dict[tuple[str, str], Suspect] = {s.name: s for s in known.suspects}
    return tuple(_show(known, act, _settled(known, by_name[each.key, each.code])) for each in leading)


def _settled(known: Evidence, suspect: Suspect) -> Suspect:
    """A suspect as it most likely is: its best row, brought to where its sweeps have it."""
    rows, _ = known.row_odds()
    best = int(np.argmax(rows[known.suspects.index(suspect)]))
    theta = suspect.thetas[best : best + 1].copy()
    _, moved, _ = agreed([weighed[suspect.name] for weighed in known.weighed])
    if moved is not None:
        theta += np.clip(moved[best], -AWAY, AWAY) * suspect.steps
    return replace(suspect, thetas=theta)


def _show(known: Evidence, act: Act, suspect: Suspect) -> Shows:
    name = suspect.key, suspect.code
    if act.reads == "look":
        table = sees(known.model.one, act, *name)
        return Shows(*name, answer=max(table, key=lambda a: table[a]))
    assert act.view is not None
    if act.reads == "ohm":
        return Shows(*name, ohm=float(known.model.direct_ohm(suspect, act.view)[0]))
    f, still = known.model.f, np.zeros((1, NUISANCES))
    gamma = reflection_of(known.model.impedance(suspect, suspect.thetas, still, act.view)[0])
    sound = known.predictions.rows(known.model.healthy, act.view).gamma[0]
    size = [min(abs(gamma[int(np.argmin(np.abs(f - b.center_hz)))]), 0.999) for b in known.model.one.bands]
    swr = tuple(float((1 + g) / (1 - g)) for g in size)
    return Shows(*name, swr=swr, change=float(np.sqrt(np.mean(np.abs(gamma - sound) ** 2))))


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
