"""How it holds up: a slow phone on a thin network, two processes beside one, many phones, memory over a day."""

import contextlib
import json
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx
import numpy as np
import psutil
from figures import gate, show
from playwright.sync_api import Page

TOP = Path(__file__).resolve().parents[1]
TWELVE = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 1.5}
# A thin network: 1.6 Mbit/s down, 0.75 Mbit/s up, 40 ms to an answer.
THIN = {"offline": False, "latency": 40, "downloadThroughput": 1.6e6 / 8, "uploadThroughput": 0.75e6 / 8}
WORDS = ("trim", "outdoors", "log", "build")
WHOLE = {"offline": False, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
DESKS = ("wire", "sweep", "match", "wind", "predict", "build", "trim", "outdoors", "log")


def slow_phone(page: Page, address: str) -> None:
    """Each page in an empty browser, the processor slowed four times: until its first picture stands."""
    builds = httpx.get(f"{address}/api/builds", timeout=60).json()
    ids = {b["name"]: b["id"] for b in builds}
    told = page.context.new_cdp_session(page)
    told.send("Network.enable")
    told.send("Emulation.setCPUThrottlingRate", {"rate": 4})
    told.send("Network.emulateNetworkConditions", THIN)
    times = {}
    for desk in ("", *DESKS):
        told.send("Network.clearBrowserCache")
        page.goto("about:blank")
        begun = time.perf_counter()
        build = ids["Allotment long vertical" if desk in ("sweep", "match") else "Orchard end-fed"]
        page.goto(f"{address}/builds/{build}/{desk}" if desk else address, wait_until="commit")
        # A picture of the page itself, or what stands there in its place: a number to act by.
        drawn = page.locator("svg:not(header svg):visible" if desk not in WORDS else "h1:visible, h2:visible")
        drawn.first.wait_for(timeout=60_000)
        times[desk or "shelf"] = time.perf_counter() - begun
        with contextlib.suppress(Exception):
            page.locator("html[data-settled=true]").wait_for(state="attached", timeout=20_000)
    told.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    told.send("Network.emulateNetworkConditions", WHOLE)
    told.detach()
    desks = {name: seconds for name, seconds in times.items() if name != "shelf"}
    show("shelf on a slow phone and a thin network", f"first picture {times['shelf']:.1f} s, wanted 3 s")
    said = ", ".join(f"{name} {seconds:.1f}" for name, seconds in desks.items())
    show("desks there", f"{said} s, worst {max(desks.values()):.1f} s, wanted 4 s")


@contextlib.contextmanager
def serving(*options: str) -> Iterator[tuple[subprocess.Popen[str], str]]:
    """The application as ./start runs it, on a folder of its own."""
    folder = Path(tempfile.mkdtemp(prefix="yielding-coil-bench-"))
    folder.chmod(0o755)
    begun = [sys.executable, "-m", "yielding_coil.serve", "--port", "0", "--data", str(folder / "data")]
    process = subprocess.Popen([*begun, *options], cwd=TOP, stdout=subprocess.PIPE, text=True)
    try:
        assert process.stdout is not None
        found = re.search(r"http://\S+(?=/)", process.stdout.readline())
        assert found
        until = time.monotonic() + 120
        while time.monotonic() < until:
            with contextlib.suppress(httpx.HTTPError):
                if httpx.get(f"{found[0]}/api/analyser", timeout=10).status_code == 200:
                    break
            time.sleep(0.2)
        yield process, found[0]
    finally:
        process.send_signal(signal.SIGTERM)
        process.wait(30)
        shutil.rmtree(folder, ignore_errors=True)


def all_of(process: subprocess.Popen[str]) -> list[psutil.Process]:
    """It and all that it began; of the database only its head, which it did not begin."""
    own = psutil.Process(process.pid)
    return [own, *own.children(recursive=True)]


def held(process: subprocess.Popen[str], *, shared: bool) -> tuple[float, int, int]:
    """Megabytes, files, connections. What they share counts once, or not at all."""
    memory, files, connections = 0.0, 0, 0
    for each in all_of(process):
        with contextlib.suppress(psutil.NoSuchProcess):  # it ended just now
            memory += getattr(each.memory_full_info(), "pss" if shared else "uss") / 1e6
            files += each.num_fds()
            connections += len(each.net_connections())
    return memory, files, connections


def dragged(people: int, length_s: float, *addresses: str) -> tuple[dict[str, int], bool]:
    """How many curves so many people got at each address, and whether without an error."""
    asked = [sys.executable, str(TOP / "tools" / "bench.py"), "--crowd", str(people), str(length_s), *addresses]
    done = subprocess.run(asked, capture_output=True, text=True)
    return json.loads(done.stdout.splitlines()[-1]) if done.returncode == 0 else {}, done.returncode == 0


def several() -> None:
    """50 people dragging at one process, and at two; 20 phones trimming at once; memory when nobody acts."""
    with serving("--workers", "1") as (alone, at_one), serving("--workers", "2") as (both, at_two):
        time.sleep(3)
        for workers, process in ((1, alone), (2, both)):
            show(
                f"idle memory, {workers} answering",
                f"{held(process, shared=True)[0]:.0f} MB in {len(all_of(process))} processes",
            )
        dragged(8, 5, at_one, at_two)
        counts, fine = dragged(50, 20, at_one, at_two)
        trimming(at_two)
    one, two = (counts.get(address, 0) for address in (at_one, at_two))
    ratio = two / max(one, 1)
    gate(
        "50 people dragging at two processes",
        f"{two} curves in 20 s, {one} at one: {ratio:.2f}x, wanted 1.6x; no error: {fine}",
        fine and ratio >= 1.6,
    )


def trimming(address: str) -> None:
    """20 phones at once, each on a wire of its own: a reading, a fold, the advice."""
    times: list[float] = []

    def one(number: int) -> int:
        with httpx.Client(base_url=address, timeout=60) as client:
            made = {"name": f"Loft {number}", "targets": [TWELVE], "wire": {"stop": "dip"}}
            path = f"/api/builds/{client.post('/api/builds', json=made).json()['id']}"
            said = [{"kind": "hung", "reach_m": [3.05]}]
            for k in range(6):
                dip = {"kind": "dip", "meter": "meter", "dip_hz": 24.0e6 + 1.2e5 * k, "swr": 1.4}
                said.append({"kind": "reading", "link": 0, "reading": dip})
                said.append({"kind": "cut", "link": 0, "act": "fold", "per_leg_m": [0.015, 0.015]})
            refused = 0
            for data in said:
                begun = time.perf_counter()
                refused += client.post(f"{path}/entries", json={"data": data}).status_code != 201
                refused += client.get(f"{path}/trim").status_code != 200
                times.append(time.perf_counter() - begun)
            return refused

    with ThreadPoolExecutor(20) as pool:
        refused = sum(pool.map(one, range(20)))
    said = f"an act and its advice p50 {np.median(times) * 1e3:.0f}, p95 {np.percentile(times, 95) * 1e3:.0f} ms"
    gate("20 phones trimming at once", f"{refused} refused; {said}", refused == 0)


def soak(minutes: float) -> None:
    """A day of a workshop in minutes: dragging, saving, searching, streams that are left; what is left over."""
    with serving("--workers", "2") as (process, address):
        ends = time.monotonic() + 60 * minutes
        at: list[tuple[float, int, int]] = []
        stop = threading.Event()
        workers = [threading.Thread(target=_lives, args=(address, stop, k), daemon=True) for k in range(4)]
        for worker in workers:
            worker.start()
        time.sleep(min(120, 15 * minutes))  # what is loaded once is loaded
        while time.monotonic() < ends:
            at.append(held(process, shared=False))
            print(f"  {at[-1][0]:.0f} MB, {at[-1][1]} files, {at[-1][2]} connections", flush=True)
            time.sleep(min(30, 3 * minutes))
        stop.set()
        for worker in workers:
            worker.join(60)
        time.sleep(12)  # pools and abandoned work let go
        at.append(held(process, shared=False))
    tenth = max(1, len(at) // 5)
    first, last = (np.median([m for m, _, _ in part]) for part in (at[:tenth], at[-1 - tenth : -1]))
    grown = float(last / first - 1)
    gate(
        f"a day in {minutes:g} min",
        f"memory of their own {first:.0f} → {last:.0f} MB ({grown:+.1%}, wanted under 5 %); "
        f"files {at[0][1]} → {at[-1][1]}, connections {at[0][2]} → {at[-1][2]}",
        abs(grown) < 0.05 and at[-1][1] <= at[0][1] and at[-1][2] <= at[0][2],
    )


def _lives(address: str, stop: threading.Event, number: int) -> None:
    """What one person does again and again."""
    with httpx.Client(base_url=address, timeout=60) as client:
        builds = client.get("/api/builds").json()
        build = next(b for b in builds if b["name"].startswith("Allotment"))
        design = client.get(f"/api/builds/{build['id']}/designs").json()[0]
        content = design["revision"]["content"]
        own = client.post("/api/builds", json={"name": f"Soak {number}", "targets": [TWELVE], "wire": {}}).json()
        turn = 0
        while not stop.is_set():
            turn += 1
            asked = {"content": content, "low_hz": 20.5e6, "high_hz": 22e6, "points": 101, "carried": False}
            for _ in range(10):
                client.post("/api/predictions", json=asked)
            client.post(f"/api/builds/{own['id']}/entries", json={"data": {"kind": "note"}, "text": f"turn {turn}"})
            client.get("/api/builds")
            client.get("/")
            if turn % 20 == number:
                job = client.post("/api/jobs", json={"kind": "search", "content": {**content, "elements": []}})
                if job.status_code == 202:
                    with client.stream("GET", f"/api/jobs/{job.json()['id']}/events") as stream:
                        next(stream.iter_lines())  # and it is left
                    client.delete(f"/api/jobs/{job.json()['id']}")
            if turn % 20 == 10 + number:
                client.post("/api/pairings", json={})
                client.get("/api/analyser")
            stop.wait(0.2)
