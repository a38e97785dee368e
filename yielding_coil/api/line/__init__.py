"""Cables, lines and the plane of a sweep."""

from yielding_coil.api.line import lines, sums

ROUTERS = (lines.router, sums.router)

__all__ = [
    "ROUTERS",
]
