"""The next cut: from the ratio at first, then from how far the acts so far moved the dip, with bounds.

L·f is constant, so a leg changes by the share that the frequency is off. What a centimetre really moves depends on
the site and on how it is taken away: a fold moves the dip about three quarters of its length (common practice).
From the second reading on both are fitted, shrunk towards the rule by how well they are known.
"""

from collections.abc import Sequence
from dataclasses import astuple, dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Real, require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.trim.meter_readings import REPEATED
from yielding_coil.core.trim.moves import (
    DipReading,
    Moves,
    Stretch,
    Unexplained,
    moves_of,
    normal_draws,
    stretches,
)

By = Literal["fold", "cut"]
Act = Literal["fold", "cut", "unfold", "splice", "none"]

# The share of the sum taken (common practice: a fold can be taken back, a cut cannot).
CAUTION: dict[By, float] = {"fold": 1.0, "cut": 0.85}
# Wires as likely as each other that bounds are counted over.
DRAWS = 4096
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
    odd: tuple[Unexplained, ...] = ()
    again: bool = False
    surprising: bool = False


@dataclass(frozen=True, slots=True)
class PredictedDip:
    """Where an act would put the dip, between these with 90 %."""

    dip_hz: float
    low_hz: float
    high_hz: float


@dataclass(frozen=True, slots=True, eq=False)
class _Now:
    """The present dip as target over dip, and equally likely wires with it; shapes (draws,)."""

    wave: float
    stretch: Stretch
    moves: Moves
    waves: Real
    repeats: Real
    cut: Real
    fold: Real
    used: int
    apart: int

    @property
    def leg_m(self) -> float:
        """What of the leg counts."""
        return self.stretch.effective_m

    def after(self, cut_m: float, fold_m: float) -> PredictedDip:
        """Where an act on each leg puts the dip as it will be read: by the mean wire, and nine in ten."""
        moved = 1 - (self.moves.middle(False)[0] * cut_m + self.moves.middle(True)[0] * fold_m) / self.leg_m
        each = self.waves * (1 - (self.cut * cut_m + self.fold * fold_m) / self.leg_m)
        low, high = np.quantile(self.repeats / np.maximum(each, 1e-3), (0.05, 0.95))
        return PredictedDip(1 / (self.wave * moved), float(low), float(high))

    def hits(self, folds: bool) -> Real:
        """The amounts that would hit the target, one a wire; below zero where wire is given back."""
        return np.asarray(self.leg_m * (1 - 1 / self.waves) / (self.fold if folds else self.cut))


def _now(readings: Sequence[DipReading], target_hz: float) -> _Now:
    if not readings:
        raise OutOfDomainError("readings", "empty", "one reading at least")
    require_positive("target_hz", target_hz)
    newest = readings[-1]
    if not 1 / FURTHEST < target_hz / newest.dip_hz < FURTHEST:
        raise OutOfDomainError(
            "dip_hz",
            f"{newest.dip_hz / 1e6:g} MHz",
            f"within {FURTHEST:g} times the target, {target_hz / 1e6:g} MHz: this is another dip",
        )
    for reading in readings:
        if not 1 / FURTHEST < reading.leg_m / newest.leg_m < FURTHEST:
            raise OutOfDomainError(
                "leg_m", f"{reading.leg_m:g} m", f"within {FURTHEST:g} times the newest, {newest.leg_m:g} m"
            )
    read = stretches(readings)
    moves, present = moves_of(read), read[-1]
    wave = target_hz / present.dip_hz
    cut, fold = moves.drawn(DRAWS)
    normal = normal_draws(2 * DRAWS).reshape(2, DRAWS)
    used = sum(r.conditions == newest.conditions for r in readings)
    return _Now(
        wave,
        present,
        moves,
        wave * (1 + present.spread * normal[0]),
        1 + REPEATED * normal[1],
        cut,
        fold,
        used,
        len(readings) - used,
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
    now = _now(readings, target_hz)
    wave, present, leg = now.wave, now.stretch, now.leg_m
    by_ratio = leg * abs(1 - 1 / wave)
    shorten = wave >= 1
    folds = by == "fold" if shorten else present.folded_m > 0
    moves, moves_spread = now.moves.middle(folds)
    exact = by_ratio / moves
    hits = now.hits(folds) if shorten else -now.hits(folds)
    low, short_of, high = (max(0.0, float(q)) for q in np.quantile(hits, (0.05, 0.1, 0.95)))
    held: Literal["nothing", "caution", "bound"] = "nothing"
    if not shorten:
        act: Act = "unfold" if folds else "splice"
        most = present.folded_m if folds else float("inf")
        amount = min(exact, most)
    else:
        act = by
        most = min(leg, present.leg_m) - present.folded_m
        # The first time the sum itself is taken: what a fold moves less is a margin, and is learnt from it.
        amount = CAUTION[by] * (exact if now.moves.learned else min(exact, by_ratio))
        held = "caution" if amount < exact else "nothing"
        if by == "cut":
            if short_of < amount:
                amount, held = short_of, "bound"
            most = min(most, short_of)
        amount = min(amount, most)
    taken = amount if shorten else -amount
    lands = now.after(0.0, taken) if folds else now.after(taken, 0.0)
    return NextCut(
        act=act if amount > 0 else "none",
        per_leg_m=amount,
        exact_m=exact,
        low_m=low,
        high_m=high,
        most_m=most,
        by_ratio_m=by_ratio,
        dip_hz=present.dip_hz,
        dip_spread=present.spread,
        lands_hz=target_hz * lands.dip_hz,
        lands_low_hz=target_hz * lands.low_hz,
        lands_high_hz=target_hz * lands.high_hz,
        moves=moves,
        moves_spread=moves_spread,
        learned=now.moves.learned,
        held_by=held,
        used=now.used,
        apart=now.apart,
        odd=now.moves.odd,
        again=present.again,
        surprising=now.moves.surprising,
    )


def without_folds(readings: Sequence[DipReading], target_hz: float) -> PredictedDip:
    """Where the dip goes when the folds are cut off: a fold lengthens a little, and what is gone does not.

    Raises:
        OutOfDomainError: as next_cut.
    """
    now = _now(readings, target_hz)
    folded = now.stretch.folded_m
    return PredictedDip(*(target_hz * ratio for ratio in astuple(now.after(folded, -folded))))


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
