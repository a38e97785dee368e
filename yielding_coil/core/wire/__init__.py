"""Wires: how long to cut, as a tape shows it, and as they hang."""

from yielding_coil.core.wire.cut_list import Band, CutList, CutPlan, SchoolLength, cut_list, rules_for
from yielding_coil.core.wire.forms import FORMS, Part, WireForm, WireKind, require_amounts
from yielding_coil.core.wire.geometry import Ground, GroundKind, Insulation, Load, Source, Wire
from yielding_coil.core.wire.hung_wire import ActOn, HungUp, HungWire, ReadOn, WireAct, WireEvent, replay
from yielding_coil.core.wire.kinds import KINDS, AntennaKind, Hung, Stock, Stray
from yielding_coil.core.wire.lengths import (
    USUAL_ADDED,
    Arrangement,
    Fitting,
    Length,
    Rule,
    Shape,
    ShapeFit,
    room,
    scaled,
    segments,
    what_fits,
)
from yielding_coil.core.wire.structure import Solved, Structure
from yielding_coil.core.wire.tape import STEP_M, on_tape

__all__ = [
    "FORMS",
    "KINDS",
    "STEP_M",
    "USUAL_ADDED",
    "ActOn",
    "AntennaKind",
    "Arrangement",
    "Band",
    "CutList",
    "CutPlan",
    "Fitting",
    "Ground",
    "GroundKind",
    "Hung",
    "HungUp",
    "HungWire",
    "Insulation",
    "Length",
    "Load",
    "Part",
    "ReadOn",
    "Rule",
    "SchoolLength",
    "Shape",
    "ShapeFit",
    "Solved",
    "Source",
    "Stock",
    "Stray",
    "Structure",
    "Wire",
    "WireAct",
    "WireEvent",
    "WireForm",
    "WireKind",
    "cut_list",
    "on_tape",
    "replay",
    "require_amounts",
    "room",
    "rules_for",
    "scaled",
    "segments",
    "what_fits",
]
