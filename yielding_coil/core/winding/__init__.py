"""Things wound by hand: how their turns lie and join, what they bear, how warm they get, all that is told of them.

Each kind is a file, and a row of `WINDINGS`: it knows its part, its spreads and its report.
"""

from collections.abc import Mapping

from yielding_coil.core.winding.air_coil import TAIL_M, AirCoil, CoilToMake, adjustment_range, coil_cut
from yielding_coil.core.winding.choke import bend_m, borne, bundle_m, highest_current_a, rated, rating
from yielding_coil.core.winding.core_choice import (
    STACKS,
    TRIED_F,
    CoreChoice,
    CoreTask,
    InputCapacitor,
    RatedCore,
    choose_core,
    choose_input_capacitor,
    input_capacitance,
    is_present,
    rate_cores,
    turn_pairs,
)
from yielding_coil.core.winding.coupler import Coupler, Setting
from yielding_coil.core.winding.findings import COAX_OHM
from yielding_coil.core.winding.fit import Box, BoxFit, Fit, fits_box
from yielding_coil.core.winding.heat import highest_power_w, settling_s, warming_c
from yielding_coil.core.winding.layout import Cut, Pass, Strand, Stroke, WindingLayout, strands_of
from yielding_coil.core.winding.leg_trap import LegTrap, link_dip
from yielding_coil.core.winding.line_choke import SHIELD, ChokeConductor, LineChoke
from yielding_coil.core.winding.losses import BandLosses, TemperatureRise, ThermalBody, band_losses, coil_body
from yielding_coil.core.winding.report import (
    BenchCurve,
    CoilView,
    RingView,
    WindingReport,
    WindingTask,
)
from yielding_coil.core.winding.ring_wound import (
    CAPACITANCE_SPREAD_F,
    COIL_CAPACITANCE_F,
    CoilOnRing,
    RingCore,
    WoundToMake,
    crossing_f,
    known_to,
    pair_ohm_of,
    reading_like,
    turns_like,
)
from yielding_coil.core.winding.wiring import (
    END,
    HANDS,
    LEAKAGE_POWER,
    START,
    TAP,
    WIRINGS,
    Across,
    Join,
    Kind,
    Wiring,
    joins_of,
    wiring,
)
from yielding_coil.core.winding.wound_transformer import Tuning, WoundTransformer

AnyWinding = AirCoil | CoilOnRing | WoundTransformer | LineChoke | LegTrap
# Kinds of things that are wound, by the name that a design keeps.
WINDINGS: Mapping[str, type[AnyWinding]] = {
    "coil": AirCoil,
    "ring_coil": CoilOnRing,
    "transformer": WoundTransformer,
    "choke": LineChoke,
    "trap": LegTrap,
}

__all__ = [
    "CAPACITANCE_SPREAD_F",
    "COAX_OHM",
    "COIL_CAPACITANCE_F",
    "END",
    "HANDS",
    "LEAKAGE_POWER",
    "SHIELD",
    "STACKS",
    "START",
    "TAIL_M",
    "TAP",
    "TRIED_F",
    "WINDINGS",
    "WIRINGS",
    "Across",
    "AirCoil",
    "AnyWinding",
    "BandLosses",
    "BenchCurve",
    "Box",
    "BoxFit",
    "ChokeConductor",
    "CoilOnRing",
    "CoilToMake",
    "CoilView",
    "CoreChoice",
    "CoreTask",
    "Coupler",
    "Cut",
    "Fit",
    "InputCapacitor",
    "Join",
    "Kind",
    "LegTrap",
    "LineChoke",
    "Pass",
    "RatedCore",
    "RingCore",
    "RingView",
    "Setting",
    "Strand",
    "Stroke",
    "TemperatureRise",
    "ThermalBody",
    "Tuning",
    "WindingLayout",
    "WindingReport",
    "WindingTask",
    "Wiring",
    "WoundToMake",
    "WoundTransformer",
    "adjustment_range",
    "band_losses",
    "bend_m",
    "borne",
    "bundle_m",
    "choose_core",
    "choose_input_capacitor",
    "coil_body",
    "coil_cut",
    "crossing_f",
    "fits_box",
    "highest_current_a",
    "highest_power_w",
    "input_capacitance",
    "is_present",
    "joins_of",
    "known_to",
    "link_dip",
    "pair_ohm_of",
    "rate_cores",
    "rated",
    "rating",
    "reading_like",
    "settling_s",
    "strands_of",
    "turn_pairs",
    "turns_like",
    "warming_c",
    "wiring",
]
