"""How many builds of a design hold its targets, and what each act on a part buys."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, TypeAlias

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.design.design import Design
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

Act: TypeAlias = Literal["measured", "trimmed"]
ACTS: tuple[Act, ...] = ("measured", "trimmed")


def few_hold(share: float) -> bool:
    """Whether so few builds hold that their spread is not what fails: nothing to be made as it stands."""
    return share < FEW_SHARE


@dataclass(frozen=True, slots=True)
class YieldGain:
    """What one act on one part buys: the share with it measured to 1 %, or trimmed in place."""

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
        """The best part to measure, and the best to trim, where either buys something."""
        worth = [g for g in self.bought if g.reading_share > self.reading.share + WORTH_DOING]
        best = (max((g for g in worth if g.act == act), key=_reading_share, default=None) for act in ACTS)
        return tuple(g for g in best if g is not None)


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
    )


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
    for element in design.elements:
        if not element.by_hand:
            continue
        if element.spread > MEASURED_SPREAD:
            own = next(s for s in spreads if s.name == element.key)
            known = [s for s in spreads if s.name != element.key]
            known.append(Spread(own.name, own.element, own.field, MEASURED_SPREAD))
            shares = [design_yield(design, system, each, builds).share for each in (known, [*known, *reading])]
            found.append(YieldGain(element.key, "measured", *shares))
        if trimmed and element.trimmed_in_place and element.spread > 0:
            most = min(builds, FAN_BUILDS)
            shares = [
                share_trimmed(system, design.targets, each, design.rng(), element.key, most)
                for each in (spreads, [*spreads, *reading])
            ]
            found.append(YieldGain(element.key, "trimmed", *shares))
    return found
