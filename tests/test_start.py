"""The application as a process: started, stopped, killed, started again."""

import os
import signal
import subprocess
import sys
from pathlib import Path

import httpx
import pytest
from client_helpers import DEMO_BUILDS
from patience import PATIENCE_S

from yielding_coil.store.server import PrivateServer

TOP = Path(__file__).parents[1]

pytestmark = pytest.mark.deep


def end(process, how):
    process.send_signal(how)
    process.wait(timeout=PATIENCE_S)


def shelf(address):
    return [build["name"] for build in httpx.get(f"{address}api/builds", timeout=PATIENCE_S).json()]


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGINT])
def test_it_ends_with_its_database_and_keeps_what_was_there(folder, start, how):
    process, address = start()
    first = shelf(address)
    end(process, how)

    assert process.returncode == 0
    assert PrivateServer(folder)._running() is None
    process, address = start()
    assert sorted(shelf(address)) == sorted(first) == DEMO_BUILDS
    end(process, signal.SIGTERM)


def test_kill_9_of_both_leaves_nothing_that_the_next_start_cannot_deal_with(folder, start):
    process, address = start()
    data = (TOP / "yielding_coil" / "demo" / "allotment-feedpoint.s1p").read_bytes()
    sweep = httpx.post(f"{address}api/sweeps", params={"name": "mine.s1p"}, content=data, timeout=PATIENCE_S).json()
    httpx.post(
        f"{address}api/builds", json={"name": "Mine", "sweep_id": sweep["id"]}, timeout=PATIENCE_S
    ).raise_for_status()
    end(process, signal.SIGKILL)
    assert PrivateServer(folder)._running() is not None  # the orphan

    process, address = start("--fresh-demo")
    assert sorted(shelf(address)) == sorted([*DEMO_BUILDS, "Mine"])
    os.kill(PrivateServer(folder)._running(), signal.SIGKILL)
    end(process, signal.SIGKILL)
    process, address = start()
    assert sorted(shelf(address)) == sorted([*DEMO_BUILDS, "Mine"])
    end(process, signal.SIGTERM)


def test_no_demo_and_a_second_start_on_the_same_data(folder, start):
    process, address = start("--no-demo")
    assert shelf(address) == []

    second = subprocess.run(
        [sys.executable, "-m", "yielding_coil.serve", "--port", "0", "--data", str(folder)],
        cwd=TOP,
        capture_output=True,
        text=True,
        timeout=PATIENCE_S,
    )
    assert second.returncode == 1
    assert "already runs on the data in" in second.stderr
    assert shelf(address) == []
    end(process, signal.SIGTERM)


def test_a_taken_port_is_said(folder, start):
    process, address = start("--no-demo")
    port = address.rstrip("/").rsplit(":", 1)[1]
    other = folder.with_name("other")
    second = subprocess.run(
        [sys.executable, "-m", "yielding_coil.serve", "--port", port, "--data", str(other)],
        cwd=TOP,
        capture_output=True,
        text=True,
        timeout=PATIENCE_S,
    )
    assert f"Port {port} is taken. Choose another one: ./start --port {int(port) + 1}" in second.stderr
    end(process, signal.SIGTERM)
