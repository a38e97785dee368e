"""Jobs over HTTP: begun, followed, stopped. A new kind is a row of `PLANS` and its part of the two unions."""

import time
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Any
from uuid import UUID

from fastapi import Depends, FastAPI, Request
from fastapi.sse import EventSourceResponse
from pydantic import Field
from starlette.concurrency import run_in_threadpool

from yielding_coil.api.analyser import CheckIn, StandardIn, SweepIn, SweepJob, plan_check, plan_standard, plan_sweep
from yielding_coil.api.choice import SchoolsIn, SchoolsJob, plan_schools
from yielding_coil.api.http import ACTIVE, AnyJob, Jobs, Plan, router_of
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
STOP_WITHIN_S = 15.0


def _jobs(request: Request) -> Jobs:
    jobs: Jobs = request.app.state.jobs
    return jobs


AllJobs = Annotated[Jobs, Depends(_jobs)]


@router.post("", status_code=202, response_model=JobState)
def begin_job(request: Request, jobs: AllJobs, asked: JobIn) -> Any:
    """Begin a piece of work, or line it up; 409 for a sweep while the analyser is at another one."""
    return jobs.add(PLANS[asked.kind](request.app, asked)).out()


@router.get("/{job_id}", response_model=JobState)
def job(jobs: AllJobs, job_id: UUID) -> Any:
    """How far it is."""
    return jobs.one(job_id).out()


def _one_job(jobs: AllJobs, job_id: UUID) -> AnyJob:
    return jobs.one(job_id)


@router.get("/{job_id}/events", response_class=EventSourceResponse)
async def job_events(request: Request, found: Annotated[AnyJob, Depends(_one_job)]) -> AsyncIterator[JobState]:
    """The same as it changes, until it ends."""
    closing: Callable[[], bool] = request.app.state.closing
    stream = found.updates(closing)
    try:
        async for state in stream:
            yield state  # type: ignore[misc]
    finally:
        await stream.aclose()  # type: ignore[attr-defined]


@router.delete("/{job_id}", response_model=JobState)
async def stop_job(jobs: AllJobs, job_id: UUID) -> Any:
    """Stop it after what it is at; what it has found is kept."""
    found = await run_in_threadpool(_stopped, jobs, job_id)
    return found.out()


def _stopped(jobs: Jobs, job_id: UUID) -> AnyJob:
    found = jobs.stop(job_id)
    until = time.monotonic() + STOP_WITHIN_S
    while found.state in ACTIVE and time.monotonic() < until:
        time.sleep(0.005)
    return found
