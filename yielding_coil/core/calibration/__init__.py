"""Short, open and load: an analyser's own errors, and what is left of them."""

from yielding_coil.core.calibration.correction import (
    STANDARDS,
    Correction,
    Kit,
    Noise,
    Residual,
    Slip,
    Standard,
    like_a_standard,
    one_port,
    residual,
    slips,
)

__all__ = [
    "STANDARDS",
    "Correction",
    "Kit",
    "Noise",
    "Residual",
    "Slip",
    "Standard",
    "like_a_standard",
    "one_port",
    "residual",
    "slips",
]
