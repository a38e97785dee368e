"""Candidates of a match."""

from yielding_coil.api.matching import matches

ROUTERS = (matches.router,)

__all__ = [
    "ROUTERS",
]
