"""Matches: networks in closed form and at their best over bands, capacitors combined."""

from yielding_coil.core.matching.candidates import (
    LARGEST_COAX_F,
    MatchCandidate,
    MatchPart,
    MatchTemplate,
    Switched,
    propose,
    propose_switched,
)
from yielding_coil.core.matching.combining import (
    CapacitorKind,
    Combination,
    Stock,
    alone,
    cheapest_sold,
    combinations,
    parallel,
    series,
)
from yielding_coil.core.matching.l_network import LNetwork, l_networks, part_for_reactance, part_for_susceptance
from yielding_coil.core.matching.optimum import (
    Optimum,
    Shape,
    best_parts,
    candidates,
    shape_of,
    with_value,
)

__all__ = [
    "LARGEST_COAX_F",
    "CapacitorKind",
    "Combination",
    "LNetwork",
    "MatchCandidate",
    "MatchPart",
    "MatchTemplate",
    "Optimum",
    "Shape",
    "Stock",
    "Switched",
    "alone",
    "best_parts",
    "candidates",
    "cheapest_sold",
    "combinations",
    "l_networks",
    "parallel",
    "part_for_reactance",
    "part_for_susceptance",
    "propose",
    "propose_switched",
    "series",
    "shape_of",
    "with_value",
]
