"""Several processes and machines on one database: one analyser, one line of work, nothing lost when one dies."""

import contextlib
import json
import os
import random
import re
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path

import httpx
import psutil
import pytest
from client_helpers import TWELVE, bare, coil_of, connected, made_build, made_design, screwed_on, told, turned
from patience import PATIENCE_S
from sqlalchemy import create_engine, text

from yielding_coil.store.migrate import migrate, newest_shape
from yielding_coil.store.server import PrivateServer

TOP = Path(__file__).parents[1]

pytestmark = pytest.mark.deep

KILLS = 200
VICTIMS = ("pages", "database", "hub", "pages", "all", "pages", "database", "pages", "hub", "pages")


def parts_of(process):
    """The processes that were begun: the hub first, then those that answer pages."""
    begun = [p for p in psutil.Process(process.pid).children() if "yielding_coil.part" in " ".join(p.cmdline())]
    return sorted((p.pid for p in begun), key=lambda pid: psutil.Process(pid).create_time())


def up(client):
    """Wait until it answers and is ready."""
    until = time.monotonic() + PATIENCE_S
    while time.monotonic() < until:
        with contextlib.suppress(httpx.HTTPError):
            if client.get("/api/ready").status_code == 200 and client.get("/api/analyser").status_code == 200:
                return
        time.sleep(0.05)
    raise AssertionError("it does not come up")


@pytest.fixture(scope="module")
def two(start_once):
    """The application in two processes, a hub beside them, and a script."""
    process, address = start_once("--workers", "2", "--no-demo")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        up(client)
        yield process, client


def asked(client, build):
    answer = client.post("/api/jobs", json={"kind": "search", "content": bare(build)})
    assert answer.status_code == 202, answer.text
    return answer.json()


def found_some(client, job):
    """What a search told until it had found something."""
    states = []
    with client.stream("GET", f"/api/jobs/{job['id']}/events", timeout=PATIENCE_S) as stream:
        for line in stream.iter_lines():
            if line.startswith("data:"):
                states.append(json.loads(line[5:]))
                found = states[-1]["found"]
                if found and (found["ideals"] or found["front"]):
                    return states
    raise AssertionError(states[-1])


def test_one_analyser_is_asked_through_any_of_them(two):
    process, client = two
    connected(client)
    screwed_on(client, "load")
    swept = []

    def sweep():
        with httpx.Client(base_url=client.base_url, timeout=PATIENCE_S) as own:
            job = {"kind": "sweep", "low_hz": 14e6, "high_hz": 15e6, "points": 101, "passes": 2}
            begun = own.post("/api/jobs", json=job)
            swept.append(begun.status_code if begun.status_code != 202 else told(own, begun.json()["id"])[-1])

    sweep()
    several = [threading.Thread(target=sweep) for _ in range(3)]
    for one in several:
        one.start()
    for one in several:
        one.join()

    assert len(parts_of(process)) == 3
    assert swept[0]["state"] == "done"
    assert len(swept[0]["found"]["curves"]["frequency_hz"]) == 101
    # One at a time, whichever process was asked: the others were told so, at once or when their turn came.
    ends = [409 if s == 409 else s["state"] if s["problem"] is None else s["problem"]["code"] for s in swept[1:]]
    assert set(ends) <= {"done", 409, "analyser_busy"}
    assert "done" in ends
    assert client.get("/api/jobs/00000000-0000-4000-8000-000000000000").json()["code"] == "job_gone"
    large = client.post("/api/jobs", content=b'{"kind": "sweep", "x": "' + b"x" * (1 << 20) + b'"}')
    assert (large.status_code, large.json()["code"]) == (413, "too_large")
    archive = client.get("/api/archives", params={"token": "a"})
    assert archive.content[:2] == b"PK"
    assert client.get("/api/archives/progress", params={"token": "a"}).status_code in (200, 404)


def test_a_search_is_followed_and_stopped_through_any_of_them(two):
    _, client = two
    build = made_build(client)
    job = asked(client, build)
    states = found_some(client, job)
    stopped = client.delete(f"/api/jobs/{job['id']}").json()

    assert [s["state"] for s in states][-1] == "running"
    assert stopped["state"] == "stopped"
    assert stopped["found"]["ideals"] or stopped["found"]["front"]
    assert client.get(f"/api/jobs/{job['id']}").json() == stopped
    assert client.post("/api/jobs", json={"kind": "search", "content": {}}).status_code == 422


