"""Short, open and load: an analyser's own errors, and what is left of them."""

from yielding_coil.core.calibration.acquisition import (
    CalibrationInUse,
    OutsideCalibrationError,
    acquisition_findings,
    dip_elsewhere,
    good_dip,
    require_covered,
    wide_range,
)
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
    residual_kind,
    slips,
)

__all__ = [
    "STANDARDS",
    "CalibrationInUse",
    "Correction",
    "Kit",
    "Noise",
    "OutsideCalibrationError",
    "Residual",
    "Slip",
    "Standard",
    "acquisition_findings",
    "dip_elsewhere",
    "good_dip",
    "like_a_standard",
    "one_port",
    "require_covered",
    "residual",
    "residual_kind",
    "slips",
    "wide_range",
]
