"""Queries on the drawer."""

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter
from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.line import CableRow
from yielding_coil.documents.design import CableValues
from yielding_coil.documents.piece import AnyPiece
from yielding_coil.store.tables import Piece

OWN = "own-"

ANY_PIECE: TypeAdapter[Any] = TypeAdapter(AnyPiece)


def pieces(session: Session, kind: str | None = None, *, binned: bool = False) -> Sequence[Piece]:
    """Pieces that are not in the bin, or those that are, by kind and name."""
    query = select(Piece).where(Piece.deleted_at.is_not(None) if binned else Piece.deleted_at.is_(None))
    if kind is not None:
        query = query.where(Piece.kind == kind)
    return session.scalars(query.order_by(Piece.kind, Piece.name, Piece.id)).all()


def own_cables(session: Session) -> Sequence[Piece]:
    """Cables of one's own that are not in the bin, by name."""
    return pieces(session, "cable")


def piece_of(row: Piece) -> AnyPiece:
    """A row as what it is."""
    found: AnyPiece = ANY_PIECE.validate_python(
        {
            "kind": row.kind,
            "name": row.name,
            "count": row.count,
            "price": row.price or "",
            "nominal_key": row.nominal_key,
            "sweep_id": row.sweep_id,
            "values": row.values,
        }
    )
    return found


def columns_of(piece: AnyPiece) -> dict[str, Any]:
    """What a piece is, as the columns of its row."""
    measured = piece.sweep_id is not None or (piece.kind == "core" and piece.values.measured)
    return {
        "kind": piece.kind,
        "name": piece.name,
        "count": piece.count,
        "price": piece.price or None,
        "nominal_key": piece.nominal_key,
        "sweep_id": piece.sweep_id,
        "values": piece.values.model_dump(mode="json"),
        "provenance": "measured" if measured else "nominal" if piece.nominal_key else "entered",
    }


def keep_piece(session: Session, piece: AnyPiece) -> Piece:
    """Put a piece into the drawer."""
    row = Piece(**columns_of(piece))
    session.add(row)
    session.flush()
    return row


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


def cable_row(session: Session, key: str, *, deleted: bool = False) -> CableRow:
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
