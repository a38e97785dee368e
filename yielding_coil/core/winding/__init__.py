"""Things wound by hand: how their turns lie and join, what they bear, how warm they get."""

from yielding_coil.core.winding.choke import bend_m, borne, bundle_m, highest_current_a, rated, rating
from yielding_coil.core.winding.core_choice import TRIED_F, Judged, Task, input_capacitance, judge, turn_pairs
from yielding_coil.core.winding.coupler import Coupler, Setting
from yielding_coil.core.winding.heat import highest_power_w, settling_s, warming_c
from yielding_coil.core.winding.layout import Cut, Pass, Strand, Stroke, Winding, strands_of
from yielding_coil.core.winding.wiring import END, HANDS, START, TAP, WIRINGS, Join, Kind, Wiring, joins_of, wiring

__all__ = [
    "END",
    "HANDS",
    "START",
    "TAP",
    "TRIED_F",
    "WIRINGS",
    "Coupler",
    "Cut",
    "Join",
    "Judged",
    "Kind",
    "Pass",
    "Setting",
    "Strand",
    "Stroke",
    "Task",
    "Winding",
    "Wiring",
    "bend_m",
    "borne",
    "bundle_m",
    "highest_current_a",
    "highest_power_w",
    "input_capacitance",
    "joins_of",
    "judge",
    "rated",
    "rating",
    "settling_s",
    "strands_of",
    "turn_pairs",
    "warming_c",
    "wiring",
]
