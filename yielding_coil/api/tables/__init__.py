"""Tables of the trade and the bands."""

from yielding_coil.api.tables import bands, trade
from yielding_coil.api.tables.bands import BandOut, bands_for
from yielding_coil.api.tables.trade import CableOut, WireOut, cable_out

ROUTERS = (bands.router, trade.router)

__all__ = [
    "ROUTERS",
    "BandOut",
    "CableOut",
    "WireOut",
    "bands_for",
    "cable_out",
]
