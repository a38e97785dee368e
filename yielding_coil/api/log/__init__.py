"""The log: everything that happened, on one line of time; its photographs."""

from yielding_coil.api.log import log, photographs

ROUTERS = (log.router, photographs.router)

__all__ = [
    "ROUTERS",
]
