"""How a sweep was taken: at which plane, through what, how hung, what was near, with which instrument."""

from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import BaseModel, Field, model_validator
from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil.store.payload import LineLength, Payload, Words
from yielding_coil.store.pieces import cable_row
from yielding_coil.store.tables import Setup

Said = Annotated[Words, Field(max_length=120)]


class LineIn(Payload):
    """A length of cable between the plane and the antenna."""

    cable: Annotated[Words, Field(max_length=60)]
    length_m: LineLength


class Conditions(Payload):
    """What was so while it was swept; each in the words of who swept."""

    height: Said = ""
    hung: Said = ""
    near: Said = ""
    ground: Said = ""


class SetupIn(BaseModel):
    """Where the plane was, and the conditions."""

    plane: Literal["feedpoint", "line_end", "bench"] = "feedpoint"
    line: LineIn | None = None
    conditions: Conditions = Conditions()

    @model_validator(mode="after")
    def _a_line_where_there_is_one(self) -> Self:
        if self.plane == "line_end" and self.line is None:
            raise ValueError("say through which cable, and how long it is")
        return self


class SetupOut(SetupIn):
    """The same, with the instrument."""

    id: UUID
    instrument: str


def setup_out(row: Setup) -> SetupOut:
    """As it travels."""
    return SetupOut(
        id=row.id,
        plane=row.plane,  # type: ignore[arg-type]
        line=None if row.line is None else LineIn.model_validate(row.line),
        conditions=Conditions.model_validate(row.conditions),
        instrument=row.instrument,
    )


def keep_setup(session: Session, build_id: UUID | None, setup: SetupIn, instrument: str) -> Setup:
    """The setup of a sweep: the same row as long as nothing about it changes.

    Raises:
        NotFoundError: no such cable.
    """
    if setup.line is not None:
        cable_row(session, setup.line.cable)
    kept = setup.model_dump(mode="json")
    own = Setup.build_id.is_(None) if build_id is None else Setup.build_id == build_id
    for row in session.scalars(select(Setup).where(own, Setup.plane == setup.plane)):
        same = row.line == kept["line"] and row.conditions == kept["conditions"]
        if same and row.instrument == instrument[:120]:
            return row
    made = Setup(build_id=build_id, **kept, instrument=instrument[:120])
    session.add(made)
    session.flush()
    return made
