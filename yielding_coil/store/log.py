"""Everything that happened to a build, or to all of them, on one line of time, the newest first."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from sqlalchemy import ColumnElement, and_, exists, func, literal, or_, select, tuple_, union_all
from sqlalchemy.orm import Session

from yielding_coil.store.tables import Build, Design, DesignRevision, Entry, Photograph, SweepRow

What = Literal["entry", "sweep", "state"]
# What is filtered by: kinds of entries, and what is no entry.
GROUPS: dict[str, frozenset[str]] = {
    "sweeps": frozenset({"sweep"}),
    "acts": frozenset({"hung", "cut", "use_so"}),
    "readings": frozenset({"reading"}),
    "checks": frozenset({"bench_check", "checked_again", "fault_begun", "fault_test", "fault_mended"}),
    "designs": frozenset({"built", "state"}),
    "notes": frozenset({"note", "done", "remind", "position_removed"}),
    "photographs": frozenset({"photograph"}),
    "air": frozenset({"on_air"}),
}


@dataclass(frozen=True, slots=True)
class Happened:
    """A place on the line of time: what lies there, of which build."""

    what: What
    id: UUID
    build_id: UUID
    at: datetime


@dataclass(frozen=True, slots=True)
class Asked:
    """What of the log is asked for.

    Args:
        build_id: of one build; of all that are on the shelf when None.
        groups: of `GROUPS`; all when empty.
        text: that must stand in it, in whatever case; nothing when empty.
        before: only what happened before this place; from the newest when None.
    """

    build_id: UUID | None = None
    groups: Collection[str] = ()
    text: str = ""
    before: tuple[datetime, UUID] | None = None


def happened(session: Session, asked: Asked, most: int) -> Sequence[Happened]:
    """So many places on the line of time at the most, the newest first."""
    line = _line(asked).subquery()
    query = select(line)
    if asked.before is not None:
        query = query.where(tuple_(line.c.at, line.c.id) < asked.before)
    rows = session.execute(query.order_by(line.c.at.desc(), line.c.id.desc()).limit(most))
    return [Happened(what=r.what, id=r.id, build_id=r.build_id, at=r.at) for r in rows]


def rows_by_id(session: Session, kind: Any, ids: Collection[UUID]) -> dict[UUID, Any]:
    """Rows of a table, each under its id, in one question."""
    return {row.id: row for row in session.scalars(select(kind).where(kind.id.in_(ids)))} if ids else {}


def counted(session: Session, build_id: UUID) -> int:
    """How many places the whole line of a build has."""
    return session.scalar(select(func.count()).select_from(_line(Asked(build_id)).subquery())) or 0


def _line(asked: Asked) -> Any:
    return union_all(_entries(asked), _sweeps(asked), _states(asked))


def _wanted(asked: Asked) -> frozenset[str]:
    return frozenset().union(*(GROUPS[g] for g in asked.groups)) if asked.groups else frozenset()


def _has(asked: Asked, *columns: Any) -> ColumnElement[bool]:
    if not asked.text:
        return literal(True)
    return or_(*(column.icontains(asked.text, autoescape=True) for column in columns))


def _of(query: Any, asked: Asked) -> Any:
    if asked.build_id is not None:
        return query.where(Build.id == asked.build_id)
    return query.where(Build.deleted_at.is_(None))


def _entries(asked: Asked) -> Any:
    wanted = _wanted(asked)
    query = select(
        literal("entry").label("what"),
        Entry.id.label("id"),
        Entry.build_id.label("build_id"),
        Entry.happened_at.label("at"),
    ).join(Build, Build.id == Entry.build_id)
    pictured = exists().where(Photograph.entry_id == Entry.id, Photograph.deleted_at.is_(None))
    if wanted:
        kinds = Entry.kind.in_(wanted)
        query = query.where(or_(kinds, pictured) if "photograph" in wanted else kinds)
    named = exists().where(
        Photograph.entry_id == Entry.id, Photograph.deleted_at.is_(None), _has(asked, Photograph.name)
    )
    said = _has(
        asked, Entry.text, Entry.data["against"].astext, Entry.data["band"].astext, Entry.data["after"].astext
    )
    return _of(query.where(Entry.deleted_at.is_(None), or_(said, named) if asked.text else literal(True)), asked)


def _sweeps(asked: Asked) -> Any:
    """Sweeps that no entry shows."""
    wanted = _wanted(asked)
    query = select(literal("sweep"), SweepRow.id, SweepRow.build_id, SweepRow.swept_at).join(
        Build, Build.id == SweepRow.build_id
    )
    shown = exists().where(
        Entry.sweep_id == SweepRow.id, Entry.deleted_at.is_(None), Entry.build_id == SweepRow.build_id
    )
    # Who asks for sweeps alone wants them all; else each is seen once.
    each = literal(True) if wanted and "reading" not in wanted else ~shown
    kept = literal(not wanted or "sweep" in wanted)
    return _of(query.where(SweepRow.deleted_at.is_(None), each, kept, _has(asked, SweepRow.name)), asked)


def _states(asked: Asked) -> Any:
    """Designs as they were begun, and states of them that have a name."""
    wanted = _wanted(asked)
    query = (
        select(literal("state"), DesignRevision.id, Design.build_id, DesignRevision.made_at)
        .join(Design, Design.id == DesignRevision.design_id)
        .join(Build, Build.id == Design.build_id)
    )
    told = or_(DesignRevision.number == 1, DesignRevision.label != "")
    kept = literal(not wanted or "state" in wanted)
    said = _has(asked, Design.name, DesignRevision.label)
    return _of(query.where(and_(Design.deleted_at.is_(None), told, kept, said)), asked)
