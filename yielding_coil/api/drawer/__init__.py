"""Pieces of one's own."""

from yielding_coil.api.drawer import drawer

ROUTERS = (drawer.router,)

__all__ = [
    "ROUTERS",
]
