"""Planes, unknown lines, the way to a break, ceilings, and cables of one's own, over HTTP."""

import numpy as np
import pytest
from client_helpers import DEMO, bare, best, connected, done, drop, made_build, screwed_on

from yielding_coil.core.line import OPEN_END_F, Cable, Line
from yielding_coil.core.sweep import Sweep
from yielding_coil.formats import touchstone

# The demo's own line, as its README states it.
TRUE = Cable("allotment coax", 50.0, 0.84, 1.05, 0.011)
F = np.linspace(1e6, 100e6, 401)


def dropped(client, sweep, name):
    return drop(client, touchstone.write(sweep), name).json()


def two_sweeps(client, length_m=17.6):
    line = Line(TRUE, length_m)
    opened = Sweep(F, line.input_impedance(F, 1 / (2j * np.pi * F * OPEN_END_F)))
    shorted = Sweep(F, line.input_impedance(F, np.zeros(F.size, dtype=complex)))
    return dropped(client, opened, "open.s1p"), dropped(client, shorted, "short.s1p")


def shack(client):
    return drop(client, (DEMO / "allotment-shack.s1p").read_bytes(), "shack.s1p").json()


def own_cable(client):
    opened, shorted = two_sweeps(client)
    asked = {"open_sweep_id": opened["id"], "short_sweep_id": shorted["id"], "length_m": 17.6}
    found = client.post("/api/lines", json=asked).json()
    kept = client.post(
        "/api/pieces",
        json={
            "kind": "cable",
            "name": "allotment drum",
            "values": {**found["cable"], "name": "allotment drum"},
            "sweep_id": opened["id"],
        },
    )
    assert kept.status_code == 201, kept.text
    return kept.json()


def test_the_shack_sweep_through_its_own_measured_line_is_the_feedpoint_sweep(client):
    """The demo's pair of sweeps: within 1.5 % of |Z|, and the fan holds it, by the line found from two sweeps."""
    piece = own_cable(client)
    sweep = shack(client)
    asked = {"sweep_id": sweep["id"], "line": {"cable": piece["key"], "length_m": 17.6}, "points": 201}
    moved = client.post("/api/plane-shifts", json=asked).json()
    true = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes()).impedance_at(
        np.array(moved["frequency_hz"])
    )
    z = np.array(moved["resistance_ohm"]) + 1j * np.array(moved["reactance_ohm"])
    assert (np.abs(z - true) / np.abs(true)).max() < 0.015
    fan = moved["fan"]
    assert (np.array(fan["low_reactance_ohm"]) <= true.imag).all()
    assert (true.imag <= np.array(fan["high_reactance_ohm"])).all()
    assert all(moved["known"])


def test_a_nominal_line_says_that_it_does_not_know_and_what_to_measure(client):
    asked = {"sweep_id": shack(client)["id"], "line": {"cable": "foam-6", "length_m": 17.6}}
    moved = client.post("/api/plane-shifts", json=asked).json()
    assert not any(moved["known"])
    assert moved["worth_measuring"] == "velocity"
    surer = client.post("/api/plane-shifts", json={**asked, "doubt": {"velocity": 0.0005, "length": 0.0005}}).json()
    assert all(surer["known"])
    none = client.post("/api/plane-shifts", json={**asked, "line": {"cable": "foam-6", "length_m": 0}})
    assert (none.status_code, none.json()["field"]) == (422, "length_m")
    gone = client.post("/api/plane-shifts", json={**asked, "line": {"cable": "hose", "length_m": 1}})
    assert "there is no cable “hose”" in gone.json()["detail"]


def test_a_moved_sweep_is_kept_with_its_doubt_beside_the_old_one(client):
    build = made_build(client)
    sweep = drop(client, (DEMO / "allotment-shack.s1p").read_bytes(), "shack.s1p").json()
    asked = {"sweep_id": sweep["id"], "line": {"cable": "foam-6", "length_m": 17.6}, "name": "moved up"}
    kept = client.post("/api/plane-shifts/kept", json=asked)
    assert kept.status_code == 201, kept.text
    assert kept.json()["setup"]["plane"] == "feedpoint"
    assert "moved through 17.6 m" in kept.json()["remarks"][0]
    assert client.get(f"/api/sweeps/{kept.json()['id']}/curves").json()["fan"] is not None
    down = {**asked, "sweep_id": build["baseline_sweep_id"], "towards": "radio", "name": "seen from the radio"}
    seen = client.post("/api/plane-shifts/kept", json=down).json()
    curves = client.get(f"/api/sweeps/{seen['id']}/curves").json()
    assert max(s for s in curves["swr"]) <= max(curves["ceiling"])
    assert seen["setup"]["line"] == {"cable": "foam-6", "length_m": 17.6}


