"""What a centimetre moves the dip, by the stretches of a log; and the moves that no length explains.

The present dip is what was read since the last act, alone: history never moves it. History teaches only what an act
moves: each pair of neighbouring stretches under the same conditions gives the change of 1/f over the share of the
leg. A pair may be a slip (a reading on the ground, an act told wrongly): it is named and teaches nothing. A wire
that keeps moving otherwise than the rule is such a wire, once two moves say so.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from yielding_coil.core.arrays import Real, require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.trim.meter_readings import REPEATED

# What a centimetre moves, over what the rule says: of a cut, and of a fold over a cut; one standard deviation each.
CUT_MOVES, CUT_SPREAD = 1.0, 0.10
FOLD_MOVES, FOLD_SPREAD = 0.75, 0.10
# A wire on which a centimetre moves otherwise: how often, and its natural log's middle and spread.
ODD_WIRE, ODD_LOG, ODD_LOG_SPREAD = 0.01, math.log(1.5), 0.7
# A pair of readings with a slip between: how often, and the scale of its stray (Cauchy: it may be anything).
SLIP, SLIP_SCALE = 0.05, 0.025
# Acts smaller than this share of a leg teach nothing of what a centimetre moves.
TEACHES = 0.002
# A dip is believed to no better than this, however often it was read in one stretch (dips wander with the weather).
LEAST_SPREAD = 0.001
# Two dips of one stretch agree within so many of their standard deviations.
AGREE = 3.0
# The newest move counts as surprising, where that only costs another reading, from so many standard deviations on.
SURPRISING = 2.3

_CUTS = np.exp(np.linspace(math.log(0.2), math.log(6.0), 500))
_SHARES = np.linspace(0.35, 1.15, 41)


@dataclass(frozen=True, slots=True)
class DipReading:
    """A dip, and the leg it was read with.

    Args:
        dip_hz: where it was read.
        leg_m: one leg from the feedpoint to where it was cut, folds included.
        folded_m: how much of that is folded back.
        spread: one standard deviation of the dip, relative; what a dip repeats to at best when left out.
        conditions: anything that names how it hung; readings with other words are kept apart.
        moves: what wire off the end of such an antenna moves the dip over what the ratio of lengths says; of one
            that is not all wire, by its model.
    """

    dip_hz: float
    leg_m: float
    folded_m: float = 0.0
    spread: float = REPEATED
    conditions: str = ""
    moves: float = 1.0

    def __post_init__(self) -> None:
        require_positive("dip_hz", self.dip_hz)
        require_positive("leg_m", self.leg_m)
        require_not_negative("folded_m", self.folded_m)
        require_positive("spread", self.spread)
        require_positive("moves", self.moves)
        if self.folded_m >= self.leg_m:
            raise OutOfDomainError(
                "folded_m", f"{self.folded_m:.3f} m", f"shorter than the leg itself, {self.leg_m:.3f} m"
            )


class Stretch(NamedTuple):
    """The readings between two acts as one: the newest dip with those that agree with it.

    `again` says that another reading of the same stretch agrees with the newest.
    """

    dip_hz: float
    spread: float
    leg_m: float
    folded_m: float
    again: bool
    moves: float = 1.0

    @property
    def effective_m(self) -> float:
        """What of the leg counts: a fold takes away its share of it (common practice)."""
        return (self.leg_m - FOLD_MOVES * self.folded_m) / self.moves


def stretches(readings: Sequence[DipReading]) -> list[Stretch]:
    """Readings under the newest conditions, oldest first, one stretch a state of the wire."""
    used = [r for r in readings if r.conditions == readings[-1].conditions]
    groups: list[list[DipReading]] = []
    for reading in used:
        same = groups and (groups[-1][-1].leg_m, groups[-1][-1].folded_m) == (reading.leg_m, reading.folded_m)
        if same:
            groups[-1].append(reading)
        else:
            groups.append([reading])
    return [_stretch(group) for group in groups]


def _stretch(group: Sequence[DipReading]) -> Stretch:
    newest = group[-1]
    agree = [
        r
        for r in group
        if abs(r.dip_hz / newest.dip_hz - 1) <= AGREE * math.hypot(min(r.spread, 0.01), min(newest.spread, 0.01))
    ]
    weights = np.array([1 / r.spread**2 for r in agree])
    dip = float(weights @ np.array([r.dip_hz for r in agree]) / weights.sum())
    spread = max(float(1 / np.sqrt(weights.sum())), min(LEAST_SPREAD, newest.spread))
    return Stretch(dip, spread, newest.leg_m, newest.folded_m, len(agree) > 1, newest.moves)


@dataclass(frozen=True, slots=True)
class Unexplained:
    """A move of the dip that the change of length does not explain.

    Args:
        before, after: the stretches on both sides, counted from the oldest.
        before_hz, after_hz: their dips.
        moved: relative change of the dip; expected: by the length; expected_spread: one standard deviation.
        alone: the stretch whose reading is the odd one, where those on both sides agree without it.
        now: it is the newest move, and nobody has read again since.
    """

    before: int
    after: int
    before_hz: float
    after_hz: float
    moved: float
    expected: float
    expected_spread: float
    alone: int | None
    now: bool


@dataclass(frozen=True, slots=True, eq=False)
class Moves:
    """What acts on this wire move, as a weighted grid, and what was odd in its log.

    Args:
        cut, fold: what a centimetre of a cut and of a fold moves over what the rule says, shape (k,).
        weight: of each, summing to one.
        learned: an act of this wire has told so.
        odd: moves that no length explains.
        surprising: the newest move is far enough from what is expected to read once more before stopping.
    """

    cut: Real
    fold: Real
    weight: Real
    learned: bool
    odd: tuple[Unexplained, ...]
    surprising: bool

    def middle(self, folds: bool) -> tuple[float, float]:
        """What a centimetre moves: the median, and half the width that holds two thirds."""
        values = self.fold if folds else self.cut
        order = np.argsort(values)
        under = np.cumsum(self.weight[order]) - self.weight[order] / 2
        low, middle, high = np.interp((0.1587, 0.5, 0.8413), under, values[order])
        return float(middle), float(high - low) / 2

    def drawn(self, draws: int) -> tuple[Real, Real]:
        """So many equally likely pairs of cut and fold, always the same ones."""
        at = np.searchsorted(np.cumsum(self.weight), (np.arange(draws) + 0.5) / draws)
        at = np.minimum(at, self.weight.size - 1)
        return self.cut[at], self.fold[at]


class _Pair(NamedTuple):
    """Two neighbouring stretches: what 1/f lost, over what each rule's unit would take, and its noise."""

    seen: float
    cut: float
    folded: float
    noise: float


