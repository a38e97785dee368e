"""Which antenna for a place: what fits, what goes up on each band, what it asks for."""

from yielding_coil.core.choice.compare import (
    TUNERLESS_SWR,
    Care,
    Compared,
    SchoolBand,
    SchoolCard,
    SchoolsTask,
    band_of,
    compare_schools,
    ranked,
    roughly_tuned,
    shared,
    together,
    wanted_by,
)
from yielding_coil.core.choice.fits import SCHOOLS, Fit, School, fit_of, wishes_to_drop
from yielding_coil.core.choice.place import Obstacle, ObstacleCode, Place

__all__ = [
    "SCHOOLS",
    "TUNERLESS_SWR",
    "Care",
    "Compared",
    "Fit",
    "Obstacle",
    "ObstacleCode",
    "Place",
    "School",
    "SchoolBand",
    "SchoolCard",
    "SchoolsTask",
    "band_of",
    "compare_schools",
    "fit_of",
    "ranked",
    "roughly_tuned",
    "shared",
    "together",
    "wanted_by",
    "wishes_to_drop",
]
