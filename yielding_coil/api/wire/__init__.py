"""Lengths, and antennas modelled, before there is anything to sweep."""

from yielding_coil.api.wire import any_length, kinds, lengths, loads, structures

ROUTERS = (lengths.router, kinds.router, structures.router, loads.router, any_length.router)

__all__ = [
    "ROUTERS",
]
