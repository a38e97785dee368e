"""Work that takes a while: begun by one request, told of as it goes, ended when asked or when nobody listens."""

import asyncio
import threading
import time
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Literal
from uuid import UUID, uuid4

from fastapi import APIRouter, Depends, Request
from fastapi.sse import EventSourceResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from yielding_coil.api.problems import RESPONSES, Problem, problem_of
from yielding_coil.api.sweeping import JobAsked, Progress, begin
from yielding_coil.core.errors import RefusedError

router = APIRouter(prefix="/api/jobs", tags=["jobs"], responses=RESPONSES)

# A job that nobody listens to ends after so many seconds; what it found stays for ten minutes.
UNHEARD_S = 10.0
KEPT_S = 600.0
# While it runs it is told of this often at most.
TOLD_EVERY_S = 0.05

State = Literal["running", "done", "stopped", "failed"]


class JobGoneError(RefusedError):
    """No such work is known any more."""

    code = "job_gone"
    status = 404


class JobOut(BaseModel):
    """How far a job has come, and what it found."""

    id: UUID
    state: State
    progress: Progress
    problem: Problem | None


class Job:
    """One piece of work in a thread of its own."""

    def __init__(self, work: Callable[["Job"], None], unheard_s: float = UNHEARD_S) -> None:
        self.id = uuid4()
        self.state: State = "running"
        self.progress = Progress.of()
        self.problem: Problem | None = None
        self.ended_at: float | None = None
        self._unheard_s = unheard_s
        self._heard_at = time.monotonic()
        self._told_at = 0.0
        self._ears: set[tuple[asyncio.AbstractEventLoop, asyncio.Event]] = set()
        self._stop = False
        self._lock = threading.Lock()
        self._work = work
        threading.Thread(target=self._run, daemon=True, name=f"job {self.id}").start()

    def _run(self) -> None:
        try:
            self._work(self)
            state: State = "stopped" if self._stop or self._unheard() else "done"
        except RefusedError as error:
            self.problem = problem_of(error)
            state = "failed"
        except Exception:
            self.problem = Problem(
                title="Failed", status=500, code="failed", detail="something went wrong here; start again"
            )
            self._end("failed")
            raise
        self._end(state)

    def _end(self, state: State) -> None:
        self.state, self.ended_at = state, time.monotonic()
        self._wake()

    def tell(self, progress: Progress) -> bool:
        """Say how far it is; gives whether to go on."""
        self.progress = progress
        self._told_at = time.monotonic()
        self._wake()
        return self.wanted()

    def due(self) -> bool:
        """Whether it is time to tell again: a screen shows no more than so many pictures a second."""
        return time.monotonic() - self._told_at >= TOLD_EVERY_S

    def wanted(self) -> bool:
        """Whether to go on: nobody stopped it, and somebody listens."""
        return not self._stop and not self._unheard()

    def _unheard(self) -> bool:
        with self._lock:
            if self._ears:
                self._heard_at = time.monotonic()
        return time.monotonic() - self._heard_at > self._unheard_s

    def stop(self) -> None:
        """Ask it to end after what it is at."""
        self._stop = True

    def _wake(self) -> None:
        with self._lock:
            ears = list(self._ears)
        for loop, event in ears:
            loop.call_soon_threadsafe(event.set)

    def out(self) -> JobOut:
        """As it travels."""
        return JobOut.model_construct(id=self.id, state=self.state, progress=self.progress, problem=self.problem)

    async def told(self, closing: Callable[[], bool]) -> AsyncIterator[JobOut]:
        """Each newest state until it ends; what came while the listener was busy is left out."""
        event = asyncio.Event()
        ear = (asyncio.get_running_loop(), event)
        with self._lock:
            self._ears.add(ear)
        try:
            while True:
                event.clear()
                state = self.out()
                yield state
                if state.state != "running" or closing():
                    return
                while not closing():
                    try:
                        await asyncio.wait_for(event.wait(), 0.5)
                        break
                    except TimeoutError:
                        continue
        finally:
            with self._lock:
                self._heard_at = time.monotonic()
                self._ears.discard(ear)


class Jobs:
    """The jobs of this process."""

    def __init__(self) -> None:
        self._jobs: dict[UUID, Job] = {}

    def add(self, work: Callable[[Job], None]) -> Job:
        """Begin one; those that ended long ago are forgotten."""
        now = time.monotonic()
        for key, job in list(self._jobs.items()):
            if job.ended_at is not None and now - job.ended_at > KEPT_S:
                del self._jobs[key]
        job = Job(work)
        self._jobs[job.id] = job
        return job

    def one(self, job_id: UUID) -> Job:
        """A job.

        Raises:
            JobGoneError: it is not known any more.
        """
        job = self._jobs.get(job_id)
        if job is None:
            raise JobGoneError("this work is not known any more; start it again", field="job_id")
        return job


def _job(request: Request, job_id: UUID) -> Job:
    jobs: Jobs = request.app.state.jobs
    return jobs.one(job_id)


OneJob = Annotated[Job, Depends(_job)]


@router.post("", status_code=202)
def begin_job(request: Request, asked: JobAsked) -> JobOut:
    """Begin a sweep; 409 while the analyser is at another one."""
    work = begin(request.app, asked)
    jobs: Jobs = request.app.state.jobs
    return jobs.add(work).out()


@router.get("/{job_id}")
def job(found: OneJob) -> JobOut:
    """How far it is."""
    return found.out()


@router.get("/{job_id}/events", response_class=EventSourceResponse)
async def job_events(request: Request, found: OneJob) -> AsyncIterator[JobOut]:
    """The same as it changes, until it ends."""
    closing: Callable[[], bool] = request.app.state.closing
    stream = found.told(closing)
    try:
        async for state in stream:
            yield state
    finally:
        await stream.aclose()  # type: ignore[attr-defined]


@router.delete("/{job_id}")
async def stop_job(found: OneJob) -> JobOut:
    """Stop it after what it is at; whole passes that are there are kept."""
    found.stop()
    await run_in_threadpool(_until_ended, found)
    return found.out()


def _until_ended(found: Job, most_s: float = 15.0) -> None:
    until = time.monotonic() + most_s
    while found.state == "running" and time.monotonic() < until:
        time.sleep(0.005)
