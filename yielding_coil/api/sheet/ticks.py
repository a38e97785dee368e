"""Ticks and notes on the sheet of one state of a design."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field

from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.documents.fields import Counted, Words
from yielding_coil.store import designs as design_queries
from yielding_coil.store import ticks as queries
from yielding_coil.store.tables import Tick

router = router_of("sheet", "/api/designs/{design_id}/revisions/{number}/ticks")

StepKey = Annotated[Words, Field(min_length=1, max_length=80)]


class StepTickIn(BaseModel):
    """A step as somebody leaves it, by the revision that he saw; 0 where nothing was kept of it."""

    step: StepKey
    revision: Counted
    done: bool
    note: Annotated[Words, Field(max_length=500)] = ""


class StepTickOut(BaseModel):
    """A step that was ticked, or noted something at."""

    step: str
    revision: Counted
    done: bool
    note: str
    ticked_at: datetime | None


def tick_out(row: Tick) -> StepTickOut:
    """As it travels."""
    return StepTickOut.model_validate(row, from_attributes=True)


@router.get("")
def ticks(session: InTransaction, design_id: UUID, number: Counted) -> list[StepTickOut]:
    """Everything ticked or noted on this sheet."""
    design_queries.one_design(session, design_id)
    return [tick_out(row) for row in queries.ticks_of(session, design_id, number) if row.revision > 0]


@router.put("")
def tick_step(session: InTransaction, design_id: UUID, number: Counted, made: StepTickIn) -> StepTickOut:
    """Tick a step, take the tick away, or note something at it; 409 when that was done elsewhere since."""
    design_queries.one_design(session, design_id)
    design_queries.revision(session, design_id, number)
    row = queries.keep_tick(
        session,
        design_id,
        number,
        made.step,
        revision=made.revision,
        done=made.done,
        note=made.note,
        newest=tick_out,
    )
    return tick_out(row)
