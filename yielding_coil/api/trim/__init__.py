"""A wire that is hung, read and cut."""

from yielding_coil.api.trim import cuts, meter_readings, trim

ROUTERS = (cuts.router, meter_readings.router, trim.router)

__all__ = [
    "ROUTERS",
]
