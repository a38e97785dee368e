"""A swept impedance: what is read off it, SWR alone, how sure it is."""

from yielding_coil.core.sweep.again import MovedSince, MovedState, moved_since
from yielding_coil.core.sweep.assessment import (
    BandChange,
    BandStanding,
    MatchFloor,
    Sharpness,
    Standing,
    above_one,
    band_change,
    known_q,
    match_floor,
    sharpness_of,
    standing,
    suggested_targets,
    swr_at,
    too_wide,
)
from yielding_coil.core.sweep.gaps import covers, gaps_of
from yielding_coil.core.sweep.sweep import (
    HIGHEST_REFLECTION,
    Bandwidth,
    BestMatch,
    ReadSweep,
    Resonance,
    Sweep,
    require_passive,
)
from yielding_coil.core.sweep.swr_sweep import SwrSweep
from yielding_coil.core.sweep.thinning import evenly, fitted_at, thinned
from yielding_coil.core.sweep.uncertainty import NINE_IN_TEN, ReflectionUncertainty

__all__ = [
    "HIGHEST_REFLECTION",
    "NINE_IN_TEN",
    "BandChange",
    "BandStanding",
    "Bandwidth",
    "BestMatch",
    "MatchFloor",
    "MovedSince",
    "MovedState",
    "ReadSweep",
    "ReflectionUncertainty",
    "Resonance",
    "Sharpness",
    "Standing",
    "Sweep",
    "SwrSweep",
    "above_one",
    "band_change",
    "covers",
    "evenly",
    "fitted_at",
    "gaps_of",
    "known_q",
    "match_floor",
    "moved_since",
    "require_passive",
    "sharpness_of",
    "standing",
    "suggested_targets",
    "swr_at",
    "thinned",
    "too_wide",
]
