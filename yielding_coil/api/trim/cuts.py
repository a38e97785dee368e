"""The next cut by readings alone: the sum, its bounds, as a tape can take it; nothing is kept."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from yielding_coil.api.http import router_of
from yielding_coil.core import trim as core
from yielding_coil.core.quantity import LengthUnit
from yielding_coil.documents.fields import Hertz, Words
from yielding_coil.documents.log import WireLength

router = router_of("trim")


class CutsIn(BaseModel):
    """Readings of one wire, oldest first, and where the dip is wanted."""

    readings: list["CutReading"] = Field(min_length=1, max_length=64)
    target_hz: Hertz
    by: core.By = "fold"
    unit: LengthUnit = "m"


class CutReading(BaseModel):
    """A dip, and the leg it was read with."""

    dip_hz: Hertz
    leg_m: WireLength
    folded_m: Annotated[float, Field(ge=0, le=1e4)] = 0.0
    conditions: Annotated[Words, Field(max_length=200)] = ""


class NextOut(BaseModel):
    """What to do to each leg, as a tape shows it, and where that puts the dip; see core.trim.NextCut."""

    act: core.Act
    per_leg_m: float
    exact_m: float
    low_m: float
    high_m: float
    by_ratio_m: float
    lands_hz: float
    lands_low_hz: float
    lands_high_hz: float
    moves: float
    moves_spread: float
    learned: bool
    held_by: Literal["nothing", "caution", "bound"]
    used: int
    apart: int


@router.post("/cuts")
def next_cut(asked: CutsIn) -> NextOut:
    """The next cut by readings alone; nothing is kept."""
    readings = [core.DipReading(r.dip_hz, r.leg_m, r.folded_m, conditions=r.conditions) for r in asked.readings]
    cut = core.on_tape_amount(core.next_cut(readings, asked.target_hz, asked.by), asked.unit)
    return NextOut.model_validate(cut, from_attributes=True)
