"""What is wound, reported, and which core."""

from yielding_coil.api.winding import cores, windings

ROUTERS = (cores.router, windings.router)

__all__ = [
    "ROUTERS",
]
