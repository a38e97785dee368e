"""Queries on settings and builds; they never commit, one request is one transaction."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy import inspect, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError
from yielding_coil.store.designs import make_design, newest
from yielding_coil.store.photographs import photographs_of
from yielding_coil.store.tables import Build, Design, Entry, Photograph, Settings, Setup, SweepRow


def settings(session: Session) -> Settings:
    """The one row of settings, made on first sight."""
    row = session.get(Settings, 1)
    if row is None:
        # Two pages may see it first at once.
        session.execute(insert(Settings).values(id=1).on_conflict_do_nothing())
        row = session.get_one(Settings, 1)
    return row


def all_builds(session: Session, *, deleted: bool = False) -> Sequence[Build]:
    """Builds on the shelf, newest first; or those in the bin."""
    kept = Build.deleted_at.is_not(None) if deleted else Build.deleted_at.is_(None)
    return session.scalars(select(Build).where(kept).order_by(Build.made_at.desc(), Build.id)).all()


def one_build(session: Session, build_id: UUID, *, deleted: bool = False) -> Build:
    """One build.

    Raises:
        NotFoundError: no such build, or it is in the bin and `deleted` is not set.
    """
    row = session.get(Build, build_id)
    if row is None or (row.deleted_at is not None and not deleted):
        where = "is in the bin" if row is not None else "is not kept here"
        raise NotFoundError(f"the build {where}; look on the shelf", field="build_id", in_bin=row is not None)
    return row


def bin_build(row: Build) -> None:
    """Put a build in the bin; everything in it stays."""
    row.deleted_at = datetime.now(UTC)


def restore_build(row: Build) -> None:
    """Take a build out of the bin."""
    row.deleted_at = None


def sweeps_of(session: Session, build_id: UUID) -> Sequence[SweepRow]:
    """Sweeps of a build, oldest first."""
    query = select(SweepRow).where(SweepRow.build_id == build_id, SweepRow.deleted_at.is_(None))
    return session.scalars(query.order_by(SweepRow.swept_at, SweepRow.id)).all()


@dataclass(frozen=True, slots=True)
class Binned:
    """What lies in the bin, newest first; of builds in the bin only the build itself is listed."""

    builds: Sequence[Build]
    sweeps: Sequence[tuple[SweepRow, str]]
    designs: Sequence[tuple[Design, str]]


def binned(session: Session) -> Binned:
    """Everything that can be taken back; sweeps and designs with the name of their build."""

    def of(kind: type[SweepRow] | type[Design]) -> Sequence[Any]:
        query = select(kind, Build.name).join(Build, Build.id == kind.build_id)
        query = query.where(kind.deleted_at.is_not(None), Build.deleted_at.is_(None))
        return [tuple(row) for row in session.execute(query.order_by(kind.deleted_at.desc()))]

    return Binned(all_builds(session, deleted=True), of(SweepRow), of(Design))


def duplicate(session: Session, build: Build, name: str) -> Build:
    """A copy of a build: its setups and sweeps, and its designs as they now are, under new ids."""
    copy = Build(
        name=name,
        power_w=build.power_w,
        mode=build.mode,
        notes=build.notes,
        skipped_stages=build.skipped_stages,
        targets=build.targets,
        wire=build.wire,
    )
    session.add(copy)
    session.flush()
    setups = {old.id: _copied(session, old, build_id=copy.id).id for old in setups_of(session, build.id)}
    sweeps = {
        old.id: _copied(session, old, build_id=copy.id, setup_id=setups.get(old.setup_id) if old.setup_id else None)
        for old in sweeps_of(session, build.id)
    }
    log = select(Entry).where(Entry.build_id == build.id, Entry.deleted_at.is_(None)).order_by(Entry.number)
    entries = session.scalars(log).all()
    pictures = photographs_of(session, [entry.id for entry in entries])
    for entry in entries:
        told = _copied(
            session,
            entry,
            build_id=copy.id,
            setup_id=setups.get(entry.setup_id) if entry.setup_id else None,
            sweep_id=sweeps[entry.sweep_id].id if entry.sweep_id in sweeps else None,
        )
        for picture in pictures[entry.id]:
            _copied(session, picture, entry_id=told.id)
    for old in designs_of(session, build.id):
        head = newest(session, old.id)
        content = dict(head.content)
        swept = content["antenna"].get("sweep_id")
        if swept is not None and UUID(swept) in sweeps:
            content["antenna"] = {**content["antenna"], "sweep_id": str(sweeps[UUID(swept)].id)}
        made = make_design(session, copy.id, old.name, content, head.summary)
        if old.id == build.chosen_design_id:
            copy.chosen_design_id = made.id
    if build.baseline_sweep_id in sweeps:
        copy.baseline_sweep_id = sweeps[build.baseline_sweep_id].id
    session.flush()
    session.refresh(copy)
    return copy


Row = TypeVar("Row", Setup, SweepRow, Entry, Photograph)


def _copied(session: Session, row: Row, **other: Any) -> Row:
    """The same row under a new id."""
    kept = {c.key: getattr(row, c.key) for c in inspect(type(row)).columns if c.key not in ("id", "revision")}
    copy = type(row)(**{**kept, **other})
    session.add(copy)
    session.flush()
    return copy


def setups_of(session: Session, build_id: UUID) -> Sequence[Setup]:
    """Setups of a build."""
    return session.scalars(select(Setup).where(Setup.build_id == build_id)).all()


def designs_of(session: Session, build_id: UUID) -> Sequence[Design]:
    """Designs of a build, oldest first."""
    query = select(Design).where(Design.build_id == build_id, Design.deleted_at.is_(None))
    return session.scalars(query.order_by(Design.made_at, Design.id)).all()
