"""Lengths, and antennas modelled, before there is anything to sweep."""

from yielding_coil.api.wire import lengths, structures

ROUTERS = (lengths.router, structures.router)

__all__ = [
    "ROUTERS",
]
