"""The shelf, the log, the invented builds."""

from yielding_coil.api.build import builds, demo, entries
from yielding_coil.api.build.entries import EntryOut, entry_out

ROUTERS = (builds.router, demo.router, entries.router)

__all__ = [
    "ROUTERS",
    "EntryOut",
    "entry_out",
]
