"""Jobs over HTTP: begun, followed, stopped. A new kind is a row of `PLANS` and its part of the two unions."""

import time
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Any
from uuid import UUID

from fastapi import Depends, FastAPI, Request
from fastapi.sse import EventSourceResponse
from pydantic import Field, TypeAdapter
from starlette.concurrency import run_in_threadpool

from yielding_coil.api.analyser import CheckIn, StandardIn, SweepIn, SweepJob, plan_check, plan_standard, plan_sweep
from yielding_coil.api.choice import SchoolsIn, SchoolsJob, plan_schools
from yielding_coil.api.http import ACTIVE, Jobs, Plan, QueuedJobs, router_of
from yielding_coil.api.matching import SearchIn, SearchJob, plan_search

router = router_of("jobs", "/api/jobs")

JobIn = Annotated[SweepIn | StandardIn | CheckIn | SearchIn | SchoolsIn, Field(discriminator="kind")]
# How far each kind is told of; one shape may serve several kinds.
JobState = SweepJob | SearchJob | SchoolsJob
PLANS: dict[str, Callable[[FastAPI, Any], Plan[Any, Any]]] = {
    "sweep": plan_sweep,
    "standard": plan_standard,
    "check": plan_check,
    "search": plan_search,
    "schools": plan_schools,
}
# Of several processes the one that holds the analyser does these.
HUB_KINDS = frozenset({"sweep", "standard", "check"})
STOP_WITHIN_S = 15.0


_STATE: TypeAdapter[JobState] = TypeAdapter(JobState)


class _Known:
    """The jobs that are known here: this process's own, and those that several share."""

    def __init__(self, request: Request) -> None:
        self.app: FastAPI = request.app
        self.own: Jobs = request.app.state.jobs
        self.shared: QueuedJobs | None = request.app.state.queued

    def begin(self, asked: Any) -> Any:
        plan = PLANS[asked.kind](self.app, asked)
        if self.shared is not None and plan.waits:
            return _STATE.validate_python(self.shared.add(plan, asked))
        return self.own.add(plan).out()

    def has_shared(self, job_id: UUID) -> bool:
        return self.shared is not None and self.shared.knows(job_id)

    def one(self, job_id: UUID) -> Any:
        if self.shared is not None and self.shared.knows(job_id):
            return _STATE.validate_python(self.shared.one(job_id))
        return self.own.one(job_id).out()

    def heard(self, job_id: UUID) -> Any:
        if self.shared is not None and self.shared.knows(job_id):
            return _STATE.validate_python(self.shared.heard(job_id))
        return self.own.heard(job_id).out()

    def stopped(self, job_id: UUID) -> Any:
        if self.has_shared(job_id):
            assert self.shared is not None
            self.shared.stop(job_id)
        else:
            self.own.stop(job_id)
        until = time.monotonic() + STOP_WITHIN_S
        while (found := self.one(job_id)).state in ACTIVE and time.monotonic() < until:
            time.sleep(0.005 if self.shared is None else 0.05)
        return found

    async def updates(self, job_id: UUID) -> AsyncIterator[JobState]:
        closing: Callable[[], bool] = self.app.state.closing
        if self.shared is not None and await run_in_threadpool(self.shared.knows, job_id):
            async for state in self.shared.updates(job_id, closing):
                yield await run_in_threadpool(_STATE.validate_python, state)
            return
        async for own in self.own.one(job_id).updates(closing):
            yield own  # type: ignore[misc]


AllJobs = Annotated[_Known, Depends(_Known)]


@router.post("", status_code=202, response_model=JobState)
def begin_job(jobs: AllJobs, asked: JobIn) -> Any:
    """Begin a piece of work, or line it up; 409 for a sweep while the analyser is at another one."""
    return jobs.begin(asked)


@router.get("/{job_id}", response_model=JobState)
def job(jobs: AllJobs, job_id: UUID) -> Any:
    """How far it is. Work that is neither followed nor asked after for ten seconds ends."""
    return jobs.heard(job_id)


def _known_job(jobs: AllJobs, job_id: UUID) -> UUID:
    jobs.one(job_id)
    return job_id


@router.get("/{job_id}/events", response_class=EventSourceResponse)
async def job_events(jobs: AllJobs, found: Annotated[UUID, Depends(_known_job)]) -> AsyncIterator[JobState]:
    """The same as it changes, until it ends."""
    stream = jobs.updates(found)
    try:
        async for state in stream:
            yield state
    finally:
        await stream.aclose()  # type: ignore[attr-defined]


@router.delete("/{job_id}", response_model=JobState)
async def stop_job(jobs: AllJobs, job_id: UUID) -> Any:
    """Stop it after what it is at; what it has found is kept."""
    return await run_in_threadpool(jobs.stopped, job_id)