def test_a_search_whose_process_dies_is_said_to_be_lost_and_the_next_one_works(two):
    process, client = two
    build = made_build(client)
    job = asked(client, build)
    while client.get(f"/api/jobs/{job['id']}").json()["state"] == "queued":
        time.sleep(0.02)
    os.kill(parts_of(process)[0], signal.SIGKILL)
    lost = told(client, job["id"])[-1]
    up(client)

    assert (lost["state"], lost["problem"]["code"]) == ("failed", "search_lost")
    job = asked(client, build)
    assert found_some(client, job)[-1]["state"] == "running"
    client.delete(f"/api/jobs/{job['id']}")


def test_what_happens_is_written_as_lines_without_what_was_said(folder, start):
    process, address = start("--no-demo", "--json-logs")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        up(client)
        client.get("/api/builds", params={"secret": "KXR4-92MP"})
        client.get("/api/builds/nothing")
    process.terminate()
    lines = [json.loads(line) for line in process.stdout.read().splitlines() if line.startswith("{")]
    found = [line for line in lines if line["from"] == "yielding_coil.requests" and line["path"] == "/api/builds"]

    assert found[0] | {"at": "", "pid": 0, "ms": 0} == {
        "at": "",
        "level": "info",
        "pid": 0,
        "from": "yielding_coil.requests",
        "method": "GET",
        "path": "/api/builds",
        "status": 200,
        "ms": 0,
        "who": "here",
    }
    assert "KXR4" not in json.dumps(lines)


class Saver:
    """A page that saves as fast as it can, and remembers what was acknowledged."""

    def __init__(self, design):
        self.design, self.edited, self.acknowledged, self.number = design, 1, {}, 0

    def save(self, client):
        self.number += 1
        value = (1000 + self.number) * 1e-9
        body = {"edited": self.edited, "content": turned(self.design, value)}
        answer = client.post(f"/api/designs/{self.design['id']}/revisions", json=body)
        if answer.status_code == 409:
            self.edited = answer.json()["newest_number"]
        elif answer.status_code == 201:
            self.edited = answer.json()["number"]
            self.acknowledged[self.edited] = value
        else:
            assert answer.status_code == 503, answer.text


def strike(victim, process, folder, rng):
    """Kill one of them without a word; whether the whole has to be begun anew."""
    with contextlib.suppress(ProcessLookupError, psutil.NoSuchProcess, IndexError, TypeError):
        if victim == "database":
            os.kill(PrivateServer(folder)._running(), signal.SIGKILL)
        elif victim == "all":
            process.kill()
        else:
            hub, *pages = parts_of(process)
            os.kill(hub if victim == "hub" else rng.choice(pages), signal.SIGKILL)
    return victim == "all"


@pytest.mark.trial
def test_any_of_them_is_killed_amid_saves_and_nothing_acknowledged_is_lost(folder, start, trials):
    """200 times by ./test --trials, 5 by --deep; fsync is on, two pages save at once through two processes."""
    rng = random.Random(25)
    process, address = start("--no-demo", "--workers", "2")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        up(client)
        savers = [Saver(made_design(client, made_build(client))) for _ in range(2)]
    going, where = threading.Event(), {"address": address}
    going.set()

    def save(saver):
        while going.is_set():
            with (
                contextlib.suppress(httpx.HTTPError),
                httpx.Client(base_url=where["address"], timeout=10) as client,
            ):
                while going.is_set():
                    saver.save(client)
            time.sleep(0.02)

    pages = [threading.Thread(target=save, args=(saver,)) for saver in savers]
    for page in pages:
        page.start()
    struck = {}
    try:
        for n in range(KILLS if trials.whole else 5):
            before = [len(s.acknowledged) for s in savers]
            victim = ("pages", "hub", "pages", "database", "pages", "pages", "database", "pages", "hub", "all")[
                n % 10
            ]
            struck[victim] = struck.get(victim, 0) + 1
            if strike(victim, process, folder, rng):
                process.wait(PATIENCE_S)
                process, where["address"] = start("--no-demo", "--workers", "2")
            # Both go on saving before the next one dies.
            until = time.monotonic() + PATIENCE_S
            while any(len(s.acknowledged) <= k for s, k in zip(savers, before, strict=True)):
                assert time.monotonic() < until, f"nothing was saved any more after {victim} was killed"
                time.sleep(0.02)
    finally:
        going.clear()
        for page in pages:
            page.join()
    with httpx.Client(base_url=where["address"], timeout=PATIENCE_S) as client:
        up(client)
        for saver in savers:
            for number, value in saver.acknowledged.items():
                kept = client.get(f"/api/designs/{saver.design['id']}/revisions/{number}").json()
                assert coil_of(kept) == value
    trials.figures.append(
        f"killed amid saves through two processes: {struck}; {sum(len(s.acknowledged) for s in savers)} "
        "acknowledged, 0 lost"
    )


