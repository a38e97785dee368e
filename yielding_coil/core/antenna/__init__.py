"""An antenna of plain numbers: brought to its band, dragged, drawn from the side, judged beside rules."""

from yielding_coil.core.antenna.elevation import COMPARED_DEG, ElevationCut, elevation_cuts
from yielding_coil.core.antenna.hands import dragged
from yielding_coil.core.antenna.lengths import ModelLength, Reason, RuleLength, lengths_of
from yielding_coil.core.antenna.picture import REACH_M, TOUCH_V, Picture, Support, picture_of
from yielding_coil.core.antenna.recipe import Difference, Recipe, checked
from yielding_coil.core.antenna.sag import Sag, sag_of
from yielding_coil.core.antenna.study import (
    BandSeen,
    Sketch,
    Study,
    WattsOf,
    begun,
    coil_reading_h,
    cut_pieces,
    drawn_range,
    sketch,
    study,
)
from yielding_coil.core.antenna.tuning import hung_dip, moves_by_length, tuned

__all__ = [
    "COMPARED_DEG",
    "REACH_M",
    "TOUCH_V",
    "BandSeen",
    "Difference",
    "ElevationCut",
    "ModelLength",
    "Picture",
    "Reason",
    "Recipe",
    "RuleLength",
    "Sag",
    "Sketch",
    "Study",
    "Support",
    "WattsOf",
    "begun",
    "checked",
    "coil_reading_h",
    "cut_pieces",
    "dragged",
    "drawn_range",
    "elevation_cuts",
    "hung_dip",
    "lengths_of",
    "moves_by_length",
    "picture_of",
    "sag_of",
    "sketch",
    "study",
    "tuned",
]
