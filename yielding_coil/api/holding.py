"""How many builds of a design hold its targets."""

from typing import Any

import numpy as np

from yielding_coil.api.numbers import number
from yielding_coil.core.matching import worst_over
from yielding_coil.core.system import Antenna, System
from yielding_coil.core.tolerance import Spread, Yield, yield_of
from yielding_coil.documents.design import DesignContent, ResistorAntenna

# Builds tried for a figure that is kept or compared.
BUILDS = 2048


def rng_of(content: DesignContent) -> np.random.Generator:
    """The design's own dice: the same at every call, so that a drag compares like with like."""
    return np.random.default_rng(content.seed)


def held(
    content: DesignContent, system: System, spreads: list[Spread], builds: int, *, costs: bool = False
) -> Yield:
    """Share of builds that hold every target of a design."""
    return yield_of(system, content.core_targets(), spreads, rng_of(content), builds, costs=costs)


def share_of(content: DesignContent, system: System) -> float:
    """The share with part spreads only, as it is kept and compared."""
    return held(content, system, content.part_spreads(), BUILDS).share


def summary_of(content: DesignContent, antenna: Antenna) -> dict[str, Any]:
    """What the shelf says of a design; nothing where but a resistor hangs on a line: no antenna is that good."""
    system = content.system(antenna)
    if not content.part_spreads() and isinstance(content.antenna, ResistorAntenna):
        return {"worst_swr": None, "share": None}
    worst = worst_over(system, content.core_targets())
    share = share_of(content, system)
    return {"worst_swr": number(max(worst)), "share": share}
