"""How a sweep was taken, as it travels."""

from uuid import UUID

from yielding_coil.documents.setup import Conditions, LineIn, SetupIn
from yielding_coil.store.tables import Setup


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
