"""Saves that were acknowledged survive the end of the application and of its database, however sudden."""

import contextlib
import os
import signal
import subprocess
import sys
import threading
import time

import httpx
import psutil
import pytest
from client_helpers import coil_of, made_build, made_design, turned
from patience import PATIENCE_S

from yielding_coil.store.server import PrivateServer

pytestmark = pytest.mark.deep

KILLS = 10
SAVES = 200


def kill(pid):
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGKILL)


class Saver:
    """A page that saves as fast as it can, and remembers what was acknowledged."""

    def __init__(self, design):
        self.design, self.edited, self.acknowledged = design, 1, {}

    def save(self, client):
        """One try; whether it was acknowledged."""
        value = (1000 + len(self.acknowledged)) * 1e-9
        body = {"edited": self.edited, "content": turned(self.design, value)}
        answer = client.post(f"/api/designs/{self.design['id']}/revisions", json=body)
        if answer.status_code == 409:
            # Kept, though its acknowledgement was lost: not one of those that were promised.
            self.edited = answer.json()["newest_number"]
            return False
        if answer.status_code == 503:
            time.sleep(0.05)  # the application is bringing the database back
            return False
        assert answer.status_code == 201, answer.text
        self.edited = answer.json()["number"]
        self.acknowledged[self.edited] = value
        return True


@pytest.mark.trial
def test_ten_kills_during_two_hundred_acknowledged_saves(folder, start, trials):
    """fsync is on, as everywhere outside the tests. Application, database, or both are killed amid the saving.

    Each of the three once, or ten in all by ./test --trials.
    """
    kills, saves = (KILLS, SAVES) if trials.whole else (3, 3 * SAVES // KILLS)
    process, address = start("--no-demo")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        saver = Saver(made_design(client, made_build(client)))
    for n in range(kills):
        victims = ("application", "database", "both")[n % 3]
        strike = threading.Timer(0.2 + 0.03 * n, end_of, (victims, process, folder))
        strike.start()
        after = 0
        with httpx.Client(base_url=address, timeout=PATIENCE_S) as client, contextlib.suppress(httpx.HTTPError):
            while after < saves // kills:
                after += saver.save(client) and not strike.is_alive()
        strike.join()
        if victims != "database":
            process.wait(timeout=PATIENCE_S)
            process, address = start("--no-demo")  # and the next start needs no hand
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        while len(saver.acknowledged) < saves:
            saver.save(client)
        found = {
            number: coil_of(client.get(f"/api/designs/{saver.design['id']}/revisions/{number}").json())
            for number in saver.acknowledged
        }

    assert found == saver.acknowledged
    assert len(found) >= saves


def end_of(victims, process, folder):
    """Kill without a word, once there is a database to be killed."""
    server = PrivateServer(folder)
    until = time.monotonic() + PATIENCE_S
    while (head := server._running()) is None and time.monotonic() < until:
        time.sleep(0.02)
    if victims != "application":
        kill(head)
    if victims != "database":
        kill(process.pid)


def test_the_database_stopped_under_the_application_says_so_and_comes_back(folder, start):
    _, address = start("--no-demo")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        build = made_build(client)
        head = PrivateServer(folder)._running()
        kill(head)
        # The last one may still have been answered by what the dead one left; the next is not.
        answers = [client.get("/api/builds")]
        until = time.monotonic() + PATIENCE_S
        while answers[-1].status_code != 200 or PrivateServer(folder)._running() in (None, head):
            assert time.monotonic() < until
            answers.append(client.get("/api/builds"))
        gone = [answer.json() for answer in answers if answer.status_code != 200]

        assert {each["code"] for each in gone} == {"database_gone"}
        assert "being started again" in gone[0]["detail"]
        assert [b["id"] for b in answers[-1].json()] == [build["id"]]
        assert client.get("/api/health").status_code == 200


def test_a_data_folder_is_not_shared(folder, start):
    start("--no-demo")
    again = subprocess.run(
        [sys.executable, "-m", "yielding_coil.serve", "--port", "0", "--data", str(folder)],
        capture_output=True,
        text=True,
        timeout=PATIENCE_S,
        check=False,
    )

    assert again.returncode != 0
    assert "already runs on the data" in again.stderr


def test_a_request_that_hangs_on_what_a_dead_database_left_is_let_go(folder, start):
    """A process of it that is stopped never answers and never ends by itself: it is ended, the next one serves."""
    _, address = start("--no-demo")
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        build = made_build(client)
        head = PrivateServer(folder)._running()
        held = [p.pid for p in psutil.Process(head).children() if "yielding_coil" in " ".join(p.cmdline())]
        for pid in held:
            os.kill(pid, signal.SIGSTOP)
        kill(head)
        first = client.get("/api/builds").status_code
        until = time.monotonic() + PATIENCE_S
        while (answer := client.get("/api/builds")).status_code != 200:
            assert time.monotonic() < until
            time.sleep(0.1)

        assert held
        assert first in (200, 503)
        assert [b["id"] for b in answer.json()] == [build["id"]]
