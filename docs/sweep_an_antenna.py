"""From an analyser to a baseline without the pages: PyVISA, the core, and two requests to a running application.

    .venv/bin/python docs/sweep_an_antenna.py 127.0.0.1:5025 http://127.0.0.1:8750

The first address is the analyser's (./start runs a simulated one), the second the application's; without the
second the sweep is only written to a file. With the simulated analyser the script screws the standards on by
itself; with a real one it waits for you.
"""

import json
import sys
import urllib.request
from pathlib import Path

import numpy as np
import pyvisa

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))  # the checkout, where the package is not installed

from yielding_coil.core import Noise, Sweep, impedance_of, one_port, residual
from yielding_coil.formats import touchstone

LOW_HZ, HIGH_HZ, POINTS, PASSES = 23e6, 26e6, 101, 8

host, port = sys.argv[1].split(":")
analyser = pyvisa.ResourceManager("@py").open_resource(
    f"TCPIP::{host}::{port}::SOCKET", read_termination="\n", write_termination="\n", timeout=10000
)
name = analyser.query("*IDN?")
print("Connected:", name)
simulated = "SIMULATED" in name
frequency = np.linspace(LOW_HZ, HIGH_HZ, POINTS)
for command in (f"SENS:FREQ:STAR {LOW_HZ}", f"SENS:FREQ:STOP {HIGH_HZ}", f"SENS:SWE:POIN {POINTS}"):
    analyser.write(command)


def swept(thing, key):
    """The mean of a few passes over what is screwed on, and the noise of one."""
    if simulated:
        analyser.write(f'BENC:CONN "{key}"')
    else:
        input(f"Screw the {thing} on and press Enter ")
    passes = []
    for _ in range(PASSES):
        analyser.write("INIT")
        analyser.query("*OPC?")
        numbers = np.array(analyser.query("SENS:DATA?").split(","), dtype=float)
        passes.append(numbers[0::2] + 1j * numbers[1::2])
    noise = np.sqrt(np.mean(np.var(passes, axis=0, ddof=1)))
    return np.mean(passes, axis=0), noise


raw = {key: swept(key, key)[0] for key in ("short", "open", "load")}
correction = one_port(raw["short"], raw["open"], raw["load"], frequency)
again, _ = swept("load once more", "load")
print(f"Left of the load: {residual(correction.correct(again), frequency).db:.0f} dB")

antenna, noise = swept("antenna", "loft")
gamma = correction.correct(antenna)
sweep = Sweep(frequency, impedance_of(gamma))
best = sweep.best_match()
half_r, half_x = correction.doubt(gamma, Noise(noise, PASSES, noise, PASSES)).impedance_bands(gamma)
k = int(np.argmin(np.abs(frequency - best.frequency_hz)))
z = sweep.impedance_ohm[k]
print(f"Lowest SWR {best.swr:.2f} at {best.frequency_hz / 1e6:.3f} MHz")
print(f"There R {z.real:.1f} ± {half_r[k]:.1f} Ω, X {z.imag:.1f} ± {half_x[k]:.1f} Ω (nine in ten)")
analyser.close()

if len(sys.argv) < 3:
    with open("loft-dipole.s1p", "wb") as file:
        file.write(touchstone.write(sweep))
    print("Written to loft-dipole.s1p")
    sys.exit()


def post(path, body):
    """The application's answer to a request."""
    asked = urllib.request.Request(sys.argv[2].rstrip("/") + path, data=body, method="POST")
    asked.add_header("Content-Type", "application/json" if body[:1] == b"{" else "application/octet-stream")
    with urllib.request.urlopen(asked) as answer:
        return json.load(answer)


kept = post("/api/sweeps?name=loft-dipole.s1p", touchstone.write(sweep))
build = post("/api/builds", json.dumps({"name": "Loft dipole", "sweep_id": kept["id"]}).encode())
print(f"Kept as the baseline of “{build['name']}”")
