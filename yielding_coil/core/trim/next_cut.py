"""The next cut: from the ratio at first, then from how far the acts so far moved the dip, with bounds.

L·f is constant, so a leg changes by the share that the frequency is off. What a centimetre really moves depends on
the site and on how it is taken away: a fold moves the dip about three quarters of its length (common practice).
From the second reading on both are fitted, shrunk towards the rule by how well they are known.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Real, require_not_negative, require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.trim.meter_readings import REPEATED

By = Literal["fold", "cut"]
Act = Literal["fold", "cut", "unfold", "splice", "none"]

# What a centimetre moves, over what the rule says: of a cut, and of a fold; one standard deviation each.
CUT_MOVES, CUT_SPREAD = 1.0, 0.10
FOLD_MOVES, FOLD_SPREAD = 0.75, 0.10
# The share of the sum taken (common practice: a fold can be taken back, a cut cannot).
CAUTION: dict[By, float] = {"fold": 1.0, "cut": 0.85}
# 90 % to either side, and nine chances in ten on one.
BOTH_SIDES, ONE_SIDE = 1.645, 1.2816
# Acts smaller than this share of a leg teach nothing of what a centimetre moves.
TEACHES = 0.002
# A dip further than this from where the length says is measured again before any sum.
FAR_OFF = 0.15
# The dip is where it is wanted when it lies no further off than this: dips repeat to 0.1 to 0.2 %.
NEAR_ENOUGH = 0.002
# A fold longer than this share of a leg is better partly cut off (common practice).
LONG_FOLD = 0.15
# R of a dipole at resonance by its height in waves over perfect ground, as far as it rises with height
# (moment method, two codes; C. A. Balanis, Antenna Theory, ch. 4, for the shape).
DIPOLE_HEIGHTS = ((0.1, 21.0), (0.15, 41.0), (0.2, 63.0), (0.25, 82.0), (0.35, 97.0))
# Beyond this ratio it is not the same dip, or not the same wire.
FURTHEST = 10.0


@dataclass(frozen=True, slots=True)
class DipReading:
    """A dip, and the leg it was read with.

    Args:
        dip_hz: where it was read.
        leg_m: one leg from the feedpoint to where it was cut, folds included.
        folded_m: how much of that is folded back.
        spread: one standard deviation of the dip, relative; what a dip repeats to at best when left out.
        conditions: anything that names how it hung; readings with other words are kept apart.
    """

    dip_hz: float
    leg_m: float
    folded_m: float = 0.0
    spread: float = REPEATED
    conditions: str = ""

    def __post_init__(self) -> None:
        require_positive("dip_hz", self.dip_hz)
        require_positive("leg_m", self.leg_m)
        require_not_negative("folded_m", self.folded_m)
        require_positive("spread", self.spread)
        if self.folded_m >= self.leg_m:
            raise OutOfDomainError(
                "folded_m", f"{self.folded_m:.3f} m", f"shorter than the leg itself, {self.leg_m:.3f} m"
            )


@dataclass(frozen=True, slots=True)
class NextCut:
    """What to do next to each leg, and where that puts the dip.

    `per_leg_m` is what to fold, cut, unfold or splice; `exact_m`, between `low_m` and `high_m` with 90 %, is what
    would hit the target; `most_m` is the most that may be taken; `by_ratio_m` is the plain sum. `moves` is what a
    centimetre of this act moves over what the rule says, ± `moves_spread` (one standard deviation), `learned` where
    acts on this wire have told so. `held_by` says what kept the amount below the sum: caution, or the bound that a
    cut may not pass.
    """

    act: Act
    per_leg_m: float
    exact_m: float
    low_m: float
    high_m: float
    most_m: float
    by_ratio_m: float
    dip_hz: float
    dip_spread: float
    lands_hz: float
    lands_low_hz: float
    lands_high_hz: float
    moves: float
    moves_spread: float
    learned: bool
    held_by: Literal["nothing", "caution", "bound"]
    used: int
    apart: int


@dataclass(frozen=True, slots=True)
class _Fit:
    """Target over dip now, and what cut and fold move, with their covariance."""

    estimate: Real
    covariance: Real
    scale: float
    leg_m: float
    folded_m: float
    learned: bool
    used: int
    apart: int

    def after(self, cut_m: float, fold_m: float) -> tuple[float, float]:
        """Target over dip after an act on each leg, and its standard deviation."""
        turn = np.array([1.0, -self.scale * cut_m / self.leg_m, -self.scale * fold_m / self.leg_m])
        return float(turn @ self.estimate), float(np.sqrt(turn @ self.covariance @ turn))


def _fitted(readings: Sequence[DipReading], target_hz: float) -> _Fit:
    """Weighted least squares with the rule as prior (Gelman et al., Bayesian Data Analysis, 3rd ed., §14.8)."""
    if not readings:
        raise OutOfDomainError("readings", "empty", "one reading at least")
    require_positive("target_hz", target_hz)
    for reading in readings:
        if not 1 / FURTHEST < target_hz / reading.dip_hz < FURTHEST:
            raise OutOfDomainError(
                "dip_hz",
                f"{reading.dip_hz / 1e6:g} MHz",
                f"within {FURTHEST:g} times the target, {target_hz / 1e6:g} MHz: this is another dip",
            )
        if not 1 / FURTHEST < reading.leg_m / readings[-1].leg_m < FURTHEST:
            raise OutOfDomainError(
                "leg_m", f"{reading.leg_m:g} m", f"within {FURTHEST:g} times the newest, {readings[-1].leg_m:g} m"
            )
    newest = readings[-1]
    used = [r for r in readings if r.conditions == newest.conditions]
    wave = np.array([target_hz / r.dip_hz for r in used])
    scale = float(wave[-1])
    # What of the leg counts: a fold takes away its share of it (common practice).
    leg_m = newest.leg_m - FOLD_MOVES * newest.folded_m
    cut = np.array([(r.leg_m - newest.leg_m) / leg_m for r in used])
    folded = np.array([(newest.folded_m - r.folded_m) / leg_m for r in used])
    weight = 1 / (wave * np.array([r.spread for r in used]))
    seen = np.column_stack([np.ones_like(wave), scale * cut, scale * folded]) * weight[:, None]
    # A fold moves its share of what a cut moves, so what is learnt of one is learnt of the other.
    prior = np.array([CUT_MOVES, CUT_MOVES * FOLD_MOVES])
    both = FOLD_MOVES * CUT_SPREAD**2
    doubt = np.array([[CUT_SPREAD**2, both], [both, (FOLD_MOVES * CUT_SPREAD) ** 2 + FOLD_SPREAD**2]])
    certain = np.zeros((3, 3))
    certain[1:, 1:] = np.linalg.inv(doubt)
    covariance = np.linalg.inv(seen.T @ seen + certain)
    told = seen.T @ (wave * weight)
    told[1:] += certain[1:, 1:] @ prior
    return _Fit(
        covariance @ told,
        covariance,
        scale,
        leg_m,
        newest.folded_m,
        bool((np.abs(cut) + np.abs(folded)).max() >= TEACHES),
        len(used),
        len(readings) - len(used),
    )


def next_cut(readings: Sequence[DipReading], target_hz: float, by: By = "fold") -> NextCut:
    """What to take off each leg next, or to give back.

    Args:
        readings: oldest first; the newest says how the wire is now, and only readings under its conditions count.
        target_hz: where the dip is wanted.
        by: fold back, or cut off. A cut stays short of the target with nine chances in ten.

    Raises:
        OutOfDomainError: no reading, a length or a frequency not above zero, a fold longer than its leg.

    Source:
        L·f constant, and the cautions: common practice (99 in a leg, 26.6 → 28.3 MHz: 93.05 in).

    >>> first = DipReading(24.2e6, 2.96)
    >>> round(next_cut([first], 24.94e6).per_leg_m, 3), round(next_cut([first], 24.94e6, "cut").per_leg_m, 3)
    (0.088, 0.075)
    """
    fit = _fitted(readings, target_hz)
    wave = float(fit.estimate[0])
    by_ratio = fit.leg_m * abs(1 - 1 / wave)
    shorten = wave >= 1
    folds = by == "fold" if shorten else fit.folded_m > 0
    moves = float(fit.estimate[2 if folds else 1])
    exact, spread = _hits(fit, folds)
    held: Literal["nothing", "caution", "bound"] = "nothing"
    if not shorten:
        act: Act = "unfold" if folds else "splice"
        most = fit.folded_m if folds else float("inf")
        amount = min(exact, fit.folded_m) if folds else exact
    else:
        act = by
        most = fit.leg_m - fit.folded_m
        # The first time the sum itself is taken: what a fold moves less is a margin, and is learnt from it.
        amount = CAUTION[by] * (exact if fit.learned else min(exact, by_ratio))
        held = "caution" if amount < exact else "nothing"
        if by == "cut":
            bound = _bound(fit, exact)
            if bound < amount:
                amount, held = bound, "bound"
            most = min(most, bound)
        amount = min(amount, most)
    taken = amount if shorten else -amount
    lands, doubt = fit.after(0.0, taken) if folds else fit.after(taken, 0.0)
    return NextCut(
        act=act if amount > 0 else "none",
        per_leg_m=amount,
        exact_m=exact,
        low_m=max(0.0, exact - BOTH_SIDES * spread),
        high_m=exact + BOTH_SIDES * spread,
        most_m=most,
        by_ratio_m=by_ratio,
        dip_hz=target_hz / wave,
        dip_spread=float(np.sqrt(fit.covariance[0, 0])) / wave,
        lands_hz=target_hz / lands,
        lands_low_hz=target_hz / (lands + BOTH_SIDES * doubt),
        lands_high_hz=target_hz / (lands - BOTH_SIDES * doubt),
        moves=moves,
        moves_spread=float(np.sqrt(fit.covariance[2 if folds else 1, 2 if folds else 1])),
        learned=fit.learned,
        held_by=held,
        used=fit.used,
        apart=fit.apart,
    )


def _hits(fit: _Fit, folds: bool) -> tuple[float, float]:
    """The amount that hits the target, and its standard deviation to first order."""
    k = 2 if folds else 1
    off, moves = float(fit.estimate[0]) - 1, float(fit.estimate[k])
    amount = off * fit.leg_m / (fit.scale * moves)
    turn = np.zeros(3)
    turn[0], turn[k] = fit.leg_m / (fit.scale * moves), -amount / moves
    return abs(amount), float(np.sqrt(turn @ fit.covariance @ turn))


def _bound(fit: _Fit, most_m: float) -> float:
    """The longest cut that stays short of the target with nine chances in ten; zero where none does."""
    low, high = 0.0, most_m
    for _ in range(50):
        middle = (low + high) / 2
        lands, doubt = fit.after(middle, 0.0)
        low, high = (middle, high) if lands - ONE_SIDE * doubt >= 1 else (low, middle)
    return low


@dataclass(frozen=True, slots=True)
class PredictedDip:
    """Where an act would put the dip, between these with 90 %."""

    dip_hz: float
    low_hz: float
    high_hz: float


def without_folds(readings: Sequence[DipReading], target_hz: float) -> PredictedDip:
    """Where the dip goes when the folds are cut off: a fold lengthens a little, and what is gone does not.

    Raises:
        OutOfDomainError: as next_cut.
    """
    fit = _fitted(readings, target_hz)
    lands, doubt = fit.after(fit.folded_m, -fit.folded_m)
    return PredictedDip(
        target_hz / lands, target_hz / (lands + BOTH_SIDES * doubt), target_hz / (lands - BOTH_SIDES * doubt)
    )


def loading_h(reactance_ohm: float, target_hz: float) -> float:
    """The inductance in series with the feedpoint that takes out a reactance at the target: half of it in each leg.

    Raises:
        OutOfDomainError: the reactance is not below zero: the wire is not too short there.

    >>> round(loading_h(-25.0, 24.94e6) * 1e9)
    160
    """
    require_positive("target_hz", target_hz)
    if not reactance_ohm < 0:
        raise OutOfDomainError("reactance_ohm", reactance_ohm, "below zero, as of a wire too short")
    return -reactance_ohm / (2 * np.pi * target_hz)


def height_of_dipole_m(resistance_ohm: float, frequency_hz: float) -> float | None:
    """The height over perfect ground at which a half-wave dipole shows this R at resonance, in metres.

    Returns:
        None above the R that any height below a third of a wave shows; the lowest height tabled for a lower R.

    Raises:
        OutOfDomainError: a value not above zero.

    Source:
        DIPOLE_HEIGHTS, with straight lines between.

    >>> round(height_of_dipole_m(41.0, 24.94e6), 1)
    1.8
    """
    require_positive("resistance_ohm", resistance_ohm)
    require_positive("frequency_hz", frequency_hz)
    heights, resistances = zip(*DIPOLE_HEIGHTS, strict=True)
    if resistance_ohm > resistances[-1]:
        return None
    return float(np.interp(resistance_ohm, resistances, heights)) * SPEED_OF_LIGHT_M_PER_S / frequency_hz


# Slips with a tape or a rule, and the dip they give over the dip that the length written down would give.
SLIPS: dict[str, float] = {
    "whole_for_leg": 2.0,
    "leg_for_whole": 0.5,
    "feet_for_metres": 1 / 0.3048,
    "metres_for_feet": 0.3048,
}
_SLIP_MATCHES = 0.08


def slips(dip_hz: float, expected_hz: float) -> list[str]:
    """Which usual slip would explain a dip so far from where the length says; none where it is near."""
    require_positive("dip_hz", dip_hz)
    require_positive("expected_hz", expected_hz)
    ratio = dip_hz / expected_hz
    if abs(ratio - 1) < FAR_OFF:
        return []
    return [key for key, factor in SLIPS.items() if abs(ratio / factor - 1) < _SLIP_MATCHES]
