"""A job by itself: told of, stopped, failed, forgotten; away from any analyser."""

import asyncio
import threading
import time

import pytest

from yielding_coil.api import jobs
from yielding_coil.api.jobs import Job, JobGoneError, Jobs
from yielding_coil.api.sweeping import Progress
from yielding_coil.core.errors import OutOfDomainError


def ended(job):
    until = time.monotonic() + 10
    while job.state == "running" and time.monotonic() < until:
        time.sleep(0.002)
    return job.state


def listened(job, closing=lambda: False):
    async def listen():
        return [state.progress.passes async for state in job.told(closing)]

    return asyncio.run(listen())


def test_a_listener_hears_the_newest_and_the_last():
    go = threading.Event()

    def work(job):
        go.wait(5)
        for passes in range(1, 6):
            job.tell(Progress.of(passes))

    job = Job(work)
    threading.Timer(0.05, go.set).start()
    heard = listened(job)
    assert heard[0] == 0
    assert heard[-1] == 5
    assert heard == sorted(heard)
    assert job.state == "done"


def test_a_listener_of_a_job_that_ended_hears_its_end_at_once():
    job = Job(lambda job: job.tell(Progress.of(3)) and None)
    assert ended(job) == "done"
    assert listened(job) == [3]


def test_a_stopped_job_is_told_so_and_ends():
    def work(job):
        while job.tell(Progress.of(1)):
            time.sleep(0.001)

    job = Job(work)
    job.stop()
    assert ended(job) == "stopped"


def test_a_refusal_is_the_visitors_and_anything_else_is_ours(monkeypatch):
    def refuses(job):
        raise OutOfDomainError("points", 0, "one or more")

    job = Job(refuses)
    assert ended(job) == "failed"
    assert (job.problem.code, job.problem.field) == ("out_of_domain", "points")

    monkeypatch.setattr(threading, "excepthook", lambda args: None)  # the trace of what is ours goes to the log

    def breaks(job):
        raise ZeroDivisionError

    job = Job(breaks)
    assert ended(job) == "failed"
    assert (job.problem.code, job.problem.status) == ("failed", 500)


def test_streams_end_when_the_server_closes():
    release = threading.Event()
    job = Job(lambda job: release.wait(10) and None)
    assert listened(job, closing=lambda: True) == [0]
    release.set()
    assert ended(job) == "done"


def test_telling_is_due_only_so_often(monkeypatch):
    monkeypatch.setattr(jobs, "TOLD_EVERY_S", 1000.0)
    release = threading.Event()
    job = Job(lambda job: release.wait(10) and None)
    assert job.due() == (time.monotonic() >= 1000.0)
    job.tell(Progress.of(1))
    assert not job.due()
    assert job.wanted()
    release.set()
    ended(job)


def test_old_ones_are_forgotten_and_unknown_ones_refused(monkeypatch):
    kept = Jobs()
    first = kept.add(lambda job: None)
    ended(first)
    assert kept.one(first.id) is first
    monkeypatch.setattr(jobs, "KEPT_S", -1.0)
    ended(kept.add(lambda job: None))
    with pytest.raises(JobGoneError, match="not known any more; start it again"):
        kept.one(first.id)
