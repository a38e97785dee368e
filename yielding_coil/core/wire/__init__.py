"""Wires: how long to cut, as a tape shows it, and as they hang."""

from yielding_coil.core.wire.hung_wire import Done, Hanging
from yielding_coil.core.wire.lengths import USUAL_ADDED, Arrangement, Length, Rule, Shape, room, scaled, segments
from yielding_coil.core.wire.tape import STEP_M, on_tape

__all__ = [
    "STEP_M",
    "USUAL_ADDED",
    "Arrangement",
    "Done",
    "Hanging",
    "Length",
    "Rule",
    "Shape",
    "on_tape",
    "room",
    "scaled",
    "segments",
]
