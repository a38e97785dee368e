"""Where the watts go by a kept sweep, over HTTP: an honest one, a bad joint, a line, a hand on the coax."""

import numpy as np
import pytest
from client_helpers import calibrated, connected, done, drop, screwed_on

from yielding_coil.core.parts import Resistor
from yielding_coil.core.sweep import Sweep
from yielding_coil.documents.wire import WireAntenna
from yielding_coil.formats import touchstone

ANTENNA = {"kind": "wire", "antenna": "dipole", "numbers": {"leg_m": 2.86, "height_m": 6.0}}
TWELVE = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 2.0}
F = np.linspace(23.5e6, 26.4e6, 81)


@pytest.fixture(scope="module")
def wires():
    """What the dipole shows at its feedpoint."""
    return WireAntenna.model_validate(ANTENNA).hung().structure().impedance_at(F)


def kept(client, ohm):
    answer = drop(client, touchstone.write(Sweep(F, ohm)), "loft.s1p")
    assert answer.status_code == 201, answer.text
    return answer.json()["id"]


def judged(client, sweep_id, **more):
    return client.post("/api/losses", json={"antenna": ANTENNA, "target": TWELVE, "sweep_id": sweep_id, **more})


def test_an_honest_one_keeps_next_to_nothing_and_a_joint_its_share(client, wires):
    honest = judged(client, kept(client, wires)).json()
    assert (honest["state"], honest["named"], honest["settle"]) == ("nothing_wrong", [], None)
    assert honest["stays"]["high_w"] < 5
    assert len(honest["read"]) == len(honest["low"]) == len(honest["frequency_hz"])

    joint = judged(client, kept(client, wires + Resistor(15.0).impedance_ohm(F))).json()
    assert joint["state"] == "loss"
    assert joint["named"][0] == "joint"
    assert 10 < next(p for p in joint["places"] if p["key"] == "joint")["likely_w"] < 30


def test_its_fan_is_made_before_there_is_a_sweep(client):
    answer = judged(client, None)
    assert (answer.status_code, answer.json()) == (200, None)


LOFT = {
    "kind": "wire",
    "antenna": "dipole",
    "numbers": {"leg_m": 2.93, "height_m": 6.8},
    "stock": {"diameter_m": 0.002, "covering_m": 0.0032},
}


@pytest.mark.deep
def test_the_cable_that_a_sweep_tells_of_takes_its_share(client, bench):
    """The loft dipole of the simulated bench, through its coax."""
    connected(client)
    calibration = calibrated(client, 23e6, 27e6)
    screwed_on(client, "loft-shack")
    swept = {"kind": "sweep", "low_hz": 23.2e6, "high_hz": 26.8e6, "points": 101, "passes": 4}
    setup = {"plane": "line_end", "line": {"cable": "pe-5", "length_m": 11.0}}
    end = done(client, **swept, calibration_id=calibration["id"], keep={"name": "shack", "setup": setup})
    found = judged(client, end["found"]["sweep"]["id"], antenna=LOFT).json()
    assert found["state"] == "nothing_wrong", found
    line = next(p for p in found["places"] if p["key"] == "line")
    # 11 m at some 8.5 dB/100 m, a little more with the dipole's mismatch.
    assert 14 < line["likely_w"] < 25
    assert found["ceiling_swr"] > 5


@pytest.mark.deep
def test_a_second_sweep_that_differs_is_current_on_the_shield(client, wires):
    first, second = kept(client, wires), kept(client, wires * 1.1 + 8j)
    assert judged(client, first, again_id=second).json()["state"] == "shield"
    assert judged(client, first, again_id=first).json()["state"] == "nothing_wrong"


@pytest.mark.deep
def test_what_cannot_be_judged_is_refused(client, wires):
    end_fed = {"kind": "wire", "antenna": "end-fed", "numbers": {}}
    answer = judged(client, kept(client, wires), antenna=end_fed)
    assert answer.status_code == 422
    assert "its design too" in answer.text
    nowhere = {**TWELVE, "low_hz": 14.0e6, "high_hz": 14.35e6}
    answer = judged(client, kept(client, wires), target=nowhere)
    assert answer.status_code == 422
    assert "points where the antenna is modelled" in answer.text