def _pair(before: Stretch, after: Stretch) -> _Pair:
    ratio = before.dip_hz / after.dip_hz
    leg = before.effective_m
    noise = ratio * math.hypot(before.spread, after.spread)
    return _Pair(1 - ratio, (before.leg_m - after.leg_m) / leg, (after.folded_m - before.folded_m) / leg, noise)


def _prior() -> tuple[Real, Real, Real]:
    """Cut, fold share of it, and weight of every point of the grid, flattened."""
    step = np.gradient(_CUTS)
    usual = np.exp(-0.5 * ((_CUTS - CUT_MOVES) / CUT_SPREAD) ** 2) / CUT_SPREAD
    odd = np.exp(-0.5 * ((np.log(_CUTS) - ODD_LOG) / ODD_LOG_SPREAD) ** 2) / (_CUTS * ODD_LOG_SPREAD)
    cut_weight = ((1 - ODD_WIRE) * usual + ODD_WIRE * odd) * step
    share_weight = np.exp(-0.5 * ((_SHARES - FOLD_MOVES) / FOLD_SPREAD) ** 2)
    weight = np.outer(cut_weight, share_weight).ravel()
    return np.repeat(_CUTS, _SHARES.size), np.tile(_SHARES, _CUTS.size), weight / weight.sum()


