"""From the link to a kept sweep, over HTTP: with the simulated analyser, and with bad ones."""

import json
import time
from concurrent.futures import ThreadPoolExecutor
from uuid import UUID

import numpy as np
import pytest
from analyser_faults import Faulty, serving
from client_helpers import calibrated, connected, done, made_build, screwed_on, told, wire_build

from yielding_coil.api.http import jobs

FIELD = {"plane": "feedpoint", "conditions": {"height": "4 m", "hung": "flat", "near": "roof tiles", "ground": ""}}
NOBODY = "00000000-0000-4000-8000-000000000000"


def sweep(client, low_mhz=23.0, high_mhz=26.0, **more):
    asked = {
        "kind": "sweep",
        "low_hz": low_mhz * 1e6,
        "high_hz": high_mhz * 1e6,
        "points": 101,
        "passes": 2,
        **more,
    }
    return done(client, **asked)


def codes(state):
    return [f["code"] for f in state["found"]["findings"]]


def test_from_nothing_to_a_kept_sweep_that_is_right(client, bench):
    before = client.get("/api/analyser").json()
    assert (before["connected"], before["kind"], before["simulated"]) == (False, "none", "running")
    state = connected(client)
    assert state["identity"].startswith("YIELDING COIL,SIMULATED")
    assert {"short", "open", "load", "r100", "loft"} <= {thing["key"] for thing in state["bench"]}
    calibration = calibrated(client)
    assert calibration["complete"]
    assert calibration["slips"] == []

    screwed_on(client, "load")
    checked = done(client, kind="check", calibration_id=calibration["id"])["found"]["calibration"]
    assert checked["residual_db"] < -50

    screwed_on(client, "r100")
    keep = {"name": "test resistor", "setup": {**FIELD, "plane": "bench"}}
    end = sweep(client, calibration_id=calibration["id"], keep=keep)
    kept = end["found"]["sweep"]
    assert end["state"] == "done"
    assert kept["source"] == "simulated"
    assert kept["setup"]["instrument"].startswith("YIELDING COIL")
    curves = client.get(f"/api/sweeps/{kept['id']}/curves").json()
    r = np.array(curves["resistance_ohm"])
    assert r == pytest.approx(np.full(101, 100.0), rel=0.04)
    assert (np.array(curves["fan"]["low_resistance_ohm"]) < r).all()
    assert (np.array(curves["fan"]["high_resistance_ohm"]) > r).all()
    raw = client.get(f"/api/sweeps/{kept['id']}/original").text
    assert raw.count("\n") > 100


def test_the_antenna_its_baseline_and_what_the_residual_means_for_it(client, bench):
    connected(client)
    calibration = calibrated(client)
    screwed_on(client, "load")
    done(client, kind="check", calibration_id=calibration["id"])
    screwed_on(client, "loft")
    end = sweep(client, calibration_id=calibration["id"], passes=4, keep={"name": "first sweep", "setup": FIELD})
    assert end["found"]["dip"]["swr"] < 2
    assert "no_dip" not in codes(end)
    kept = end["found"]["sweep"]
    build = client.post("/api/builds", json={"name": "Loft dipole", "sweep_id": kept["id"]}).json()
    assert build["baseline_sweep_id"] == kept["id"]
    assert build["sweeps"][0]["setup"]["conditions"]["near"] == "roof tiles"
    asked = {"sweep_id": kept["id"], "frequency_hz": end["found"]["dip"]["frequency_hz"]}
    meaning = client.get(f"/api/calibrations/{calibration['id']}/meaning", params=asked).json()
    assert meaning["low_swr"] < meaning["swr"] < meaning["high_swr"]
    assert 0 < meaning["impedance_share"] < 0.02

    # A second one with the same conditions stands in the same setup.
    again = sweep(
        client,
        calibration_id=calibration["id"],
        keep={"name": "again", "setup": FIELD, "build_id": build["id"]},
    )
    assert again["found"]["sweep"]["setup"]["conditions"] == kept["setup"]["conditions"]
    third = sweep(
        client,
        calibration_id=calibration["id"],
        keep={"name": "third", "setup": FIELD, "build_id": build["id"]},
    )
    assert third["found"]["sweep"]["setup"]["id"] == again["found"]["sweep"]["setup"]["id"]


def slips(calibration):
    return [(f["code"], f["values"]) for f in calibration["slips"]]


