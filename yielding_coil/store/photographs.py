"""Queries on photographs."""

from collections import defaultdict
from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError
from yielding_coil.formats.photograph import read_photograph, view_of, without_position
from yielding_coil.store.tables import Build, Entry, Photograph


def keep_photograph(
    session: Session, entry_id: UUID, name: str, data: bytes, *, to_its_end: bool = True
) -> Photograph:
    """Keep a photograph at an entry of the log, to the byte.

    Args:
        to_its_end: whether it is looked at whole; not where its sum shows that it is what it was.

    Raises:
        TooLargeError, UnreadableError: it is none that is taken.
    """
    found = read_photograph(data, to_its_end=to_its_end)
    row = Photograph(
        entry_id=entry_id,
        name=name,
        kind=found.kind,
        size=len(data),
        width=found.width,
        height=found.height,
        located=found.located,
        taken_at=None if found.taken_at is None or found.taken_at.tzinfo is None else found.taken_at,
        original=data,
    )
    session.add(row)
    session.flush()
    return row


def one_photograph(session: Session, photograph_id: UUID, *, deleted: bool = False) -> Photograph:
    """One photograph.

    Raises:
        NotFoundError: no such one, or it is in the bin and `deleted` is not set.
    """
    row = session.get(Photograph, photograph_id)
    if row is None or (row.deleted_at is not None and not deleted):
        where = "is in the bin; take it back there" if row is not None else "is not kept here"
        raise NotFoundError(f"the photograph {where}", field="photograph_id", in_bin=row is not None)
    return row


def photographs_of(session: Session, entry_ids: Sequence[UUID]) -> dict[UUID, list[Photograph]]:
    """Photographs at some entries, by entry, in the order in which they came."""
    found: dict[UUID, list[Photograph]] = defaultdict(list)
    if not entry_ids:
        return found
    query = select(Photograph).where(Photograph.entry_id.in_(entry_ids), Photograph.deleted_at.is_(None))
    for row in session.scalars(query.order_by(Photograph.name, Photograph.id)):
        found[row.entry_id].append(row)
    return found


def binned_photographs(session: Session) -> Sequence[tuple[Photograph, str]]:
    """Photographs in the bin whose entries are in logs on the shelf, with the build's name."""
    query = (
        select(Photograph, Build.name)
        .join(Entry, Entry.id == Photograph.entry_id)
        .join(Build, Build.id == Entry.build_id)
        .where(Photograph.deleted_at.is_not(None), Entry.deleted_at.is_(None), Build.deleted_at.is_(None))
    )
    return [(row, name) for row, name in session.execute(query)]


def view(row: Photograph) -> bytes:
    """Its smaller view, made when it is first seen."""
    if row.view is None:
        row.view = view_of(row.original)
    return row.view


def remove_position(row: Photograph) -> None:
    """Replace the original by one that does not say where it was taken."""
    row.original = without_position(row.original)
    row.size, row.located = len(row.original), False


def bin_photograph(row: Photograph) -> None:
    """Put a photograph in the bin; nothing of it is lost."""
    row.deleted_at = datetime.now(UTC)
