"""Build sheets, and what is ticked on them."""

from yielding_coil.api.sheet import sheets, ticks

ROUTERS = (sheets.router, ticks.router)

__all__ = [
    "ROUTERS",
]
