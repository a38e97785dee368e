"""The instrument, its calibrations and what it sweeps."""

from yielding_coil.api.analyser import analyser, calibrations
from yielding_coil.api.analyser.acquisition import (
    CheckIn,
    StandardIn,
    SweepIn,
    SweepJob,
    plan_check,
    plan_standard,
    plan_sweep,
)
from yielding_coil.api.analyser.analyser import link_of

ROUTERS = (analyser.router, calibrations.router)

__all__ = [
    "ROUTERS",
    "CheckIn",
    "StandardIn",
    "SweepIn",
    "SweepJob",
    "link_of",
    "plan_check",
    "plan_standard",
    "plan_sweep",
]
