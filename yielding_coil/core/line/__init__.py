"""Lines: cables, planes moved along them, an unknown one found out."""

from yielding_coil.core.line.line import (
    OPEN_END_F,
    Cable,
    CableRow,
    Line,
    OpenCoax,
    Waves,
    hides_antenna,
    highest_swr_behind,
    open_coax_for,
    pair_ohm,
)
from yielding_coil.core.line.reference_plane import (
    LineUncertainty,
    Moved,
    moved_ohm,
    shift_reference_plane,
    worth_measuring,
)
from yielding_coil.core.line.section import ThroughSection, through_section
from yielding_coil.core.line.stub import End, Stub
from yielding_coil.core.line.unknown import (
    EndKind,
    FarEnd,
    Found,
    FoundLine,
    NotALineError,
    characterise,
    far_end,
    impedance_found,
    known_cable,
    loss_seen_db,
)

__all__ = [
    "OPEN_END_F",
    "Cable",
    "CableRow",
    "End",
    "EndKind",
    "FarEnd",
    "Found",
    "FoundLine",
    "Line",
    "LineUncertainty",
    "Moved",
    "NotALineError",
    "OpenCoax",
    "Stub",
    "ThroughSection",
    "Waves",
    "characterise",
    "far_end",
    "hides_antenna",
    "highest_swr_behind",
    "impedance_found",
    "known_cable",
    "loss_seen_db",
    "moved_ohm",
    "open_coax_for",
    "pair_ohm",
    "shift_reference_plane",
    "through_section",
    "worth_measuring",
]
