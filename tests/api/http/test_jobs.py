"""A job by itself: told of, stopped, failed, queued, forgotten; of a made-up kind, away from any analyser."""

import asyncio
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from types import SimpleNamespace
from typing import Literal

import pytest
from patience import PATIENCE_S
from pydantic import BaseModel

from yielding_coil.api.http import jobs
from yielding_coil.api.http.jobs import ACTIVE, Job, JobGoneError, JobOut, Jobs, Plan
from yielding_coil.core.errors import OutOfDomainError


class Tried(BaseModel):
    """How far a search of made-up numbers is."""

    tried: int = 0
    of: int = 5


class Best(BaseModel):
    """The least number so far."""

    least: float


class SearchJob(JobOut[Literal["search"], Tried, Best]):
    """How far such a search has come."""


def plan(work, **more):
    return Plan("search", work, SearchJob, Tried(), **more)


def started(work, **more):
    job = Job(plan(work, **more))
    job.start()
    return job


def ended(job):
    until = time.monotonic() + PATIENCE_S
    while job.state in ACTIVE and time.monotonic() < until:
        time.sleep(0.002)
    return job.state


def listened(job, closing=lambda: False):
    async def listen():
        return [(state.progress.tried, state.place) async for state in job.updates(closing)]

    # In a thread of its own: a browser's tests, run by the same process before, leave a loop running in the first.
    with ThreadPoolExecutor(1) as beside:
        return beside.submit(asyncio.run, listen()).result()


def heard(job, **more):
    return [tried for tried, _ in listened(job, **more)]


def test_a_listener_hears_the_newest_and_the_last():
    go = threading.Event()

    def work(job):
        go.wait(5)
        for tried in range(1, 6):
            job.report(Tried(tried=tried))

    job = started(work)
    threading.Timer(0.05, go.set).start()
    told = heard(job)
    assert told[0] == 0
    assert told[-1] == 5
    assert told == sorted(told)
    assert job.state == "done"


def test_a_listener_of_a_job_that_ended_hears_its_end_at_once():
    job = started(lambda job: job.report(Tried(tried=3)) and None)
    assert ended(job) == "done"
    assert heard(job) == [3]


def test_the_best_so_far_stays_while_nothing_better_comes():
    def work(job):
        for tried, least in enumerate((4.0, None, 2.0, None), start=1):
            job.report(Tried(tried=tried), None if least is None else Best(least=least))

    job = started(work)

    assert ended(job) == "done"
    assert (job.out().kind, job.out().progress.tried, job.out().found.least) == ("search", 4, 2.0)


def test_a_stopped_job_is_told_so_and_keeps_what_it_found():
    def work(job):
        while job.report(Tried(tried=1), Best(least=1.0)):
            time.sleep(0.001)

    job = started(work)
    while job.found is None:
        time.sleep(0.001)
    job.stop()
    assert ended(job) == "stopped"
    assert job.out().found.least == 1.0


def test_a_refusal_is_the_visitors_and_anything_else_is_ours(monkeypatch):
    def refuses(job):
        raise OutOfDomainError("points", 0, "one or more")

    job = started(refuses)
    assert ended(job) == "failed"
    assert (job.problem.code, job.problem.field) == ("out_of_domain", "points")

    monkeypatch.setattr(threading, "excepthook", lambda args: None)  # the trace of what is ours goes to the log

    def breaks(job):
        raise ZeroDivisionError

    job = started(breaks)
    assert ended(job) == "failed"
    assert (job.problem.code, job.problem.status) == ("failed", 500)


def test_streams_end_when_the_server_closes():
    release = threading.Event()
    job = started(lambda job: release.wait(10) and None)
    assert heard(job, closing=lambda: True) == [0]
    release.set()
    assert ended(job) == "done"


def test_reporting_is_due_only_so_often(monkeypatch):
    monkeypatch.setattr(jobs, "REPORT_EVERY_S", 1000.0)
    release = threading.Event()
    job = started(lambda job: release.wait(10) and None)
    assert job.is_due() == (time.monotonic() >= 1000.0)
    job.report(Tried(tried=1))
    assert not job.is_due()
    assert job.should_continue()
    release.set()
    ended(job)


class TestQueue:
    @pytest.fixture
    def release(self):
        """Lets every work of the test end."""
        event = threading.Event()
        yield event
        event.set()

    def lined_up(self, release, count):
        kept = Jobs()
        return kept, [kept.add(plan(lambda job: release.wait(10) and None)) for _ in range(count)]

    def test_two_compute_and_the_others_know_their_place(self, release):
        _, found = self.lined_up(release, 5)

        assert [job.out().state for job in found] == ["running"] * 2 + ["queued"] * 3
        assert [job.out().place for job in found] == [None, None, 1, 2, 3]
        release.set()
        assert [ended(job) for job in found] == ["done"] * 5

    def test_one_that_stops_lets_the_others_move_up(self, release):
        kept, found = self.lined_up(release, 5)
        kept.stop(found[2].id)

        assert [job.out().place for job in found] == [None, None, None, 1, 2]
        assert found[2].out().state == "stopped"
        assert found[2].ended_at is not None

    def test_a_listener_hears_its_place_and_then_the_work(self, release):
        _, found = self.lined_up(release, 3)
        threading.Timer(0.05, release.set).start()
        told = listened(found[2])

        assert told[0] == (0, 1)
        assert told[-1] == (0, None)
        assert found[2].state == "done"

    def test_what_waits_for_an_instrument_does_not_queue(self, release):
        kept, _ = self.lined_up(release, 4)
        sweep = kept.add(plan(lambda job: job.report(Tried(tried=1)) and None, waits=False))

        assert ended(sweep) == "done"

    def test_what_nobody_waits_for_gives_its_place_up(self, release, monkeypatch):
        monkeypatch.setattr(jobs, "ABANDONED_S", 0.0)
        kept, found = self.lined_up(release, 3)
        kept.advance()

        assert found[2].state == "stopped"

    def test_what_computes_gives_way_to_whoever_waits_for_an_answer(self):
        seen = []

        def work(job):
            import os

            seen.append(os.getpriority(os.PRIO_PROCESS, threading.get_native_id()))

        ended(started(work))
        ended(started(work, waits=False))
        assert seen[0] == seen[1] + jobs.NICE


def test_who_asks_after_it_keeps_it_going_as_who_follows_it_does(monkeypatch):
    now = [0.0]
    monkeypatch.setattr(jobs, "time", SimpleNamespace(monotonic=lambda: now[0]))
    release = threading.Event()
    kept = Jobs()
    job = kept.add(plan(lambda job: release.wait(10) and None))
    goes_on = []
    for now[0] in (9.0, 18.0, 27.0):
        kept.heard(job.id)
        goes_on.append(job.should_continue())
    for now[0] in (36.0, 38.0):
        kept.one(job.id)  # looked at here, asked after by nobody
        goes_on.append(job.should_continue())
    release.set()

    assert goes_on == [True, True, True, True, False]


def test_old_ones_are_forgotten_and_unknown_ones_refused(monkeypatch):
    kept = Jobs()
    first = kept.add(plan(lambda job: None))
    ended(first)
    assert kept.one(first.id) is first
    monkeypatch.setattr(jobs, "KEPT_S", -1.0)
    ended(kept.add(plan(lambda job: None)))
    with pytest.raises(JobGoneError, match="not known any more; start it again"):
        kept.one(first.id)
