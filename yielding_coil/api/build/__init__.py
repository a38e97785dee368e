"""The shelf, the log, the invented builds."""

from yielding_coil.api.build import archives, builds, demo, entries
from yielding_coil.api.build.archives import Transfers
from yielding_coil.api.build.entries import EntryOut, entry_out

ROUTERS = (builds.router, demo.router, entries.router, archives.router)

__all__ = [
    "ROUTERS",
    "EntryOut",
    "Transfers",
    "entry_out",
]
