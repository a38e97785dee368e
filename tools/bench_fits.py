"""How fast a sweep is judged: a finished match by its parts, a planned antenna by its numbers, and its loss."""

import time

import httpx
import numpy as np
from bench_bands import percentiles
from figures import seconds, show

from yielding_coil import data
from yielding_coil.core import CoaxCapacitor, Design, FixedLoad, Sweep, as_built, fit_wire
from yielding_coil.core.target import Target
from yielding_coil.core.winding import AirCoil
from yielding_coil.core.wire import KINDS
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.formats import touchstone

LOFT = {"kind": "wire", "antenna": "dipole", "numbers": {"leg_m": 2.86, "height_m": 6.0}}
TWELVE = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2.0}


def fits() -> None:
    """A coil and a capacitor of coax, swept at 401 points; and a loaded vertical, swept a fifth to both sides."""
    band, f = Target("17 m", 18.068e6, 18.168e6, 2.0), np.linspace(17.2e6, 19.0e6, 401)
    across = CoaxCapacitor(key="capacitor", place="shunt", capacitance_f=7e-12, cable=data.cable_row("pe-5"))
    coil = AirCoil(key="coil", place="series", inductance_h=3e-6, former_m=0.032, wire=data.winding_wire("cu-1.6"))
    design = Design(antenna=FixedLoad(94 - 463j), targets=(band,), elements=(across, coil))
    sweep = Sweep(f, design.system().impedance(f))
    took = seconds(lambda: as_built(design, sweep))
    show("a match as built, 401 points, with its advice", f"{1e3 * took:.0f} ms, wanted 300 ms")

    planned = KINDS["loaded-vertical"].start(10.1e6)
    hangs = planned.told(inductance_h=1.03 * planned.inductance_h)
    wide = np.linspace(8e6, 12e6, 101)
    seen = Sweep(wide, hangs.structure().impedance_at(wide))
    took = seconds(lambda: fit_wire(planned, seen, 0.003))
    show("a planned antenna brought onto its sweep", f"{1e3 * took:.0f} ms, wanted 1 s, at the end 5 s")


def losses(address: str) -> None:
    """Where the watts of a planned dipole stay: its fan made anew, then one verdict after another."""
    f = np.linspace(23.5e6, 26.4e6, 201)
    ohm = WireAntenna.model_validate(LOFT).hung().structure().impedance_at(f)
    with httpx.Client(base_url=address, headers={"Origin": address}, timeout=60) as client:

        def kept(bad_ohm: float) -> str:
            there = client.post(
                "/api/sweeps", params={"name": "loft.s1p"}, content=touchstone.write(Sweep(f, ohm + bad_ohm))
            )
            return str(there.json()["id"])

        def judged(sweep_id: str | None) -> None:
            body = {"antenna": LOFT, "target": TWELVE, "sweep_id": sweep_id}
            assert client.post("/api/losses", json=body).status_code == 200

        start = time.perf_counter()
        judged(None)
        show("the fan of a planned dipole", f"{time.perf_counter() - start:.1f} s, once it hangs otherwise")
        sweeps = [kept(ohms) for ohms in np.linspace(0, 30, 10)]
        middle, late = percentiles(lambda k: judged(sweeps[k % len(sweeps)]))
    show("where its watts stay, by a sweep", f"p50 {middle:.0f} ms, p95 {late:.0f} ms, wanted 500 ms")
