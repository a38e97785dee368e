"""Designs: kept, predicted, made of."""

from yielding_coil.api.design import bands, designs, fits, losses, predictions
from yielding_coil.api.design.parts_list import TunerSettingOut
from yielding_coil.api.design.predictions import BenchLoadOut, CostOut

ROUTERS = (designs.router, predictions.router, bands.router, fits.router, losses.router)

__all__ = [
    "ROUTERS",
    "BenchLoadOut",
    "CostOut",
    "TunerSettingOut",
]
