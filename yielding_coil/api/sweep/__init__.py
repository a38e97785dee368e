"""Sweeps in and out, what is drawn and read off them."""

from yielding_coil.api.sweep import readings, sweeps
from yielding_coil.api.sweep.cache import Antennas, antenna_known_to, antenna_of
from yielding_coil.api.sweep.curves import DRAWN, FEW, Curves, Fan, Rows, SweepCurves, drawn_of
from yielding_coil.api.sweep.readings import Floor, floor_of
from yielding_coil.api.sweep.setups import SetupOut, setup_out
from yielding_coil.api.sweep.sweeps import Name, SweepOut, known_build, require_bare, sweep_out
from yielding_coil.api.sweep.trust import require_corrected, trusted

ROUTERS = (readings.router, sweeps.router)

__all__ = [
    "DRAWN",
    "FEW",
    "ROUTERS",
    "Antennas",
    "Curves",
    "Fan",
    "Floor",
    "Name",
    "Rows",
    "SetupOut",
    "SweepCurves",
    "SweepOut",
    "antenna_known_to",
    "antenna_of",
    "drawn_of",
    "floor_of",
    "known_build",
    "require_bare",
    "require_corrected",
    "setup_out",
    "sweep_out",
    "trusted",
]
