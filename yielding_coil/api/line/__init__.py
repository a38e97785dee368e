"""Cables, lines and the plane of a sweep."""

from yielding_coil.api.line import lines

ROUTERS = (lines.router,)

__all__ = [
    "ROUTERS",
]
