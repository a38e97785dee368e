"""Matches: networks in closed form and at their best over bands, capacitors combined."""

from yielding_coil.core.matching.combining import Combination, Stock, alone, combinations, parallel, series
from yielding_coil.core.matching.l_network import LNetwork, l_networks, part_for_reactance, part_for_susceptance
from yielding_coil.core.matching.optimum import (
    Optimum,
    Shape,
    best_parts,
    candidates,
    shape_of,
    with_value,
    worst_over,
)

__all__ = [
    "Combination",
    "LNetwork",
    "Optimum",
    "Shape",
    "Stock",
    "alone",
    "best_parts",
    "candidates",
    "combinations",
    "l_networks",
    "parallel",
    "part_for_reactance",
    "part_for_susceptance",
    "series",
    "shape_of",
    "with_value",
    "worst_over",
]
