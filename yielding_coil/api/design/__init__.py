"""Designs: kept, predicted, made of."""

from yielding_coil.api.design import bands, designs, fits, losses, predictions
from yielding_coil.api.design.parts_list import TunerSettingOut

ROUTERS = (designs.router, predictions.router, bands.router, fits.router, losses.router)

__all__ = [
    "ROUTERS",
    "TunerSettingOut",
]