def test_slips_are_said(client, bench):
    connected(client)
    made = client.post("/api/calibrations", json={"name": "hasty", "low_hz": 20e6, "high_hz": 30e6, "points": 51})
    key = made.json()["id"]

    def take(standard, thing):
        screwed_on(client, thing)
        return done(client, kind="standard", calibration_id=key, standard=standard)["found"]["calibration"]

    take("short", "short")
    left_on = take("open", "short")
    assert slips(left_on) == [("left_on", {"first": "short", "second": "open"})]
    take("open", "load")
    swapped = take("load", "open")
    assert slips(swapped) == [("swapped", {"first": "load", "second": "open"})]
    assert not swapped["complete"]
    take("open", "open")
    right = take("load", "load")
    assert (right["slips"], right["complete"]) == ([], True)

    # The load is still on while the antenna is meant; and the usual slip, widening after calibrating.
    still_on = sweep(client, calibration_id=key)
    assert "like_a_standard" in codes(still_on)
    assert "interpolated" in codes(still_on)
    asked = {"kind": "sweep", "low_hz": 10e6, "high_hz": 30e6, "points": 101, "calibration_id": key}
    refused = client.post("/api/jobs", json=asked)
    assert refused.status_code == 422
    assert refused.json()["code"] == "outside_calibration"
    assert "only from 20 to 30 MHz" in refused.json()["detail"]
    assert codes(sweep(client))[0] == "uncorrected"


@pytest.mark.deep
def test_no_dip_in_view_says_where_to_look(client, bench):
    connected(client)
    screwed_on(client, "loft")
    end = sweep(client, 27.5, 29.5, widen=True)
    found = {f["code"]: f["values"] for f in end["found"]["findings"]}
    assert found["no_dip"]["where"] == "below"
    assert found["dip_elsewhere"]["frequency_hz"] == pytest.approx(24.3e6, rel=0.02)
    assert found["dip_elsewhere"]["low_hz"] < found["dip_elsewhere"]["frequency_hz"]
    assert "no_dip" not in codes(sweep(client, 23.0, 26.0, widen=True))
    screwed_on(client, "open")
    assert "no_dip_anywhere" in codes(sweep(client, widen=True))


def test_a_job_is_told_as_it_goes_and_stopped_when_asked(client, bench):
    connected(client)
    screwed_on(client, "loft")
    asked = {"kind": "sweep", "low_hz": 23e6, "high_hz": 26e6, "points": 401, "passes": None}
    job = client.post("/api/jobs", json=asked).json()
    busy = client.post("/api/jobs", json=asked)
    assert (busy.status_code, busy.json()["code"]) == (409, "analyser_busy")
    with client.stream("GET", f"/api/jobs/{job['id']}/events") as stream:
        told = (json.loads(line[5:]) for line in stream.iter_lines() if line.startswith("data:"))
        later = next(state for state in told if state["progress"]["passes"] > 0)
        assert later["state"] == "running"
        ended = client.delete(f"/api/jobs/{job['id']}").json()
    assert ended["state"] == "stopped"
    assert client.get(f"/api/jobs/{job['id']}").json()["progress"]["passes"] > 0
    gone = client.get(f"/api/jobs/{NOBODY}")
    assert (gone.status_code, gone.json()["code"]) == (404, "job_gone")
    assert sweep(client)["state"] == "done"


def test_a_stopped_average_keeps_its_whole_passes(client, bench):
    connected(client)
    asked = {
        "kind": "sweep",
        "low_hz": 23e6,
        "high_hz": 26e6,
        "points": 1001,
        "passes": 256,
        "keep": {"name": "cut short", "setup": FIELD},
    }
    job = client.post("/api/jobs", json=asked).json()
    while client.get(f"/api/jobs/{job['id']}").json()["progress"]["passes"] < 2:
        pass
    ended = client.delete(f"/api/jobs/{job['id']}").json()
    assert ended["state"] == "stopped"
    passes = ended["progress"]["passes"]
    assert 2 <= passes < 256
    assert ended["found"]["sweep"]["remarks"] == [f"{passes} passes averaged"]


@pytest.mark.parametrize(
    ("fault", "code"),
    [("closed", "analyser_gone"), ("garbage", "analyser_garbage"), ("endless", "analyser_garbage")],
)
def test_what_breaks_in_the_middle_keeps_what_was_there(client, bench, fault, code):
    with serving(Faulty(fault, after=3)) as server:
        connected(client, "address", address=server.address)
        end = sweep(client, passes=8, keep={"name": "broken off", "setup": FIELD})
        assert (end["state"], end["problem"]["code"]) == ("failed", code)
        kept = {"code": "kept_passes", "grave": True, "values": {"passes": 3}}
        assert kept in end["found"]["findings"]
        assert end["found"]["sweep"]["remarks"] == ["3 passes averaged"]
        assert client.get("/api/analyser").json()["problem"]["code"] == code
        server.mend()
        again = sweep(client)
        assert (again["state"], again["progress"]["passes"]) == ("done", 2)
        assert client.get("/api/analyser").json()["connected"]
        connected(client, "none")


