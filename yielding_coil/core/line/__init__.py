"""Lines: cables, planes moved along them, an unknown one found out."""

from yielding_coil.core.line.line import OPEN_END_F, Cable, Line, OpenCoax, Waves, open_coax_for, pair_ohm
from yielding_coil.core.line.reference_plane import LineDoubt, Moved, moved, moved_ohm, worth_measuring
from yielding_coil.core.line.unknown import FarEnd, Found, FoundLine, NotALineError, characterise, far_end

__all__ = [
    "OPEN_END_F",
    "Cable",
    "FarEnd",
    "Found",
    "FoundLine",
    "Line",
    "LineDoubt",
    "Moved",
    "NotALineError",
    "OpenCoax",
    "Waves",
    "characterise",
    "far_end",
    "moved",
    "moved_ohm",
    "open_coax_for",
    "pair_ohm",
    "worth_measuring",
]