def test_a_line_with_a_tape_and_without(client):
    opened, shorted = two_sweeps(client)
    asked = {"open_sweep_id": opened["id"], "short_sweep_id": shorted["id"]}
    bare_line = client.post("/api/lines", json=asked).json()
    assert bare_line["electrical_m"]["value"] == pytest.approx(17.6 / 0.84, rel=1e-4)
    assert (bare_line["velocity_factor"], bare_line["cable"]) == (None, None)
    assumed = client.post("/api/lines", json={**asked, "velocity_factor": 0.80}).json()
    assert assumed["length_assumed"]
    assert assumed["length_m"] == pytest.approx(17.6 * 0.80 / 0.84, rel=1e-3)
    taped = client.post("/api/lines", json={**asked, "length_m": 17.6}).json()
    assert taped["cable"]["velocity_factor"] == pytest.approx(0.84, rel=1e-4)
    assert taped["cable"]["loss_sqrt"] == pytest.approx(1.05, rel=0.01)
    wrong = client.post("/api/lines", json={**asked, "open_sweep_id": shorted["id"]})
    assert (wrong.status_code, wrong.json()["code"]) == (422, "not_a_line")
    swapped = client.post("/api/lines", json={"open_sweep_id": shorted["id"], "short_sweep_id": opened["id"]})
    assert "exchanged" in swapped.json()["detail"]
    end = client.post("/api/lines/ends", json={"sweep_id": shorted["id"], "velocity_factor": 0.84}).json()
    assert end["kind"] == "short"
    assert abs(end["distance_m"] - 17.6) < end["resolution_m"] / 2


def test_an_own_cable_replaces_nominal_data_where_chosen_and_stays_when_binned(client):
    piece = own_cable(client)
    row = client.get("/api/tables/cables").json()[0]
    assert (row["key"], row["name"]) == (piece["key"], "allotment drum")
    build = made_build(client)
    content = best(client, build)
    line = {**bare(build)["elements"][0], "cable": row["key"], "piece": row["piece"]}
    content["elements"] = [e for e in content["elements"] if e["kind"] != "line"] + [line]
    asked = {"content": content, "low_hz": 20.5e6, "high_hz": 22e6}
    prediction = client.post("/api/predictions", json=asked).json()
    assert max(prediction["ceiling"]) < 12
    at = f"/api/pieces/{piece['id']}"
    assert client.delete(at, params={"revision": piece["revision"]}).status_code == 204
    assert client.get("/api/pieces").json() == []
    assert client.post("/api/predictions", json=asked).json()["ceiling"] == prediction["ceiling"]
    here = [r for r in client.post("/api/feedlines", json={"content": content}).json() if r["here"]]
    assert [r["name"] for r in here] == ["allotment drum"]
    assert client.post(f"{at}/restore").json()["held"]["name"] == "allotment drum"


def test_what_twenty_db_hides(client):
    """300 m of the 5 mm coax at 21 MHz: 20.1 dB, so SWR 1.02 at most, and what the reactance of Z0 adds to it."""
    asked = {"cable": "pe-5", "length_m": 300, "low_hz": 21e6, "high_hz": 21.45e6}
    found = client.get("/api/ceilings", params=asked).json()
    assert found["hides"]
    assert 1.019 < max(found["highest_swr"]) < 1.04
    short = client.get("/api/ceilings", params={**asked, "length_m": 5}).json()
    assert not short["hides"]
    assert client.get("/api/ceilings", params={**asked, "length_m": 0}).status_code == 422


def test_a_line_swept_without_a_calibration_is_refused_not_kept_as_measured(client, bench):
    """Found by trying it: 54.0 Ω and a velocity factor of 0.760, ± 0.2 %, for 50 Ω and 0.84: the lead counted."""
    connected(client)
    swept = []
    for thing in ("cable-open", "cable-short"):
        screwed_on(client, thing)
        keep = {"name": thing, "setup": {"plane": "bench"}}
        end = done(client, kind="sweep", low_hz=1e6, high_hz=100e6, points=201, passes=1, keep=keep)
        swept.append(end["found"]["sweep"]["id"])
    asked = {"open_sweep_id": swept[0], "short_sweep_id": swept[1], "length_m": 17.6}
    answer = client.post("/api/lines", json=asked)

    assert answer.status_code == 422
    assert "swept without a calibration" in answer.json()["detail"]