def test_one_point_and_bad_input(client, bench):
    connected(client)
    one = done(client, kind="sweep", low_hz=24e6, high_hz=24e6, points=1, passes=2)
    assert one["state"] == "done"
    assert len(one["found"]["curves"]["frequency_hz"]) >= 1
    for wrong, words in (
        ({"low_hz": 26e6, "high_hz": 23e6}, "above low_hz"),
        ({"low_hz": 23e6, "high_hz": 500e6}, "what the analyser sweeps, 0.1 to 200 MHz"),
        ({"low_hz": 23e6, "high_hz": 26e6, "points": 0}, "points"),
        (
            {"low_hz": 23e6, "high_hz": 26e6, "calibration_id": NOBODY},
            "calibrate anew",
        ),
    ):
        refused = client.post("/api/jobs", json={"kind": "sweep", **wrong})
        assert refused.status_code in (404, 422)
        assert words in refused.json()["detail"]
    assert client.put("/api/analyser/bench", json={"thing": "banana"}).json()["code"] == "analyser_refused"
    nobody = client.put("/api/analyser/link", json={"kind": "address", "address": "127.0.0.1:9"})
    assert (nobody.status_code, nobody.json()["code"]) == (503, "analyser_gone")
    none = client.post("/api/jobs", json={"kind": "sweep", "low_hz": 23e6, "high_hz": 26e6})
    assert none.json()["code"] == "analyser_none"


def test_a_simulator_that_stopped_is_said_and_started_again(client, bench, application):
    link = application[0].state.link
    connected(client)
    link.simulated.running = False
    state = client.get("/api/analyser").json()
    assert state["simulated"] == "stopped"
    assert "start it again" in state["problem"]["detail"]
    assert connected(client)["connected"]


def test_a_half_calibration_is_refused_and_a_whole_one_can_be_edited_and_binned(client, bench):
    connected(client)
    half = client.post("/api/calibrations", json={"name": "half", "low_hz": 20e6, "high_hz": 30e6}).json()
    refused = client.post(
        "/api/jobs", json={"kind": "sweep", "low_hz": 21e6, "high_hz": 22e6, "calibration_id": half["id"]}
    )
    assert "a calibration without its short and open and load" in refused.json()["detail"]
    whole = calibrated(client)
    kit = {"load_ohm": 49.6, "open_f": 0.04e-12, "open_offset_m": 0.003}
    changed = client.patch(
        f"/api/calibrations/{whole['id']}", json={"revision": whole["revision"], "name": "mine", "kit": kit}
    ).json()
    assert (changed["name"], changed["kit"]["load_ohm"]) == ("mine", 49.6)
    stale = client.patch(f"/api/calibrations/{whole['id']}", json={"revision": whole["revision"], "name": "x"})
    assert stale.status_code == 409
    at = f"/api/calibrations/{whole['id']}"
    assert client.delete(at, params={"revision": changed["revision"]}).status_code == 204
    assert [c["name"] for c in client.get("/api/calibrations").json()] == ["half"]
    assert client.post(f"{at}/restore").json()["name"] == "mine"


def test_the_baseline_of_an_older_build_can_be_another_sweep(client, bench):
    build = made_build(client)
    connected(client)
    screwed_on(client, "allotment")
    keep = {"name": "with the analyser", "setup": FIELD, "build_id": build["id"]}
    kept = sweep(client, 20.0, 22.5, keep=keep)["found"]["sweep"]
    patch = {"revision": build["revision"], "baseline_sweep_id": kept["id"]}
    assert client.patch(f"/api/builds/{build['id']}", json=patch).json()["baseline_sweep_id"] == kept["id"]


def test_nobody_listening_ends_it(client, bench, application, monkeypatch):
    """Ten seconds in which nobody follows it or asks after it, here a tenth of one."""
    monkeypatch.setattr(jobs, "ABANDONED_S", 0.1)
    connected(client)
    asked = {"kind": "sweep", "low_hz": 23e6, "high_hz": 26e6, "points": 401, "passes": None}
    job = client.post("/api/jobs", json=asked).json()
    while application[0].state.jobs.one(UUID(job["id"])).state == "running":
        time.sleep(0.01)
    assert client.get(f"/api/jobs/{job['id']}").json()["state"] == "stopped"


def test_a_build_that_is_binned_while_it_is_swept_keeps_the_sweep(client, bench):
    connected(client)
    screwed_on(client, "loft")
    build = wire_build(client)
    keep = {"name": "last one", "build_id": build["id"], "setup": {"plane": "feedpoint"}}
    asked = {"kind": "sweep", "low_hz": 23e6, "high_hz": 26e6, "points": 401, "passes": None, "keep": keep}
    job = client.post("/api/jobs", json=asked).json()
    client.delete(f"/api/builds/{build['id']}", params={"revision": build["revision"]}).raise_for_status()
    while client.get(f"/api/jobs/{job['id']}").json()["progress"]["passes"] < 1:
        pass
    client.delete(f"/api/jobs/{job['id']}")
    assert told(client, job["id"])[-1]["state"] in ("done", "stopped")
    client.post(f"/api/builds/{build['id']}/restore")
    assert [s["name"] for s in client.get(f"/api/builds/{build['id']}").json()["sweeps"]] == ["last one"]


def test_who_looks_keeps_nobody_from_sweeping(client, bench):
    """Found: "the analyser is at another sweep" when none was."""
    connected(client)
    with ThreadPoolExecutor(4) as beside:
        looks = [beside.submit(lambda: client.get("/api/analyser").status_code) for _ in range(40)]
        states = [sweep(client, 23.0, 24.0)["state"] for _ in range(4)]
        assert {look.result() for look in looks} == {200}
    assert states == ["done"] * 4
