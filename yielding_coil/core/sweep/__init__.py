"""A swept impedance: what is read off it, SWR alone, how sure it is."""

from yielding_coil.core.sweep.sweep import HIGHEST_REFLECTION, Bandwidth, BestMatch, Resonance, Sweep
from yielding_coil.core.sweep.swr_sweep import SwrReadings
from yielding_coil.core.sweep.uncertainty import NINE_IN_TEN, ReflectionDoubt

__all__ = [
    "HIGHEST_REFLECTION",
    "NINE_IN_TEN",
    "Bandwidth",
    "BestMatch",
    "ReflectionDoubt",
    "Resonance",
    "Sweep",
    "SwrReadings",
]
