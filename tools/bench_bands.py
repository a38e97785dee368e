"""How fast watts are followed band by band, and how soon the adviser answers: over HTTP, as a drag asks."""

import time
from collections.abc import Callable

import httpx
import numpy as np
from figures import show

from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.tuner import Tuner, TunerSetting, tee_of

BANDS = ((3.5, 3.8), (5.25, 5.45), (7.0, 7.2), (10.1, 10.15), (14.0, 14.35), (21.0, 21.45))
ASKED = 60


def percentiles(ask: Callable[[int], object]) -> tuple[float, float]:
    """Median and 95 % point of many different questions, milliseconds."""
    ask(-1)
    times = []
    for k in range(ASKED):
        start = time.perf_counter()
        ask(k)
        times.append(1e3 * (time.perf_counter() - start))
    return float(np.median(times)), float(np.percentile(times, 95))


def bands(address: str) -> None:
    """Six bands, every coax at every length, a tuner at either end: another length of line each time."""
    targets = [
        {"label": f"{low:g} MHz", "low_hz": low * 1e6, "high_hz": high * 1e6, "swr_limit": 2.0}
        for low, high in BANDS
    ]
    core = {"mix": "43", "size": "FT240"}
    unun = {"kind": "transformer", "key": "unun", "core": core, "wire": "cu-1", "wiring": "tapped"}
    wound, tuner = {**unun, "primary_turns": 2, "secondary_turns": 16}, {"kind": "tuner", "key": "tuner"}
    antenna = {"kind": "resistor", "resistance_ohm": 2450.0, "reactance_ohm": -300.0}
    with httpx.Client(base_url=address, headers={"Origin": address}) as client:

        def ask(k: int) -> None:
            line = {"kind": "line", "key": "line", "cable": "foam-6", "length_m": 15.0 + 0.05 * k}
            content = {"antenna": antenna, "targets": targets, "elements": [wound, line, tuner]}
            found = client.post("/api/predictions/bands", json={"content": content})
            assert found.status_code == 200, found.text

        middle, late = percentiles(ask)
    show("six bands, every coax and a tuner at either end", f"p50 {middle:.0f} ms, p95 {late:.0f} ms, wanted 60 ms")


def adviser(address: str) -> None:
    """The next turn of a tuner's knobs after five sweeps at its input."""
    tuner, f = Tuner(), np.linspace(14.0e6, 14.35e6, 41)
    load = 30 + 1j * 30 * 8 * (f / 14.1e6 - 14.1e6 / f)
    rng = np.random.default_rng(1)
    with httpx.Client(base_url=address, headers={"Origin": address}) as client:

        def seen() -> dict[str, object]:
            values = [float(v) for v in np.exp(rng.uniform(*np.log(tuner.stops).T))]
            gamma = reflection_of(tee_of(tuner, TunerSetting("tee", *values), f).near_ohm(load))
            dials = dict(zip(("output_f", "coil_h", "input_f"), values, strict=True))
            return {
                "dials": {"side": "tee", **dials},
                "frequency_hz": f.tolist(),
                "gamma_real": gamma.real.tolist(),
                "gamma_imag": gamma.imag.tolist(),
            }

        def ask(_: int) -> None:
            asked = {"tuner": {"kind": "tuner", "key": "t"}, "seen": [seen() for _ in range(5)]}
            found = client.post("/api/tuners/advice", json=asked)
            assert found.status_code == 200, found.text

        middle, late = percentiles(ask)
    show("the next turn after five sweeps", f"p50 {middle:.0f} ms, p95 {late:.0f} ms, wanted 100 ms")
