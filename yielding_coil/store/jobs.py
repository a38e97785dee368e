"""Queries on work that several processes share: lined up, taken, told of, stopped, lost."""

from datetime import timedelta
from typing import Any
from uuid import UUID

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session

from yielding_coil.store.tables import JobRow

# What has ended is kept for so long; what nobody listens to, or nobody works at any more, has ended.
KEPT = timedelta(minutes=10)
ABANDONED = timedelta(seconds=10)
LOST = timedelta(seconds=10)
ACTIVE = ("queued", "running")


def line_up(session: Session, kind: str, asked: dict[str, Any], progress: dict[str, Any]) -> JobRow:
    """New work at the end of the line; what ended long ago is forgotten."""
    session.execute(delete(JobRow).where(JobRow.ended_at < func.now() - KEPT))
    row = JobRow(kind=kind, asked=asked, progress=progress)
    session.add(row)
    session.flush()
    session.refresh(row)
    return row


def place_of(session: Session, row: JobRow) -> int | None:
    """Its place in the line, 1 for the next; None once it runs."""
    if row.state != "queued":
        return None
    before = select(func.count()).where(JobRow.state == "queued", JobRow.made_at < row.made_at)
    return int(session.scalar(before) or 0) + 1


def hear(session: Session, job_id: UUID) -> None:
    """Somebody listens."""
    session.execute(update(JobRow).where(JobRow.id == job_id).values(heard_at=func.now()))


def ask_to_stop(session: Session, job_id: UUID) -> None:
    """What waits ends at once, what runs after what it is at."""
    active = update(JobRow).where(JobRow.id == job_id)
    session.execute(active.where(JobRow.state == "queued").values(**_ended("stopped")))
    session.execute(active.where(JobRow.state == "running").values(stop=True))


def take(session: Session, job_id: UUID) -> JobRow | None:
    """Begin it; None where it was stopped meanwhile, or nobody listens any more."""
    queued = update(JobRow).where(JobRow.id == job_id, JobRow.state == "queued")
    late = JobRow.heard_at < func.now() - ABANDONED
    session.execute(queued.where(late).values(**_ended("stopped")))
    begun = queued.values(state="running", beat_at=func.now(), revision=JobRow.revision + 1)
    return session.execute(begun.returning(JobRow)).scalar_one_or_none()


def beat(session: Session, job_id: UUID, **changes: Any) -> bool:
    """Still at it, with what there is to tell; gives whether to go on."""
    values: dict[str, Any] = {"beat_at": func.now(), **changes}
    if changes:
        values["revision"] = JobRow.revision + 1
    here = update(JobRow).where(JobRow.id == job_id, JobRow.state == "running").values(**values)
    wanted = (~JobRow.stop) & (JobRow.heard_at >= func.now() - ABANDONED)
    return bool(session.execute(here.returning(wanted)).scalar_one_or_none())


def end(session: Session, job_id: UUID, state: str, problem: dict[str, Any] | None = None) -> None:
    """It has ended so."""
    here = update(JobRow).where(JobRow.id == job_id, JobRow.state.in_(ACTIVE))
    session.execute(here.values(**_ended(state), problem=problem))


def lose(session: Session, job_id: UUID, problem: dict[str, Any]) -> None:
    """Whoever worked at it has not said so for too long: it has failed."""
    gone = update(JobRow).where(JobRow.id == job_id, JobRow.state == "running", JobRow.beat_at < func.now() - LOST)
    session.execute(gone.values(**_ended("failed"), problem=problem))


def _ended(state: str) -> dict[str, Any]:
    return {"state": state, "ended_at": func.now(), "revision": JobRow.revision + 1}
