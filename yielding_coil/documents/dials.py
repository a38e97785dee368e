"""Where the dials of a tuner stand, as one reads them."""

import math
from typing import Literal

from pydantic import BaseModel, model_validator

from yielding_coil.core.tuner import BYPASSED, TunerSetting
from yielding_coil.documents.fields import Farad, Henry

# What each way of switching a tuner has.
DIALS = {None: (), "tee": ("output_f", "coil_h", "input_f"), "antenna": ("coil_h", "input_f")}


class DialsIn(BaseModel):
    """Where the controls stand as one reads them; an ell has no output capacitor. No side: it is switched out."""

    side: Literal["tee", "antenna", "radio"] | None
    output_f: Farad | None = None
    coil_h: Henry | None = None
    input_f: Farad | None = None

    @model_validator(mode="after")
    def _complete(self) -> "DialsIn":
        missing = [name for name in DIALS.get(self.side, DIALS["antenna"]) if getattr(self, name) is None]
        if missing:
            raise ValueError(f"{', '.join(missing)}: where the dial stands is missing")
        return self

    def to_core(self) -> TunerSetting:
        """For the core."""
        if self.side is None:
            return BYPASSED
        values = (self.output_f, self.coil_h, self.input_f)
        return TunerSetting(self.side, *(math.nan if v is None else v for v in values))
