"""What is wound, reported, and which core."""

from yielding_coil.api.winding import cores, windings
from yielding_coil.api.winding.schema import BenchOut, WindingOut
from yielding_coil.api.winding.windings import boxes_for, winding_out

ROUTERS = (cores.router, windings.router)

__all__ = [
    "ROUTERS",
    "BenchOut",
    "WindingOut",
    "boxes_for",
    "winding_out",
]
