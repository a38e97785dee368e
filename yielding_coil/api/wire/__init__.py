"""Lengths before there is anything to sweep."""

from yielding_coil.api.wire import lengths

ROUTERS = (lengths.router,)

__all__ = [
    "ROUTERS",
]
