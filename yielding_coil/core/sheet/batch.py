"""What several builds of one design will show: how many of them hold, with bounds."""

from dataclasses import dataclass

import numpy as np
from scipy.stats import binom

from yielding_coil.core.arrays import Real
from yielding_coil.core.design import Design
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.tolerance import Spread, sample, which_hold

# What hands make anew each time. All else is the same for all of them: rings, capacitors and cable of one batch are
# alike (common practice), and what a way to wind leaves open (leakage, capacitance) is open for all wound so.
EACH_TIME = ("inductance_h", "end_f")
# What is common is drawn so often, and for each draw so many builds are tried.
DRAWS, BUILDS = 256, 32
TAIL = 0.05
MOST = 100


@dataclass(frozen=True, slots=True)
class Batch:
    """So many builds of one design for one and the same antenna.

    Args:
        builds: how many are made.
        expected: that hold, on average.
        low, high: between which the number that holds lies, nine times in ten or more.
    """

    builds: int
    expected: float
    low: int
    high: int

    @property
    def first_alone(self) -> bool:
        """Whether over half of them may hold or not: then one is made and swept before the others."""
        return self.high - self.low > self.builds / 2


def batch_of(design: Design, builds: int) -> Batch | None:
    """How many of so many builds will hold every target.

    What the antenna's reading or model leaves open, and what is bought in one batch, is the same for all of them;
    what hands make differs from build to build. Where more differs than is taken to here, the bounds are too wide.

    Returns:
        None where nothing strays, or only a resistor hangs on a line.

    Raises:
        OutOfDomainError: not between 1 and 100 builds.
    """
    if not 1 <= builds <= MOST:
        raise OutOfDomainError("builds", builds, f"1 to {MOST}")
    parts = design.part_spreads()
    if not parts:
        return None
    every = [*parts, *(() if design.on_resistor else design.antenna_spreads())]
    common = [s for s in every if s.field not in EACH_TIME]
    own = [s for s in every if s.field in EACH_TIME]
    shares = _shares(design, common, own)
    counts = np.arange(builds + 1)
    chance = np.asarray(binom.pmf(counts, builds, shares[:, None])).mean(axis=0)
    rising = np.cumsum(chance)
    low = int(np.searchsorted(rising, TAIL, side="right"))
    high = int(np.searchsorted(rising, 1 - TAIL, side="left"))
    return Batch(builds, float(builds * shares.mean()), min(low, builds), min(high, builds))


def _shares(design: Design, common: list[Spread], own: list[Spread]) -> Real:
    """Of each draw of what is common, the share of builds that hold; shape (draws,)."""
    system, rng = design.system(), design.rng()
    draws = 1 if not common else DRAWS if own else DRAWS * BUILDS
    inner = DRAWS * BUILDS // draws
    # Every draw with builds of its own, as rows of one array.
    rows = [np.repeat(d, inner, axis=0) for d in (sample(common, rng, draws) if common else ())]
    rows += sample(own, rng, DRAWS * BUILDS)
    holds = which_hold(system, design.targets, [*common, *own], rows)
    return np.asarray(np.broadcast_to(holds, (draws * inner,)).reshape(draws, inner).mean(axis=1))
