"""How fast what was kept is found again: a long log with photographs, an archive, a tick seen elsewhere."""

import io
import time
import urllib.request
from datetime import UTC, datetime, timedelta

import httpx
import numpy as np
from figures import show
from PIL import Image
from playwright.sync_api import Page

ENTRIES, PHOTOGRAPHS, SWEEPS, IN_ARCHIVE = 5000, 300, 50, 100


def picture() -> bytes:
    """A noisy picture of 12 million pixels and about 2 MB."""
    rng = np.random.default_rng(2026)
    rough = np.kron(rng.integers(0, 255, (375, 500, 3)), np.ones((8, 8, 1)))
    whole = (rough + rng.integers(0, 14, rough.shape)).clip(0, 255).astype("uint8")
    out = io.BytesIO()
    Image.fromarray(whole).save(out, "JPEG", quality=78)
    return out.getvalue()


def _build(client: httpx.Client, name: str) -> str:
    target = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2.0}
    return str(client.post("/api/builds", json={"name": name, "targets": [target]}).json()["id"])


def _photographs(client: httpx.Client, build: str, count: int) -> None:
    data = picture()
    for k in range(count):
        client.post(
            f"/api/builds/{build}/photographs", content=data, params={"name": f"{k}.jpg"}
        ).raise_for_status()


def long_log(page: Page, address: str) -> None:
    """Five thousand entries, three hundred of them with a photograph of 2 MB: until the page has settled."""
    with httpx.Client(base_url=address, headers={"Origin": address}, timeout=120) as client:
        build = _build(client, "A long log")
        now = datetime.now(UTC)
        for k in range(ENTRIES - PHOTOGRAPHS):
            at = (now - timedelta(hours=3 * k)).isoformat()
            made = {"data": {"kind": "note"}, "text": f"note {k}", "happened_at": at}
            client.post(f"/api/builds/{build}/entries", json=made).raise_for_status()
        _photographs(client, build, PHOTOGRAPHS)
        asked = []
        for _ in range(5):
            start = time.perf_counter()
            client.get("/api/log", params={"build_id": build}).raise_for_status()
            asked.append(time.perf_counter() - start)
    opened = []
    for _ in range(3):
        start = time.perf_counter()
        page.goto(f"{address}/builds/{build}/log")
        page.get_by_role("region", name="Today").wait_for()
        page.locator("html[data-settled=true]").wait_for(state="attached")
        opened.append(time.perf_counter() - start)
    show(
        f"log of {ENTRIES} entries, {PHOTOGRAPHS} photographs",
        f"asked {np.median(asked) * 1e3:.0f} ms, opened {opened[0]:.2f}, again {min(opened[1:]):.2f} s, wanted 1 s",
    )
    frames = page.evaluate(
        """() => new Promise((done) => {
            const gaps = []; let last = performance.now(), n = 0;
            const step = (now) => {
                gaps.push(now - last); last = now; scrollBy(0, 120);
                if (++n < 120) requestAnimationFrame(step); else done(gaps.sort((a, b) => a - b));
            };
            requestAnimationFrame(step);
        })"""
    )
    show("scrolling it, a frame", f"median {np.median(frames):.0f} ms, p95 {np.percentile(frames, 95):.0f} ms")


def archives(address: str) -> None:
    """Fifty sweeps of 401 points and a hundred photographs of 2 MB, out and in."""
    f = np.linspace(24e6, 26e6, 401)
    text = "# Hz S RI R 50\n" + "".join(f"{hz:.0f} {0.1 * np.cos(hz / 1e5):.6f} 0.05\n" for hz in f)
    with httpx.Client(base_url=address, headers={"Origin": address}, timeout=300) as client:
        build = _build(client, "A build to take out")
        for k in range(SWEEPS):
            client.post("/api/sweeps", content=text.encode(), params={"name": f"{k}.s1p", "build_id": build})
        _photographs(client, build, IN_ARCHIVE)
        start = time.perf_counter()
        data = client.get("/api/archives", params={"build_id": build, "token": "bench"}).content
        out = time.perf_counter() - start
        start = time.perf_counter()
        # The standard library sends as fast as a browser does; httpx takes seconds for two hundred megabytes.
        sent = urllib.request.Request(f"{address}/api/archives", data, {"Origin": address}, method="POST")
        with urllib.request.urlopen(sent, timeout=300) as answer:
            answer.read()
        taken = time.perf_counter() - start
    show(
        f"archive of {SWEEPS} sweeps, {IN_ARCHIVE} photographs",
        f"{len(data) / 1e6:.0f} MB, out {out:.1f} s, in {taken:.1f} s, wanted 5 s each",
    )


def ticks(page: Page, address: str) -> None:
    """A tick set on one page until it is seen on another one."""
    with httpx.Client(base_url=address, headers={"Origin": address}, timeout=60) as client:
        build = next(b for b in client.get("/api/builds").json() if b["name"] == "Orchard end-fed")
        page.goto(f"{address}/builds/{build['id']}/build")
        page.locator("html[data-settled=true]").wait_for(state="attached")
        design = client.get(f"/api/builds/{build['id']}/designs").json()[0]
        path, waited, revision = (
            f"/api/designs/{design['id']}/revisions/{design['revision']['number']}/ticks",
            [],
            0,
        )
        box = page.get_by_role("listitem").filter(has_text="Scrape or burn off").get_by_role("checkbox")
        for k in range(10):
            made = {"step": "solder", "revision": revision, "done": k % 2 == 0}
            start = time.perf_counter()
            revision = client.put(path, json=made).json()["revision"]
            while box.is_checked() != made["done"]:
                time.sleep(0.01)
            waited.append(time.perf_counter() - start)
    show(
        "a tick seen on another page",
        f"median {np.median(waited) * 1e3:.0f} ms, worst {max(waited) * 1e3:.0f} ms, wanted 1 s",
    )