@pytest.fixture
def given(server):
    """An existing database that somebody else looks after, by its address."""
    admin = create_engine(server.url("postgres"), isolation_level="AUTOCOMMIT")
    with admin.connect() as connection:
        connection.execute(text("CREATE DATABASE of_the_club"))
    yield server.url("of_the_club").set(drivername="postgresql").render_as_string(hide_password=False)
    with admin.connect() as connection:
        connection.execute(text("DROP DATABASE of_the_club WITH (FORCE)"))
    admin.dispose()


def served_on(folder, given, *options):
    begun = [sys.executable, "-m", "yielding_coil.serve", "--port", "0", "--data", str(folder), "--no-demo"]
    return subprocess.Popen(
        [*begun, "--database", given, *options],
        cwd=TOP,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
    )


def test_another_machine_takes_work_from_an_existing_database(folder, given):
    process = served_on(folder, given)
    where = re.search(r"http://\S+/", process.stdout.readline())[0]
    # The password is nobody's to read over a shoulder.
    assert "***" in process.stdout.readline()
    worker = subprocess.Popen(
        [sys.executable, "-m", "yielding_coil.work", "--database", given],
        cwd=TOP,
        stdout=subprocess.PIPE,
        text=True,
    )
    try:
        assert "Taking work from" in worker.stdout.readline()
        with httpx.Client(base_url=where, timeout=PATIENCE_S) as client:
            up(client)
            build = made_build(client)
            # Three at once: more than one machine takes.
            jobs = [asked(client, build) for _ in range(3)]
            until = time.monotonic() + PATIENCE_S
            while [client.get(f"/api/jobs/{job['id']}").json()["state"] for job in jobs] != ["running"] * 3:
                assert time.monotonic() < until
                time.sleep(0.05)
            for job in jobs:
                client.delete(f"/api/jobs/{job['id']}")
    finally:
        for each in (worker, process):
            each.terminate()
            assert each.wait(20) == 0
            each.stdout.close()


def test_an_existing_database_is_brought_to_a_new_shape_only_when_its_owner_says_so(folder, given):
    engine = create_engine(given.replace("postgresql:", "postgresql+psycopg:"))
    migrate(engine)
    with engine.begin() as connection:
        connection.execute(text("UPDATE alembic_version SET version_num = '0008'"))
        connection.execute(text("DROP TABLE jobs"))
    refused = served_on(folder, given)
    said = refused.stdout.read()
    assert refused.wait(30) == 1
    assert "of an older version (tables 0008" in said
    assert "start once with --migrate" in said
    process = served_on(folder, given, "--migrate")
    assert "http://" in process.stdout.readline()
    process.terminate()
    assert process.wait(PATIENCE_S) == 0
    for each in (process, refused):
        each.stdout.close()
    with engine.connect() as connection:
        assert connection.execute(text("SELECT version_num FROM alembic_version")).scalar() == newest_shape()
    engine.dispose()
    worker = subprocess.run(
        [sys.executable, "-m", "yielding_coil.work", "--database", "postgresql://nobody@127.0.0.1:1/x"],
        cwd=TOP,
        capture_output=True,
        text=True,
        timeout=PATIENCE_S,
    )
    assert worker.returncode == 1
    assert "The database does not answer" in worker.stderr


def test_ready_says_when_it_is_not(client):
    assert client.get("/api/ready").status_code == 200
    assert client.post("/api/builds", json={"name": "x", "targets": [TWELVE]}).status_code == 201
