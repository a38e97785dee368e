"""Queries on settings and builds; they never commit, one request is one transaction."""

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil.core.errors import NotFoundError, StaleEditError
from yielding_coil.store.tables import Build, Design, Settings, Setup, SweepRow


def settings(session: Session) -> Settings:
    """The one row of settings, made on first sight."""
    row = session.get(Settings, 1)
    if row is None:
        row = Settings(id=1)
        session.add(row)
        session.flush()
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


def edit(row: Build | Settings, revision: int, changes: Mapping[str, Any], newest: Any) -> None:
    """Change fields of a row that has not changed since it was read.

    Raises:
        StaleEditError: somebody else changed it; carries the newest.
    """
    if row.revision != revision:
        raise StaleEditError(
            f"this was changed elsewhere since you opened it (you had revision {revision}, "
            f"the newest is {row.revision}); look at the newest, then change it again",
            newest=newest,
        )
    for name, value in changes.items():
        setattr(row, name, value)
    row.revision += 1


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


def setups_of(session: Session, build_id: UUID) -> Sequence[Setup]:
    """Setups of a build."""
    return session.scalars(select(Setup).where(Setup.build_id == build_id)).all()


def designs_of(session: Session, build_id: UUID) -> Sequence[Design]:
    """Designs of a build, oldest first."""
    query = select(Design).where(Design.build_id == build_id, Design.deleted_at.is_(None))
    return session.scalars(query.order_by(Design.made_at, Design.id)).all()
