"""Design a match without the web: from a sweep to turns and centimetres, cell by cell.

Run it as it is, from any folder:  .venv/bin/python docs/design_a_match.py
or, after `pip install .`, with any Python; or open it in an editor that knows `# %%` cells.
"""

# %% What the wire is
import sys
from importlib.resources import files as inside
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))  # the checkout, where the package is not installed

from yielding_coil import data
from yielding_coil.core import (
    Element,
    Inductor,
    Line,
    Spread,
    System,
    Target,
    best_parts,
    candidates,
    lowest_swr,
    open_coax_for,
    turns_for,
    yield_of,
)
from yielding_coil.formats import files

wire = files.read((inside("yielding_coil") / "demo" / "allotment-feedpoint.s1p").read_bytes()).found
row = data.bands()["15m"]
band = Target(row.label, row.low_hz, row.high_hz, 2.0)
z = wire.impedance_at(band.center_hz)
print(f"At {band.center_hz / 1e6:.3f} MHz the wire is {z.real:.0f} {z.imag:+.0f}j ohm.")

# %% Every L at its best over the band, and the floor under all of them
found = sorted((best_parts(wire, each, [band]) for each in candidates(wire, [band])), key=lambda o: o.worst_swr)
for each in found:
    shape = each.shape
    print(f"{shape.series} in line, {shape.shunt} across at the {shape.shunt_at}: worst SWR {each.worst_swr:.2f}")
wide = (band.high_hz - band.low_hz) / band.center_hz
q = float(wire.q(band.center_hz))
floors = [lowest_swr(wide, q, circuits) for circuits in ("one more", "any")]
print(f"One more tuned circuit could reach {floors[0]:.3f}, any lossless match {floors[1]:.3f}.")
best = found[0]

# %% Turn the two values into something to wind and to cut
former_m, winding = 0.032, data.wire("cu-1.6")
turns = turns_for(
    best.series_value, former_m + winding.covered_m, winding.covered_m, winding.diameter_m, 0.5, band.center_hz
)
stub = open_coax_for(best.shunt_value, data.cable("pe-5"), band.center_hz)
print(f"Coil: {best.series_value * 1e6:.2f} uH, {turns:.1f} turns of {winding.name} on {former_m * 1e3:.0f} mm.")
print(f"Capacitor: {best.shunt_value * 1e12:.2f} pF, {stub.length_m * 1e3:.0f} mm of open coax.")

# %% What it will do
system = System(
    wire,
    [
        Element("stub", "shunt", stub),
        Element("coil", "series", Inductor(best.series_value, q=220)),
        Element("coax", "through", Line(data.cable("foam-6"), 17.6)),
    ],
)
stations = system.stations(band.center_hz, 100.0)
for station in stations:
    print(f"{station.key:8} {complex(station.impedance_ohm):.0f} ohm, SWR {float(station.swr):.2f}")
lost = sum(float(s.loss_w) for s in stations)
print(f"{lost:.0f} W of 100 stay behind as heat; {float(stations[0].voltage_v):.0f} V peak at the wire's end.")

# %% How many builds out of a hundred hold the band
spreads = [
    Spread("coil", "coil", "inductance_h", 0.04),
    Spread("capacitor", "stub", "capacity_factor", 0.04),
    Spread("reading", "antenna", "reflection", 0.02),
]
held = yield_of(system, [band], spreads, np.random.default_rng(1))
print(f"{100 * held.share:.0f} of 100 hold {band.label} at 2:1.")
print(f"The {held.costs[0].name} costs {100 * held.costs[0].share:.0f} points.")
