"""The build sheet: what is decided, as it goes into the shed."""

from yielding_coil.core.sheet.batch import MOST, Batch, batch_of
from yielding_coil.core.sheet.box import BoxPart, BoxWiring, box_wiring, in_box
from yielding_coil.core.sheet.sheet import BuildSheet, SeriesLoad, build_sheet
from yielding_coil.core.sheet.steps import Caution, CautionCode, Step, StepCode, ToCut
from yielding_coil.core.sheet.things import Holding, Source, Thing, ThingKind, Traits, from_drawer

__all__ = [
    "MOST",
    "Batch",
    "BoxPart",
    "BoxWiring",
    "BuildSheet",
    "Caution",
    "CautionCode",
    "Holding",
    "SeriesLoad",
    "Source",
    "Step",
    "StepCode",
    "Thing",
    "ThingKind",
    "ToCut",
    "Traits",
    "batch_of",
    "box_wiring",
    "build_sheet",
    "from_drawer",
    "in_box",
]
