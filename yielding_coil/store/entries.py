"""Queries on the log of a build."""

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError
from yielding_coil.documents.log import EntryIs, WirePlan, read_entry, replay
from yielding_coil.store.tables import Build, Entry


def data_of(row: Entry) -> EntryIs:
    """What an entry says."""
    return read_entry(row.data)


def plan_of(build: Build) -> WirePlan:
    """The plan of a build's wire; the usual one where nobody chose."""
    return WirePlan.model_validate(build.wire) if build.wire is not None else WirePlan()


def entries_of(session: Session, build_id: UUID) -> Sequence[Entry]:
    """The log of a build, oldest first."""
    query = select(Entry).where(Entry.build_id == build_id, Entry.deleted_at.is_(None))
    return session.scalars(query.order_by(Entry.number)).all()


def kinds_of(session: Session, build_id: UUID) -> list[str]:
    """The kinds of a build's entries, oldest first: enough to say how far it is."""
    query = select(Entry.kind).where(Entry.build_id == build_id, Entry.deleted_at.is_(None))
    return list(session.scalars(query.order_by(Entry.number)))


def one_entry(session: Session, entry_id: UUID, *, deleted: bool = False) -> Entry:
    """One entry.

    Raises:
        NotFoundError: no such one, or it was taken back and `deleted` is not set.
    """
    row = session.get(Entry, entry_id)
    if row is None or (row.deleted_at is not None and not deleted):
        raise NotFoundError("this entry is not in the log", field="entry_id", in_bin=row is not None)
    return row


def keep_entry(
    session: Session,
    build_id: UUID,
    said: EntryIs,
    *,
    text: str = "",
    setup_id: UUID | None = None,
    sweep_id: UUID | None = None,
    utc_offset_min: int = 0,
    happened_at: datetime | None = None,
) -> Entry:
    """A new entry at the end of the log.

    Raises:
        OutOfDomainError: an act that the wire as it hangs cannot have had.
    """
    # The build's row is held, so that two entries at once do not get one number.
    session.execute(select(Build.id).where(Build.id == build_id).with_for_update())
    replay([*(data_of(e) for e in entries_of(session, build_id)), said])
    last = session.scalar(select(func.max(Entry.number)).where(Entry.build_id == build_id)) or 0
    row = Entry(
        build_id=build_id,
        number=last + 1,
        kind=said.kind,
        data=said.model_dump(mode="json"),
        text=text,
        setup_id=setup_id,
        sweep_id=sweep_id,
        utc_offset_min=utc_offset_min,
        happened_at=happened_at or datetime.now(UTC),
    )
    session.add(row)
    session.flush()
    return row


def bin_entry(session: Session, row: Entry) -> None:
    """Take an entry back.

    Raises:
        OutOfDomainError: a later act needs it.
    """
    replay([data_of(e) for e in entries_of(session, row.build_id) if e.id != row.id])
    row.deleted_at = datetime.now(UTC)
