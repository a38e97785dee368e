"""How fast one chooses: schools compared at a place, and every length of a wire, by rules and by the model."""

import json
import time
from typing import Any

import httpx
import numpy as np
from figures import gate, show
from playwright.sync_api import Page

BANDS = [
    {"label": f"{low:g} MHz", "low_hz": low * 1e6, "high_hz": high * 1e6, "swr_limit": 2.0}
    for low, high in ((10.1, 10.15), (21.0, 21.45), (24.89, 24.99), (3.5, 3.8), (7.0, 7.2), (14.0, 14.35))
]
# A garden in which nearly every school fits.
PLACE = {"high_m": 14, "other_m": 14, "span_m": 24, "width_m": 26}


def schools(page: Page, address: str, drag: Any) -> None:
    """Three bands: when the first card comes, when all are there, and somebody else's drag meanwhile."""
    asked = {"kind": "schools", "place": PLACE, "targets": BANDS[:3]}
    with httpx.Client(base_url=address, headers={"Origin": address}, timeout=60) as client:

        def begun() -> str:
            return str(client.post("/api/jobs", json=asked).json()["id"])

        firsts, wholes = [], []
        for _ in range(3):
            client.post("/api/schools/ready")
            time.sleep(3)
            start = time.perf_counter()
            job = begun()
            first, cards = None, []
            # Followed as the page follows it.
            with client.stream("GET", f"/api/jobs/{job}/events") as events:
                for line in events.iter_lines():
                    if line.startswith("data:"):
                        cards = (json.loads(line.removeprefix("data:"))["found"] or {"cards": []})["cards"]
                    if first is None and any(card["obstacle"] is None for card in cards):
                        first = time.perf_counter() - start
            firsts.append(first or np.nan)
            wholes.append(time.perf_counter() - start)
        fitting = sum(card["obstacle"] is None for card in cards)
        show("first card of a comparison", f"{np.median(firsts) * 1e3:.0f} ms, wanted 1 s")
        show("all schools, three bands", f"{np.median(wholes):.1f} s, {fitting} fit, wanted 6 s")
        alone = np.percentile(drag(page, address, 60)[0], 95)
        job = begun()
        # Somebody has to listen to it, or it ends by itself.
        with client.stream("GET", f"/api/jobs/{job}/events"):
            meanwhile = np.percentile(drag(page, address, 30)[0], 95)
        client.delete(f"/api/jobs/{job}")
    gate(
        "drag to curve while somebody compares",
        f"p95 {meanwhile:.0f} ms, alone {alone:.0f} ms, {meanwhile / alone:.1f}x, wanted 2x at most",
        meanwhile <= 2 * alone,
    )


def lengths(address: str) -> None:
    """Six bands, 5 to 60 m by a centimetre."""
    asked = {"targets": BANDS, "least_m": 5, "most_m": 60, "length_m": 22.5}
    with httpx.Client(base_url=address, headers={"Origin": address}, timeout=60) as client:

        def seconds(path: str, k: int) -> float:
            start = time.perf_counter()
            found = client.post(f"/api/any-lengths/{path}", json={**asked, "counterpoise_m": 4 + k / 100})
            assert found.status_code == 200, found.text
            return time.perf_counter() - start

        rules = [seconds("rules", k) for k in range(20)]
        model = [seconds("strips", k) for k in range(3)]
    show("every length by rules", f"p50 {np.median(rules) * 1e3:.0f} ms, wanted 100 ms")
    show("every length by the model", f"{np.median(model):.1f} s, wanted 5 s")
