"""Work that takes a while: begun by one request, told of as it goes, ended when asked or when nobody listens.

A kind of job brings what it is asked, how far it is and what it has found so far in shapes of its own. What
computes waits for its turn, two at a time; what waits for an instrument does not.
"""

import asyncio
import os
import threading
import time
from collections.abc import AsyncIterator, Callable
from dataclasses import dataclass
from typing import Any, Generic, Literal, Protocol, TypeVar
from uuid import UUID, uuid4

from pydantic import BaseModel

from yielding_coil.api.http.problems import Problem, problem_of
from yielding_coil.core.errors import RefusedError

# A job that nobody follows or asks after ends after so many seconds; what it found stays for ten minutes.
ABANDONED_S = 10.0
KEPT_S = 600.0
# While it runs it reports this often at most: a screen shows no more pictures a second.
REPORT_EVERY_S = 0.05
# So many that compute run at once; each gives way to whoever waits for an answer.
AT_ONCE = 2
NICE = 10

State = Literal["queued", "running", "done", "stopped", "failed"]
ACTIVE = ("queued", "running")

Kind = TypeVar("Kind", bound=str)
Progress = TypeVar("Progress", bound=BaseModel)
Found = TypeVar("Found", bound=BaseModel)
Tells = TypeVar("Tells", bound=BaseModel, contravariant=True)
Finds = TypeVar("Finds", bound=BaseModel, contravariant=True)


class JobGoneError(RefusedError):
    """No such work is known any more."""

    code = "job_gone"
    status = 404


class JobOut(BaseModel, Generic[Kind, Progress, Found]):
    """How far a job has come, and what it has found.

    `place` is its place in the queue, 1 for the next; none once it runs. `found` is the best so far while it runs
    and the result when it has ended.
    """

    id: UUID
    kind: Kind
    state: State
    place: int | None
    progress: Progress
    found: Found | None
    problem: Problem | None


class ProgressSink(Protocol[Tells, Finds]):
    """Who hears how far the work is, and says whether to go on: a job."""

    def is_due(self) -> bool:
        """Whether it is time to report again."""

    def should_continue(self) -> bool:
        """Whether to go on: nobody stopped it, and somebody listens."""

    def report(self, progress: Tells, found: Finds | None = None) -> bool:
        """Say how far it is and, where there is something new, what it has found; gives whether to go on."""


@dataclass(frozen=True, slots=True)
class Plan(Generic[Progress, Found]):
    """Work that was checked as far as it can be before it begins.

    `work` reports to what it is given; `out` is how it travels; `start` is how far it is before its first word;
    `waits` says whether it computes and therefore queues.
    """

    kind: str
    work: Callable[[ProgressSink[Progress, Found]], None]
    out: type[JobOut[Any, Progress, Found]]
    start: Progress
    waits: bool = True


