"""Where an antenna dips on the feed that its kind asks for, and how long it must be to dip where it is wanted."""

import contextlib
import math
from collections.abc import Sequence
from functools import lru_cache
from typing import TypeVar

import numpy as np

from yielding_coil.core.arrays import require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.modelled_antenna import dip_near
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.wire import KEPT_OHM, NUMBERS, Hung, reflection_over

HungOf = TypeVar("HungOf", bound=Hung)

# The dip is looked for so far to either side, in steps of so much.
SIDES = (0.12, 0.4)
STEP = 2e-4
# The dip lies where it is wanted when it is no further off than this; sums that come no nearer end after so many.
CLOSE, ROUNDS = 2e-4, 8
TOGETHER_ROUNDS = 6
# How a dip follows what an antenna is tuned by: 1/length; of a coil as its root.
POWERS = {"inductance_h": -0.5, "upper_m": -0.3, "spoke_m": -0.3, "outer_m": -0.1, "over_m": -0.1}
LEAST_POWER, MOST_POWER = 0.05, 3.0
# What is taken off an end to see what it moves, of its length.
SHORTER = 0.01


def hung_dip(hung: Hung, near_hz: float, feed_ohm: float) -> float:
    """Where its SWR on this feed is lowest, by the dip nearest to a frequency, in Hz; NaN where none is near."""
    require_positive("near_hz", near_hz)
    structure = hung.structure()
    for side in SIDES:
        low, high = near_hz * (1 - side), near_hz * (1 + side)
        f = np.geomspace(low, high, math.ceil(math.log(high / low) / STEP))
        seen = impedance_of(reflection_over(structure, low, high)(np.log(f)), KEPT_OHM)
        found = dip_near(f, np.abs(reflection_of(seen, feed_ohm)), near_hz)
        if math.isfinite(found):
            return found
    return math.nan


def tuned(hung: HungOf, wanted_hz: float, feed_ohm: float) -> HungOf:
    """The same with what it is tuned by changed until its dip lies where it is wanted.

    Raises:
        OutOfDomainError: no dip near by, or none that this number brings there.
    """
    name = hung.tuned_on(wanted_hz)
    power = POWERS.get(name, -1.0)
    before: tuple[float, float] | None = None
    for _ in range(ROUNDS):
        value, found = float(getattr(hung, name)), hung_dip(hung, wanted_hz, feed_ohm)
        if not math.isfinite(found):
            break
        if abs(found / wanted_hz - 1) < CLOSE:
            return hung
        if before is not None:
            # How it follows here, once two values say so.
            seen = math.log(found / before[1]) / math.log(value / before[0])
            power = seen if LEAST_POWER < -seen < MOST_POWER else power
        before = value, found
        hung = hung.told(**{name: value * (wanted_hz / found) ** (1 / power)})
    raise OutOfDomainError(
        NUMBERS[name].label,
        f"{getattr(hung, name):.4g}",
        f"one that dips within {SIDES[-1]:.0%} of {wanted_hz / 1e6:.4g} MHz",
    )


def tuned_together(hung: HungOf, wanted_hz: Sequence[float], feed_ohm: float) -> HungOf:
    """The same dipping on each of several bands at once, the highest first and outwards, until none moves another.

    Raises:
        OutOfDomainError: two bands that the same number would have to serve; bands that it cannot be brought to.
    """
    bands = sorted(wanted_hz, reverse=True)
    names = [hung.tuned_on(f) for f in bands]
    if len(set(names)) < len(names):
        shown = " and ".join(f"{f / 1e6:.4g}" for f in bands)
        raise OutOfDomainError("bands", f"{shown} MHz", "bands that this antenna has a length each for")
    start = hung
    try:
        for _ in range(TOGETHER_ROUNDS):
            before = hung
            for f in bands:
                hung = tuned(hung, f, feed_ohm)
            if hung == before:
                break
        hung.structure()
    except OutOfDomainError as why:
        shown = " and ".join(f"{f / 1e6:.4g}" for f in bands)
        raise OutOfDomainError(
            "bands",
            f"{shown} MHz",
            f"bands that this antenna can be brought to at once ({NUMBERS[start.tuned_on(bands[0])].label} and "
            f"{NUMBERS[start.tuned_on(bands[-1])].label} pull at each other: bands further apart, or wires)",
        ) from why
    return hung


@lru_cache(maxsize=64)
def moves_by_length(hung: Hung, near_hz: float, feed_ohm: float) -> float:
    """What wire off the ends moves the dip, over what the ratio of lengths says; 1 where it cannot be told."""
    whole = hung.reaches_m[hung.band_of(near_hz)]
    found = math.nan

    def longer(share: float) -> Hung:
        """Of several bands the wire of this one; what lies beyond it moves out with it."""
        if not hung.in_turn:
            return hung.shortened(-share * whole)
        name = hung.tuned_on(near_hz)
        return hung.told(**{name: getattr(hung, name) + share * whole})

    with contextlib.suppress(OutOfDomainError):
        short = hung_dip(longer(-SHORTER), near_hz, feed_ohm)
        long = hung_dip(longer(SHORTER), near_hz, feed_ohm)
        found = math.log(short / long) / math.log((1 + SHORTER) / (1 - SHORTER))
    return found if math.isfinite(found) and found > 0 else 1.0
