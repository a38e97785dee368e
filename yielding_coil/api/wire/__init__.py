"""Lengths, and antennas modelled, before there is anything to sweep."""

from yielding_coil.api.wire import any_length, lengths, loads, structures

ROUTERS = (lengths.router, structures.router, loads.router, any_length.router)

__all__ = [
    "ROUTERS",
]
