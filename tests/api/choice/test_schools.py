"""Schools compared over HTTP as a job, and one of them planned in full."""

import time

import pytest
from patience import PATIENCE_S

BANDS = [
    {"label": label, "low_hz": low * 1e6, "high_hz": high * 1e6, "swr_limit": 2}
    for label, low, high in (("15 m", 21.0, 21.45), ("12 m", 24.89, 24.99))
]
THIRTY = {"label": "30 m", "low_hz": 10.1e6, "high_hz": 10.15e6, "swr_limit": 2}
LOFT = {
    "high_m": 6,
    "is_pole": False,
    "other_m": 6,
    "span_m": 8,
    "width_m": 8,
    "on_ground": False,
}


def done(client, job):
    until = time.monotonic() + PATIENCE_S
    while job["state"] in ("queued", "running") and time.monotonic() < until:
        time.sleep(0.05)
        job = client.get(f"/api/jobs/{job['id']}").json()
    return job


def begun(client, **changes):
    body = {"kind": "schools", "place": LOFT, "targets": BANDS, **changes}
    return client.post("/api/jobs", json=body)


@pytest.mark.deep
def test_where_nothing_fits_the_job_says_which_band_to_drop(client):
    place = {"high_m": 2, "width_m": 3, "on_ground": False, "clear_m": 0.5}
    job = done(client, begun(client, place=place, targets=[THIRTY, BANDS[1]]).json())
    assert job["state"] == "done", job
    assert all(card["obstacle"] for card in job["found"]["cards"])
    assert job["found"]["drop"] == ["30 m"]
    assert all(r["order"] == [] for r in job["found"]["rankings"])


@pytest.mark.deep
def test_every_school_is_compared_as_a_job(client):
    answer = begun(client)
    assert answer.status_code == 202, answer.text
    job = done(client, answer.json())
    assert job["state"] == "done", job
    found = job["found"]
    assert job["progress"]["done"] == job["progress"]["of"] == len(found["cards"])
    cards = {card["key"]: card for card in found["cards"]}
    trap = cards["trap-dipole"]
    assert [n["what"] for n in trap["needs"]] == ["wire", "coax", "trap"]
    assert trap["needs"][2]["count"] == 2
    assert len(trap["wires"]) == 1
    assert len(trap["parts"]) == 2
    assert cards["vertical"]["obstacle"]["code"] == "pole"
    best = next(r for r in found["rankings"] if r["care"] == "watts")["order"][0]
    assert found["cards"][best]["obstacle"] is None


@pytest.mark.deep
def test_a_ring_of_the_drawer_is_known_with_its_price(client):
    piece = {
        "kind": "core",
        "name": "ring by the window",
        "count": 2,
        "price": "4.50",
        "values": {"mix": "43", "size": "FT240"},
    }
    assert client.post("/api/pieces", json=piece).status_code == 201
    job = done(client, begun(client, place={"high_m": 7, "width_m": 20}).json())
    end_fed = next(c for c in job["found"]["cards"] if c["key"] == "end-fed")
    ring = next(n for n in end_fed["needs"] if n["what"] == "unun")
    assert (ring["ring"], ring["have"], ring["price"]) == ("FT240-43", True, "4.50")


@pytest.mark.deep
def test_one_is_planned_in_full_with_its_traps(client):
    body = {"place": LOFT, "targets": BANDS, "school": "trap-dipole"}
    content = client.post("/api/schools/plans", json=body).json()["content"]
    assert content["antenna"]["antenna"] == "trap-dipole"
    (trap,) = content["beside"]
    assert (trap["kind"], trap["legs"]) == ("trap", 2)
    assert trap["tuned_hz"] == content["antenna"]["numbers"]["trap_hz"]
    found = client.post("/api/predictions/bands", json={"content": content}).json()
    assert all(each["swr_meter"] < 3 for each in found["bands"])


def test_a_loaded_one_brings_its_coil(client):
    body = {"place": {"high_m": 5, "width_m": 10}, "targets": [THIRTY], "school": "loaded-vertical"}
    content = client.post("/api/schools/plans", json=body).json()["content"]
    (coil,) = content["beside"]
    assert coil["kind"] == "coil"
    assert coil["inductance_h"] > 1e-6


def test_of_a_linked_one_the_highest_band_comes_first(client):
    body = {"place": {"high_m": 7, "width_m": 20}, "targets": [THIRTY, *BANDS], "school": "linked-v"}
    content = client.post("/api/schools/plans", json=body).json()["content"]
    assert content["targets"][0]["label"] == "12 m"
    assert content["antenna"]["numbers"]["leg_m"] == pytest.approx(2.8, abs=0.2)


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"targets": []}, "bands is none; it must be at least one"),
        ({"place": {**LOFT, "width_m": 0}}, "width_m is 0 m"),
        ({"place": {**LOFT, "span_m": 0}}, "both, or neither"),
        ({"place": {**LOFT, "high_m": -1}}, "high_m"),
    ],
)
def test_bad_input_is_refused_in_words(client, changes, said):
    answer = begun(client, **changes)
    assert answer.status_code == 422
    assert said in answer.text


def test_a_school_that_does_not_fit_is_not_planned(client):
    answer = client.post("/api/schools/plans", json={"place": LOFT, "targets": BANDS, "school": "vertical"})
    assert answer.status_code == 422
    assert "one that fits" in answer.text


@pytest.mark.deep
def test_it_is_stopped(client):
    job = begun(client, targets=[THIRTY, *BANDS], place={"high_m": 12, "width_m": 40}).json()
    ended = client.delete(f"/api/jobs/{job['id']}").json()
    assert ended["state"] in ("stopped", "done")
