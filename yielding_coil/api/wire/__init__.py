"""Lengths, and antennas modelled, before there is anything to sweep."""

from yielding_coil.api.wire import lengths, loads, structures

ROUTERS = (lengths.router, structures.router, loads.router)

__all__ = [
    "ROUTERS",
]
