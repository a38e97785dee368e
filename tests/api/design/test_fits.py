"""A finished design by a sweep of it over HTTP: built on the simulated bench, swept, judged, taken as built."""

import pytest
from client_helpers import best, calibrated, connected, done, drop, measured, screwed_on

from yielding_coil.core.wire import radials_ohm
from yielding_coil.documents.wire import WireAntenna


@pytest.fixture
def built(client, build, bench):
    """The demo's match on the simulated bench: swept there, with or without a slip."""
    connected(client)
    calibration = calibrated(client, 20e6, 22.5e6)
    content = best(client, build)

    def sweep(fault="none", plane="box"):
        there = client.put("/api/analyser/bench/built", json={"content": content, "fault": fault, "plane": plane})
        assert there.status_code == 200, there.text
        assert there.json()["thing"] == "built"
        return measured(client, calibration, 20.2e6, 22.3e6)["id"]

    return content, sweep


def judged(client, content, sweep_id, **more):
    return client.post("/api/fits", json={"content": content, "sweep_id": sweep_id, **more})


def test_built_right_it_says_so_and_the_design_takes_what_was_found(client, built):
    content, sweep = built
    answer = judged(client, content, sweep())
    assert answer.status_code == 200, answer.text
    found = answer.json()
    assert found["state"] in ("as_planned", "nothing_shows")
    assert found["odds"][0]["slip"] is None
    coil = next(v for v in found["values"] if v["element"] == "coil")
    assert coil["low"] < coil["found"] < coil["high"]
    made = next(e for e in found["content"]["elements"] if e["key"] == "coil")
    assert made["inductance_h"] == pytest.approx(coil["found"], rel=1e-6)
    assert len(found["read"]) == len(found["frequency_hz"])
    again = client.post("/api/yields", json={"content": found["content"], "low_hz": 20.4e6, "high_hz": 22e6})
    assert again.status_code == 200


@pytest.mark.deep
def test_a_resistor_in_its_place_is_like_nothing_expected(client, built):
    content, sweep = built
    sweep()
    screwed_on(client, "r200")
    calibration = client.get("/api/calibrations").json()[0]
    found = judged(client, content, measured(client, calibration, 20.2e6, 22.3e6)["id"]).json()
    assert "state" in found, found
    assert (found["state"], found["values"], found["change"]) == ("no_match", [], None)


def test_what_cannot_be_held_against_it_is_refused(client, built):
    content, _ = built
    few = drop(client, b"! five\n# MHz Z RI R 1\n" + b"".join(b"%d 50 1\n" % f for f in range(20, 25)), "five.s1p")
    answer = judged(client, content, few.json()["id"])
    assert answer.status_code == 422
    assert "points where the antenna is known" in answer.text
    below = drop(
        client, b"# MHz Z RI R 1\n" + b"".join(b"%.2f -20 1\n" % (20.5 + k / 10) for k in range(15)), "below.s1p"
    )
    if below.status_code < 300:
        refused = judged(client, content, below.json()["id"])
        assert refused.status_code == 422
        assert "R below zero" in refused.text


NARROWBOAT = {
    "kind": "wire",
    "antenna": "loaded-vertical",
    "numbers": {"height_m": 4.0, "inductance_h": 4.98e-5, "coil_at": 0.5, "q": 250.0, "radials": 8},
    "stock": {"diameter_m": 0.0014, "covering_m": 0.0024},
}


@pytest.fixture
def hung(client, bench):
    """A planned antenna on the simulated site, and sweeps of it at its feedpoint."""
    connected(client)
    calibration = calibrated(client, 4e6, 8e6)
    there = client.put("/api/analyser/bench/hung", json={"antenna": NARROWBOAT})
    assert there.status_code == 200, there.text
    return lambda low, high: measured(client, calibration, low, high)["id"]


def wire_fit(client, sweep_id, antenna=NARROWBOAT):
    return client.post("/api/wire-fits", json={"antenna": antenna, "sweep_id": sweep_id})


@pytest.mark.deep
def test_a_planned_antenna_is_brought_onto_its_sweep_and_taken(client, hung):
    sweep_id = hung(4.3e6, 6.4e6)
    found = wire_fit(client, sweep_id).json()
    assert found["state"] in ("moved", "as_modelled"), found
    assert {"length", "coil", "radials"} <= {v["name"] for v in found["values"]}
    again = wire_fit(client, sweep_id, found["antenna"]).json()
    assert all(abs(v["sigmas"]) < 0.1 for v in again["values"])
    # What radials lose goes with their number.
    lose = found["antenna"]["radials_found"]
    assert lose["radials"] == NARROWBOAT["numbers"]["radials"]
    more = {**found["antenna"], "numbers": {**found["antenna"]["numbers"], "radials": 32}}
    least, most = radials_ohm(32)
    assert WireAntenna.model_validate(more).hung().ground_ohm == pytest.approx((least + most) / 2)


def test_sweeps_that_are_not_of_its_feedpoint_are_refused(client, hung):
    end_fed = {"kind": "wire", "antenna": "end-fed", "numbers": {}}
    answer = wire_fit(client, hung(4.3e6, 6.4e6), end_fed)
    assert answer.status_code == 422
    assert "swept behind its unun" in answer.text
    raw = done(
        client, kind="sweep", low_hz=4.3e6, high_hz=6.4e6, points=51, passes=1, keep={"name": "raw", "setup": {}}
    )
    refused = wire_fit(client, raw["found"]["sweep"]["id"])
    assert refused.status_code == 422
    assert "not calibrated" in refused.text
