"""Designs: kept, predicted, made of."""

from yielding_coil.api.design import designs, predictions

ROUTERS = (designs.router, predictions.router)

__all__ = [
    "ROUTERS",
]
