"""Work lined up for whichever process and machine is free: begun, followed, stopped through the database."""

import asyncio
import time
from collections.abc import AsyncIterator, Callable
from typing import Any
from uuid import UUID

from pydantic import BaseModel
from sqlalchemy import Engine
from sqlalchemy.orm import Session
from starlette.concurrency import run_in_threadpool

from yielding_coil.api.http.jobs import ACTIVE, JobGoneError, Plan
from yielding_coil.api.http.problems import Problem
from yielding_coil.store import jobs as queries
from yielding_coil.store.queue import Queue
from yielding_coil.store.tables import JobRow

# So often it is looked whether there is news; so often it is said that somebody listens.
LOOK_S = 0.1
HEAR_S = 2.0
LOST = Problem(
    title="Failed",
    status=503,
    code="search_lost",
    detail="who worked at it was ended from outside: start it again",
    field="job_id",
)


def state_of(session: Session, row: JobRow) -> dict[str, Any]:
    """As it travels, still to be put into its shape."""
    return {
        "id": row.id,
        "kind": row.kind,
        "state": row.state,
        "place": queries.place_of(session, row),
        "progress": row.progress,
        "found": row.found,
        "problem": row.problem,
    }


class QueuedJobs:
    """The jobs that several processes share."""

    def __init__(self, engine: Engine, queue: Queue) -> None:
        self._engine = engine
        self._queue = queue

    def add(self, plan: Plan[Any, Any], asked: BaseModel) -> dict[str, Any]:
        """Line one up that was checked by its plan; whoever takes it makes the plan anew."""
        with Session(self._engine, expire_on_commit=False) as session, session.begin():
            row = queries.line_up(
                session, plan.kind, asked.model_dump(mode="json"), plan.start.model_dump(mode="json")
            )
            state = state_of(session, row)
        self._queue.put(str(row.id))
        return state

    def knows(self, job_id: UUID) -> bool:
        """Whether it is one of these."""
        with Session(self._engine) as session:
            return session.get(JobRow, job_id) is not None

    def one(self, job_id: UUID) -> dict[str, Any]:
        """A job as it is.

        Raises:
            JobGoneError: it is not known any more.
        """
        with Session(self._engine) as session, session.begin():
            queries.lose(session, job_id, LOST.model_dump(mode="json", exclude_none=True))
            row = session.get(JobRow, job_id)
            if row is None:
                raise JobGoneError("this work is not known any more; start it again", field="job_id")
            return state_of(session, row)

    def stop(self, job_id: UUID) -> dict[str, Any]:
        """Ask one to end."""
        with Session(self._engine) as session, session.begin():
            queries.ask_to_stop(session, job_id)
        return self.one(job_id)

    def heard(self, job_id: UUID) -> dict[str, Any]:
        """A job somebody asks after, and which therefore goes on.

        Raises:
            JobGoneError: it is not known any more.
        """
        with Session(self._engine) as session, session.begin():
            queries.hear(session, job_id)
        return self.one(job_id)

    async def updates(self, job_id: UUID, closing: Callable[[], bool]) -> AsyncIterator[dict[str, Any]]:
        """Each newest state until it ends; what came while the listener was busy is left out."""
        told: dict[str, Any] | None = None
        said = 0.0
        while True:
            if time.monotonic() - said > HEAR_S:
                said = time.monotonic()
                newest = await run_in_threadpool(self.heard, job_id)
            else:
                newest = await run_in_threadpool(self.one, job_id)
            if newest != told:
                told = newest
                yield newest
            if newest["state"] not in ACTIVE or closing():
                return
            await asyncio.sleep(LOOK_S)


class TableSink:
    """Who hears how far shared work is, and says whether to go on: its row."""

    def __init__(self, engine: Engine, job_id: UUID) -> None:
        self._engine, self._job_id = engine, job_id
        self._going = True
        self._told = 0.0

    def is_due(self) -> bool:
        """Whether it is time to report again: as often as anybody looks."""
        return time.monotonic() - self._told >= LOOK_S

    def should_continue(self) -> bool:
        """Whether to go on, as it was when it was last asked."""
        return self._going

    def beat(self, **changes: Any) -> bool:
        """Say that it is still worked at."""
        with Session(self._engine) as session, session.begin():
            self._going = queries.beat(session, self._job_id, **changes)
        return self._going

    def report(self, progress: BaseModel, found: BaseModel | None = None) -> bool:
        """Say how far it is and, where there is something new, what it has found; gives whether to go on."""
        self._told = time.monotonic()
        more = {} if found is None else {"found": found.model_dump(mode="json")}
        return self.beat(progress=progress.model_dump(mode="json"), **more)
