"""An antenna of plain numbers: brought to its band, dragged, drawn from the side, judged beside rules."""

from yielding_coil.core.antenna.bearing import Bearing, TrapOn, TrapPlan, bearing_of, trap_schools, traps_on
from yielding_coil.core.antenna.elevation import COMPARED_DEG, ElevationCut, elevation_cuts
from yielding_coil.core.antenna.hands import dragged
from yielding_coil.core.antenna.lengths import ModelLength, Reason, RuleLength, lengths_of
from yielding_coil.core.antenna.loading import (
    WIDTH_SWR,
    CoilPlace,
    Loaded,
    Moved,
    coil_places,
    lowest_dip_hz,
    moved_by,
)
from yielding_coil.core.antenna.picture import REACH_M, TOUCH_V, Picture, Support, picture_of
from yielding_coil.core.antenna.recipe import Difference, Recipe, checked
from yielding_coil.core.antenna.sag import Sag, sag_of
from yielding_coil.core.antenna.study import (
    BandSeen,
    HungReach,
    Sketch,
    Study,
    WattsOf,
    begun,
    coil_reading_h,
    cut_pieces,
    drawn_range,
    hung_reaches,
    pair_of,
    sketch,
    study,
)
from yielding_coil.core.antenna.tuning import hung_dip, moves_by_length, tuned, tuned_together

__all__ = [
    "COMPARED_DEG",
    "REACH_M",
    "TOUCH_V",
    "WIDTH_SWR",
    "BandSeen",
    "Bearing",
    "CoilPlace",
    "Difference",
    "ElevationCut",
    "HungReach",
    "Loaded",
    "ModelLength",
    "Moved",
    "Picture",
    "Reason",
    "Recipe",
    "RuleLength",
    "Sag",
    "Sketch",
    "Study",
    "Support",
    "TrapOn",
    "TrapPlan",
    "WattsOf",
    "bearing_of",
    "begun",
    "checked",
    "coil_places",
    "coil_reading_h",
    "cut_pieces",
    "dragged",
    "drawn_range",
    "elevation_cuts",
    "hung_dip",
    "hung_reaches",
    "lengths_of",
    "lowest_dip_hz",
    "moved_by",
    "moves_by_length",
    "pair_of",
    "picture_of",
    "sag_of",
    "sketch",
    "study",
    "trap_schools",
    "traps_on",
    "tuned",
    "tuned_together",
]