class Job(Generic[Progress, Found]):
    """One piece of work in a thread of its own."""

    def __init__(self, plan: Plan[Progress, Found], abandoned_s: float | None = None) -> None:
        self.id = uuid4()
        self.kind = plan.kind
        self.waits = plan.waits
        self.state: State = "queued"
        self.place: int | None = None
        self.progress = plan.start
        self.found: Found | None = None
        self.problem: Problem | None = None
        self.ended_at: float | None = None
        self._plan = plan
        self._abandoned_s = ABANDONED_S if abandoned_s is None else abandoned_s
        self._heard_at = time.monotonic()
        self._reported_at = 0.0
        self._listeners: set[tuple[asyncio.AbstractEventLoop, asyncio.Event]] = set()
        self._stop = False
        self._lock = threading.Lock()

    def start(self, ended: Callable[[], None] = lambda: None) -> None:
        """Let it run; `ended` is called when it is through."""
        self.state, self.place = "running", None
        threading.Thread(target=self._run, args=(ended,), daemon=True, name=f"job {self.id}").start()
        self._wake()

    def _run(self, ended: Callable[[], None]) -> None:
        try:
            if self.waits:
                os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICE)
            self._plan.work(self)
            self._end("done" if self.should_continue() else "stopped")
        except RefusedError as error:
            self.problem = problem_of(error)
            self._end("failed")
        except Exception:
            self.problem = Problem(
                title="Failed", status=500, code="failed", detail="something went wrong here; start again"
            )
            self._end("failed")
            raise
        finally:
            ended()

    def _end(self, state: State) -> None:
        self.state, self.place, self.ended_at = state, None, time.monotonic()
        self._wake()

    def report(self, progress: Progress, found: Found | None = None) -> bool:
        """Say how far it is and what it has found; gives whether to go on."""
        self.progress = progress
        self.found = self.found if found is None else found
        self._reported_at = time.monotonic()
        self._wake()
        return self.should_continue()

    def is_due(self) -> bool:
        """Whether it is time to report again."""
        return time.monotonic() - self._reported_at >= REPORT_EVERY_S

    def should_continue(self) -> bool:
        """Whether to go on: nobody stopped it, and somebody listens."""
        return not self._stop and not self.is_abandoned()

    def is_abandoned(self) -> bool:
        """Whether nobody has listened for too long."""
        with self._lock:
            if self._listeners:
                self._heard_at = time.monotonic()
        return time.monotonic() - self._heard_at > self._abandoned_s

    def hear(self) -> None:
        """Somebody asks how far it is: that counts as listening."""
        self._heard_at = time.monotonic()

    def stop(self) -> None:
        """Ask it to end after what it is at; what waits for its turn ends at once."""
        self._stop = True
        if self.state == "queued":
            self._end("stopped")

    def moved_to(self, place: int) -> None:
        """Say which place in the queue it has now."""
        if place != self.place:
            self.place = place
            self._wake()

    def _wake(self) -> None:
        with self._lock:
            listeners = list(self._listeners)
        for loop, event in listeners:
            loop.call_soon_threadsafe(event.set)

    def out(self) -> JobOut[Any, Progress, Found]:
        """As it travels."""
        return self._plan.out.model_construct(
            id=self.id,
            kind=self.kind,
            state=self.state,
            place=self.place,
            progress=self.progress,
            found=self.found,
            problem=self.problem,
        )

    async def updates(self, closing: Callable[[], bool]) -> AsyncIterator[JobOut[Any, Progress, Found]]:
        """Each newest state until it ends; what came while the listener was busy is left out."""
        event = asyncio.Event()
        listener = (asyncio.get_running_loop(), event)
        with self._lock:
            self._listeners.add(listener)
        try:
            while True:
                event.clear()
                newest = self.out()
                yield newest
                if newest.state not in ACTIVE or closing():
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
                self._listeners.discard(listener)


AnyJob = Job[BaseModel, BaseModel]


class Jobs:
    """The jobs of this process, and their queue."""

    def __init__(self) -> None:
        self._jobs: dict[UUID, AnyJob] = {}
        self._lock = threading.RLock()

    def add(self, plan: Plan[Progress, Found]) -> AnyJob:
        """Begin one, or line it up; those that ended long ago are forgotten."""
        job: AnyJob = Job(plan)  # type: ignore[arg-type]
        with self._lock:
            now = time.monotonic()
            for key, other in list(self._jobs.items()):
                if other.ended_at is not None and now - other.ended_at > KEPT_S:
                    del self._jobs[key]
            self._jobs[job.id] = job
            if not job.waits:
                job.start()
        self.advance()
        return job

    def advance(self) -> None:
        """Let the next ones begin where there is room, and tell the others their places."""
        with self._lock:
            computing = [job for job in self._jobs.values() if job.waits]
            room = AT_ONCE - sum(job.state == "running" for job in computing)
            queue = [job for job in computing if job.state == "queued"]
            for job in [job for job in queue if job.is_abandoned()]:
                job.stop()
                queue.remove(job)
            for job in queue[: max(room, 0)]:
                job.start(self.advance)
            for place, job in enumerate(queue[max(room, 0) :], start=1):
                job.moved_to(place)

    def stop(self, job_id: UUID) -> AnyJob:
        """Ask one to end; those behind it move up."""
        job = self.one(job_id)
        job.stop()
        self.advance()
        return job

    def one(self, job_id: UUID) -> AnyJob:
        """A job.

        Raises:
            JobGoneError: it is not known any more.
        """
        job = self._jobs.get(job_id)
        if job is None:
            raise JobGoneError("this work is not known any more; start it again", field="job_id")
        return job

    def heard(self, job_id: UUID) -> AnyJob:
        """A job somebody asks after, and which therefore goes on.

        Raises:
            JobGoneError: it is not known any more.
        """
        job = self.one(job_id)
        job.hear()
        return job