def _densities(pair: _Pair, cut: Real, share: Real) -> tuple[Real, Real]:
    """Of an honest pair and of a slip, over the grid."""
    away = pair.seen - cut * (pair.cut + share * pair.folded)
    honest = np.exp(-0.5 * (away / pair.noise) ** 2) / (pair.noise * math.sqrt(2 * math.pi))
    slip = 1 / (math.pi * SLIP_SCALE * (1 + (away / SLIP_SCALE) ** 2))
    return (1 - SLIP) * honest, SLIP * slip


def moves_of(read: Sequence[Stretch]) -> Moves:
    """What acts move, from the stretches of a log, and which moves nothing explains.

    Args:
        read: oldest first, at least one, all under the same conditions.

    Source:
        Robust regression with an outlier share (Gelman et al., Bayesian Data Analysis, 3rd ed., ch. 17), on a grid.
    """
    cut, share, weight = _prior()
    pairs = [_pair(a, b) for a, b in pairwise(read)]
    prior = weight
    slips: list[Real] = []
    for pair in pairs:
        honest, slip = _densities(pair, cut, share)
        weight = weight * (honest + slip)
        weight = weight / weight.sum()
        slips.append(slip / (honest + slip))
    odds = [float(weight @ slip) for slip in slips]
    odd = [k for k, chance in enumerate(odds) if chance > 0.5]
    fold = cut * share
    teaching = [k for k, p in enumerate(pairs) if abs(p.cut) + abs(p.folded) >= TEACHES and k not in odd]
    found = tuple(_unexplained(read, pairs, odd, k, (cut, fold, prior)) for k in odd)
    found = tuple(u for u in found if u.alone is None or u.after == u.alone)
    surprising = bool(pairs) and not read[-1].again and _pull(pairs[-1], cut, fold, prior) > SURPRISING
    return Moves(cut, fold, weight, bool(teaching), found, surprising)


def _expected(pair: _Pair, grid: tuple[Real, Real, Real]) -> tuple[float, float]:
    """What 1/f should have lost, and its standard deviation with the readings' own, by the usual wire."""
    cut, fold, weight = grid
    lost = cut * pair.cut + fold * pair.folded
    mean = float(weight @ lost)
    # The rare odd wire does not widen what is told of the usual one.
    usual = CUT_SPREAD * abs(CUT_MOVES * pair.cut + FOLD_MOVES * pair.folded)
    return mean, math.hypot(usual, FOLD_SPREAD * abs(pair.folded), pair.noise)


def _pull(pair: _Pair, cut: Real, fold: Real, weight: Real) -> float:
    mean, spread = _expected(pair, (cut, fold, weight))
    return abs(pair.seen - mean) / spread


def _unexplained(
    read: Sequence[Stretch],
    pairs: Sequence[_Pair],
    odd: Sequence[int],
    at: int,
    grid: tuple[Real, Real, Real],
) -> Unexplained:
    """The move from a stretch to the next, told; and whether one reading alone is the odd one."""
    mean, spread = _expected(pairs[at], grid)
    alone = None
    for middle in (at, at + 1):
        # Both moves to and from it are odd, and its neighbours agree without it.
        if not 0 < middle < len(read) - 1 or not {middle - 1, middle} <= set(odd):
            continue
        if _pull(_pair(read[middle - 1], read[middle + 1]), *grid) < AGREE:
            alone = middle
    before, after = read[at], read[at + 1]
    lost = max(min(mean, 0.9), -0.9)
    return Unexplained(
        before=at,
        after=at + 1,
        before_hz=before.dip_hz,
        after_hz=after.dip_hz,
        moved=after.dip_hz / before.dip_hz - 1,
        expected=1 / (1 - lost) - 1,
        expected_spread=spread,
        alone=alone,
        now=at + 2 == len(read) and not after.again,
    )


def normal_draws(draws: int) -> Real:
    """Standard normal deviates, evenly filled and shuffled always in the same way."""
    from scipy.special import ndtri

    order: npt.NDArray[np.intp] = np.random.default_rng(20261128).permutation(draws)
    return np.asarray(ndtri((order + 0.5) / draws))
