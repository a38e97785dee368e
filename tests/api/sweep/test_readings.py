"""What is read off sweeps over HTTP: two compared, the floor under any match."""

import numpy as np
import pytest
from client_helpers import DEMO, drop

from yielding_coil.formats import touchstone

CSV = b"MHz,R,X\n20,60,-400\n21.2,85,-411\n22.5,120,-300\n"


def test_two_sweeps_compared(client):
    """The orchard's wire dry and wet; the figures by NumPy from the files."""
    names = ("orchard-feedpoint.s1p", "orchard-after-rain.s1p")
    dry, wet = (drop(client, (DEMO / name).read_bytes(), name).json() for name in names)
    files = [touchstone.read((DEMO / name).read_bytes()) for name in names]
    target = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2}
    asked = {"first": dry["id"], "second": wet["id"], "targets": [target]}
    found = client.post("/api/sweeps/comparisons", json=asked).json()["targets"][0]
    change = np.diff([s.impedance_at(24.94e6) for s in files])[0]

    assert found["resistance_change_ohm"] == pytest.approx(change.real, rel=1e-4)
    assert found["reactance_change_ohm"] == pytest.approx(change.imag, rel=1e-4)


def test_a_comparison_beyond_one_of_them_says_so(client):
    wide, narrow = drop(client).json(), drop(client, CSV, "c.csv").json()
    target = {"label": "below", "low_hz": 19.0e6, "high_hz": 19.5e6, "swr_limit": 2}
    asked = {"first": wide["id"], "second": narrow["id"], "targets": [target]}
    found = client.post("/api/sweeps/comparisons", json=asked).json()["targets"][0]

    assert (found["first_worst_swr"], found["resistance_change_ohm"]) == (None, None)


def test_the_floor_lies_below_every_network_of_the_demo(client, build):
    read = client.post(f"/api/sweeps/{build['baseline_sweep_id']}/readings", json={"targets": build["targets"]})
    floor = read.json()["targets"][0]["floor"]
    content = {
        "antenna": {"kind": "sweep", "sweep_id": build["baseline_sweep_id"]},
        "targets": build["targets"],
        "elements": [],
    }
    networks = client.post("/api/matches", json={"content": content}).json()

    assert networks
    assert all(n["worst_swr"] > floor["any"] for n in networks if n["content"])
    assert 1 < floor["any"] < floor["one_more"] < floor["antenna_alone"]
