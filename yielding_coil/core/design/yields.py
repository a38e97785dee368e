"""How many builds of a design hold its targets, and what each act on a part buys."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, TypeAlias

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.design.design import Design, FixedCapacitor
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import System, worst_over
from yielding_coil.core.tolerance import Spread, Yield, YieldLoss, share_trimmed, shares_at, swr_fan, yield_of

# Builds tried for a figure that is kept or compared; at most so many for a fan or for trimming.
BUILDS, FAN_BUILDS = 2048, 512
# A part that was measured is known to this, two standard deviations (common practice: 1 %).
MEASURED_SPREAD = 0.01
# What widening or tightening the limit would do, over the limits people speak of.
LIMITS = tuple(round(1.1 + 0.1 * step, 1) for step in range(20))
# Fewer than this hold: the spread of parts is not what fails. What costs less, or buys less, is not worth a word.
FEW_SHARE, WORTH_NAMING, WORTH_DOING = 0.1, 0.01, 0.005
MOST_NAMED = 2
# Samples within a twentieth of a target's frequency, or within the target, from which on a curve is one.
FEWEST_SAMPLES, ROUND = 5, 0.1

# The tightest class in which capacitors are easily had, two standard deviations (IEC 60062, letter G: 2 %).
TIGHTER_SPREAD = 0.02

Act: TypeAlias = Literal["measured", "tighter", "trimmed", "trimmed_in_turn"]
ACTS: tuple[Act, ...] = ("measured", "tighter", "trimmed", "trimmed_in_turn")


def few_hold(share: float) -> bool:
    """Whether so few builds hold that their spread is not what fails: nothing to be made as it stands."""
    return share < FEW_SHARE


@dataclass(frozen=True, slots=True)
class YieldGain:
    """What one act on one part buys: the share with it measured to 1 %, bought tighter, or trimmed in place.

    Of parts that are trimmed in turn the name holds all of them, in that order, with a comma between.
    """

    name: str
    act: Act
    parts_share: float
    reading_share: float


@dataclass(frozen=True, slots=True)
class AtLimit:
    """The share of builds that stay within a limit on every target."""

    swr_limit: float
    parts_share: float
    reading_share: float


@dataclass(frozen=True, slots=True)
class YieldPrediction:
    """How many builds hold, with part spreads only and with the reading's doubt too; and the fan of their SWR.

    `reading_rms` is the analyser's own doubt of Γ at the centre, where it is kept with the sweep.
    `guessed` is how many samples lie round the target that has fewest, where those are too few to judge by: what
    lies between them is a guess, and so is a share of builds.
    """

    parts: Yield
    reading: Yield
    bought: tuple[YieldGain, ...]
    limits: tuple[AtLimit, ...]
    fan_hz: Real
    fan_low: Real
    fan_high: Real
    guessed: int | None = None
    reading_rms: float | None = None

    @property
    def few_hold(self) -> bool:
        """Whether so few builds hold that their spread is not what fails."""
        return few_hold(self.parts.share)

    @property
    def costly(self) -> tuple[YieldLoss, ...]:
        """What costs most with the reading in doubt, the dearest first."""
        return tuple(c for c in self.reading.costs if c.share >= WORTH_NAMING)[:MOST_NAMED]

    @property
    def worthwhile(self) -> tuple[YieldGain, ...]:
        """The best part to measure, to buy tighter and to trim, where each buys something.

        To trim several in turn is named where that buys more than the best of them alone.
        """
        worth = [g for g in self.bought if g.reading_share > self.reading.share + WORTH_DOING]
        best = {act: max((g for g in worth if g.act == act), key=_reading_share, default=None) for act in ACTS}
        alone, in_turn = best["trimmed"], best["trimmed_in_turn"]
        if alone and in_turn and in_turn.reading_share <= alone.reading_share + WORTH_DOING:
            best["trimmed_in_turn"] = None
        return tuple(g for g in best.values() if g is not None)


def _reading_share(gain: YieldGain) -> float:
    return gain.reading_share


@dataclass(frozen=True, slots=True)
class DesignSummary:
    """The worst SWR on any target, and the share of builds that hold all of them; None where they say nothing."""

    worst_swr: float | None
    share: float | None


def design_yield(
    design: Design, system: System, spreads: Sequence[Spread], builds: int = BUILDS, *, costs: bool = False
) -> Yield:
    """Share of builds that hold every target of a design."""
    return yield_of(system, design.targets, spreads, design.rng(), builds, costs=costs)


def share_of(design: Design, system: System) -> float:
    """The share by what strays from build to build, as it is kept and compared."""
    return design_yield(design, system, design.build_spreads()).share


def summary_of(design: Design) -> DesignSummary:
    """What is said of a design in a word; nothing where but a resistor hangs on a line: no antenna is that good."""
    spreads = design.build_spreads()
    system = design.system()
    if not spreads and design.on_resistor:
        return DesignSummary(None, None)
    return DesignSummary(max(worst_over(system, design.targets)), design_yield(design, system, spreads).share)


def predict_yield(
    design: Design, frequency_hz: Real, builds: int = FAN_BUILDS, *, trimmed: bool = False
) -> YieldPrediction:
    """Builds out of a hundred that hold every target, the fan of their SWR at the box, and what would help.

    Args:
        frequency_hz: shape (n,), of the fan.
        builds: a power of two.
        trimmed: also what trimming each part in place buys, which takes a few hundred milliseconds.
    """
    system, spreads = design.system(), design.part_spreads()
    both = [*spreads, *design.antenna_spreads()]
    low, high = swr_fan(system, frequency_hz, spreads, design.rng(), min(builds, FAN_BUILDS))
    limits = [shares_at(system, design.targets, each, design.rng(), LIMITS, builds) for each in (spreads, both)]
    return YieldPrediction(
        design_yield(design, system, spreads, builds, costs=True),
        design_yield(design, system, both, builds, costs=True),
        tuple(_gains(design, system, builds, trimmed)),
        tuple(AtLimit(limit, a, b) for limit, a, b in zip(LIMITS, *limits, strict=True)),
        frequency_hz,
        low,
        high,
        guessed_of(design),
        reading_rms_of(design),
    )


def reading_rms_of(design: Design) -> float | None:
    """Root mean square of the error of Γ at the centre, as kept with the sweep; None where nobody knows."""
    found = design.antenna
    if not isinstance(found, Sweep) or found.doubt is None:
        return None
    return float(np.interp(design.center_hz, found.frequency_hz, found.doubt.rms))


def guessed_of(design: Design) -> int | None:
    """How many samples lie round the target that has fewest, where they are too few; None where they suffice."""
    found = design.antenna
    if not isinstance(found, Sweep):
        return None
    counts = []
    for target in design.targets:
        half = max(target.high_hz - target.low_hz, ROUND * target.center_hz) / 2
        near = np.abs(found.frequency_hz - target.center_hz) <= half
        counts.append(int(near.sum()))
    fewest = min(counts)
    return fewest if fewest < FEWEST_SAMPLES else None


def _gains(design: Design, system: System, builds: int, trimmed: bool) -> list[YieldGain]:
    spreads, reading = design.part_spreads(), design.antenna_spreads()
    found = []

    def known_to(name: str, spread: float, act: Act) -> YieldGain:
        """What it would buy if one part strayed less."""
        known = [replace(s, relative=spread, absolute=0.0) if s.name == name else s for s in spreads]
        shares = [design_yield(design, system, each, builds).share for each in (known, [*known, *reading])]
        return YieldGain(name, act, *shares)

    def brought(names: Sequence[str], act: Act) -> YieldGain:
        """What it would buy if some were trimmed in place."""
        most = min(builds, FAN_BUILDS)
        shares = [
            share_trimmed(system, design.targets, each, design.rng(), names, most)
            for each in (spreads, [*spreads, *reading])
        ]
        return YieldGain(", ".join(names), act, *shares)

    made = [e for e in design.elements if e.by_hand]
    for element in made:
        if element.spread > MEASURED_SPREAD:
            found.append(known_to(element.key, MEASURED_SPREAD, "measured"))
        if isinstance(element, FixedCapacitor) and element.spread > TIGHTER_SPREAD:
            found.append(known_to(element.key, TIGHTER_SPREAD, "tighter"))
    if trimmed:
        some = [e.key for e in made if e.trimmed_in_place and e.spread > 0]
        found += [brought([key], "trimmed") for key in some]
        if len(some) > 1:
            found.append(brought(some, "trimmed_in_turn"))
    return found
