"""Queries on the drawer: so far cables of one's own."""

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError
from yielding_coil.store.content import CableValues
from yielding_coil.store.tables import Piece

OWN = "own-"


def own_cables(session: Session) -> Sequence[Piece]:
    """Cables of one's own that are not in the bin, by name."""
    query = select(Piece).where(Piece.kind == "cable", Piece.deleted_at.is_(None))
    return session.scalars(query.order_by(Piece.name, Piece.id)).all()


def one_piece(session: Session, piece_id: UUID, *, deleted: bool = False) -> Piece:
    """One piece of the drawer.

    Raises:
        NotFoundError: no such one, or it is in the bin and `deleted` is not set.
    """
    row = session.get(Piece, piece_id)
    if row is None or (row.deleted_at is not None and not deleted):
        raise NotFoundError("this piece is not in the drawer", field="piece_id", in_bin=row is not None)
    return row


def bin_piece(row: Piece) -> None:
    """Put a piece in the bin; what uses it keeps what it was."""
    row.deleted_at = datetime.now(UTC)


def cable_key(row: Piece) -> str:
    """What an own cable is called where a key of the table may stand too."""
    return f"{OWN}{row.id}"


def cable_row(session: Session, key: str, *, deleted: bool = False) -> data.CableRow:
    """A cable by its key: one's own, also one in the bin when `deleted` is set, or the table's.

    Raises:
        NotFoundError: no such cable.
    """
    if not key.startswith(OWN):
        return data.cable_row(key)
    try:
        piece_id = UUID(key.removeprefix(OWN))
    except ValueError:
        return data.cable_row(key)
    return CableValues.model_validate(one_piece(session, piece_id, deleted=deleted).values).row(key)
