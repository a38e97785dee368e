"""Queries on the log of a build."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid4

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError
from yielding_coil.documents.log import EntryIs, WirePlan, read_entry, replay
from yielding_coil.store.tables import Build, Entry, SweepRow

A_YEAR = timedelta(days=365)


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


def taken_of(session: Session, build_id: UUID, most: int = 20) -> Sequence[Entry]:
    """Entries that were taken back, newest first."""
    query = select(Entry).where(Entry.build_id == build_id, Entry.deleted_at.is_not(None))
    return session.scalars(query.order_by(Entry.deleted_at.desc()).limit(most)).all()


def has_real_readings(session: Session, rows: Sequence[Entry]) -> bool:
    """Whether anything but sweeps of the simulated analyser was read in this log."""
    read = [row for row in rows if row.kind == "reading"]
    if any(row.sweep_id is None for row in read):
        return True
    ids = {row.sweep_id for row in read}
    sources = session.scalars(select(SweepRow.source).where(SweepRow.id.in_(ids))) if ids else ()
    return any(source != "simulated" for source in sources)


def binned_entries(session: Session) -> Sequence[tuple[Entry, str]]:
    """Entries that were taken back from builds that are on the shelf, with the build's name."""
    query = (
        select(Entry, Build.name)
        .join(Build, Build.id == Entry.build_id)
        .where(Entry.deleted_at.is_not(None), Build.deleted_at.is_(None))
    )
    return [(row, name) for row, name in session.execute(query)]


def kinds_of(session: Session, build_id: UUID) -> list[str]:
    """The kinds of a build's entries, oldest first: enough to say how far it is."""
    query = select(Entry.kind).where(Entry.build_id == build_id, Entry.deleted_at.is_(None))
    return list(session.scalars(query.order_by(Entry.number)))


def asked_to_look(session: Session, build_id: UUID, now: datetime | None = None) -> datetime | None:
    """When a reminder in a year was asked for, once that is over and nothing was swept since; else None."""
    before = (now or datetime.now(UTC)) - A_YEAR
    asked = select(func.max(Entry.happened_at)).where(
        Entry.build_id == build_id,
        Entry.deleted_at.is_(None),
        Entry.kind == "remind",
        Entry.data["when"].astext == "in_a_year",
        Entry.happened_at <= before,
    )
    at = session.scalar(asked)
    if at is None:
        return None
    since = select(SweepRow.id).where(
        SweepRow.build_id == build_id, SweepRow.deleted_at.is_(None), SweepRow.swept_at > at + A_YEAR / 2
    )
    return at if session.scalars(since.limit(1)).one_or_none() is None else None


def one_entry(session: Session, entry_id: UUID, *, deleted: bool = False) -> Entry:
    """One entry.

    Raises:
        NotFoundError: no such one, or it was taken back and `deleted` is not set.
    """
    row = session.get(Entry, entry_id)
    if row is None or (row.deleted_at is not None and not deleted):
        raise NotFoundError("this entry is not in the log", field="entry_id", in_bin=row is not None)
    return row


def hold_log(session: Session, build_id: UUID) -> None:
    """One at a time from here: two entries at once do not get one number, nor does one miss the other.

    New rows that only point to the build wait for nothing.
    """
    session.execute(select(Build.id).where(Build.id == build_id).with_for_update(key_share=True))


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
    entry_id: UUID | None = None,
) -> Entry:
    """A new entry at the end of the log.

    Raises:
        OutOfDomainError: an act that the wire as it hangs cannot have had.
    """
    hold_log(session, build_id)
    # What leaves the wire as it was needs no look at all that was told before.
    if said.event() is not None:
        replay([*(data_of(e) for e in entries_of(session, build_id)), said])
    last = session.scalar(select(func.max(Entry.number)).where(Entry.build_id == build_id)) or 0
    row = Entry(
        id=entry_id or uuid4(),
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
    hold_log(session, row.build_id)
    replay([data_of(e) for e in entries_of(session, row.build_id) if e.id != row.id])
    row.deleted_at = datetime.now(UTC)
