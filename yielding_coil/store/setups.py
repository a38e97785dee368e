"""Queries on setups."""

from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil.documents.setup import SetupIn
from yielding_coil.store.pieces import cable_row
from yielding_coil.store.tables import Setup


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
