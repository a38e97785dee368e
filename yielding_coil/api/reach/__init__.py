"""Phones and other computers: how they are paired, who is let in, which analysers they may be pointed at."""

from yielding_coil.api.reach import devices, pairing

ROUTERS = (devices.router, pairing.router)

__all__ = ["ROUTERS"]
