"""The search as a job: from what is sold, from a drawer, from an empty one; chosen, kept and opened again."""

import os
import signal
import time

import pytest
from patience import PATIENCE_S

FIVE = (3.9, 10, 22, 47, 100)


@pytest.fixture
def content(client, build):
    return {
        "version": 1,
        "antenna": {"kind": "resistor", "resistance_ohm": 85, "reactance_ohm": -411},
        "targets": build["targets"],
        "elements": [{"kind": "line", "key": "line", "cable": "foam-6", "length_m": 17.6}],
        "seed": 1,
        "reading_spread": 0.02,
    }


@pytest.fixture
def drawer(client):
    """Five capacitors and one former."""
    held = [
        {
            "kind": "capacitor",
            "name": f"{pf:g} pF mica",
            "count": 2,
            "price": "1,20",
            "values": {"type": "mica", "capacitance_f": pf * 1e-12, "voltage_v": 1000},
        }
        for pf in FIVE
    ]
    held.append(
        {"kind": "former", "name": "32 mm pipe", "price": "2.00", "values": {"outer_m": 0.032, "length_m": 0.2}}
    )
    made = [client.post("/api/pieces", json=each).json() for each in held]
    yield made
    for piece in made:
        client.delete(f"/api/pieces/{piece['id']}", params={"revision": piece["revision"]})


def begun(client, content, **more):
    answer = client.post("/api/jobs", json={"kind": "search", "content": content, **more})
    assert answer.status_code == 202, answer.text
    return answer.json()["id"]


def state_of(client, job, until):
    end = time.monotonic() + PATIENCE_S
    while time.monotonic() < end:
        state = client.get(f"/api/jobs/{job}").json()
        if until(state):
            return state
        time.sleep(0.02)
    raise AssertionError("it took too long")


def ended(client, job):
    return state_of(client, job, lambda s: s["state"] not in ("queued", "running"))


@pytest.mark.deep
def test_a_drawer_of_five_capacitors_and_one_former(client, content, drawer):
    state = ended(client, begun(client, content, parts="drawer"))

    found = state["found"]
    assert (state["state"], state["problem"]) == ("done", None)
    assert found["holds"]
    assert not found["nothing_mine"]
    ids = {piece["id"] for piece in drawer}
    for way in found["front"]:
        kinds = {thing["kind"]: thing for thing in way["things"]}
        assert all(t["piece_id"] in ids for t in way["things"] if t["kind"] != "wire")
        # Nobody counts wire: where the drawer holds none it is to be bought.
        assert "wire" not in kinds or not kinds["wire"]["mine"]
        assert way["content"]["elements"][-1]["kind"] == "line"
        assert 0 <= way["share"] <= 1
        assert way["price"] is None


@pytest.mark.deep
def test_a_way_is_chosen_kept_and_opened_again(client, content, build, drawer):
    way = ended(client, begun(client, content, parts="drawer"))["found"]["front"][0]
    frame = {"low_hz": 20.8e6, "high_hz": 21.6e6, "points": 41}

    predicted = client.post("/api/predictions", json={"content": way["content"], **frame}).json()
    design = client.post(f"/api/builds/{build['id']}/designs", json={"name": "found", "content": way["content"]})
    opened = client.get(f"/api/designs/{design.json()['id']}").json()

    worst = [t["worst_swr"] for t in predicted["targets"]]
    assert worst == pytest.approx(way["worst_swr"], rel=1e-3)
    assert opened["revision"]["content"] == design.json()["revision"]["content"]
    assert {e["key"] for e in opened["revision"]["content"]["elements"]} >= {p["key"] for p in way["parts"]}


@pytest.mark.deep
def test_an_empty_drawer_says_what_to_buy(client, content):
    job = begun(client, content, parts="drawer")
    state = state_of(client, job, lambda s: s["found"] and s["found"]["front"])
    client.delete(f"/api/jobs/{job}")

    assert state["found"]["nothing_mine"]
    assert all(not thing["mine"] for way in state["found"]["front"] for thing in way["things"])


@pytest.mark.deep
def test_it_is_stopped_and_what_it_found_stays(client, content):
    job = begun(client, content)
    state_of(client, job, lambda s: s["progress"]["looked"] > 0)

    begin = time.perf_counter()
    stopped = client.delete(f"/api/jobs/{job}").json()

    assert stopped["state"] == "stopped"
    assert time.perf_counter() - begin < 1.0
    assert stopped["found"]["ideals"]


@pytest.mark.deep
def test_two_people_search_at_once(client, content):
    other = {**content, "antenna": {"kind": "resistor", "resistance_ohm": 20, "reactance_ohm": -100}}
    both = [begun(client, c) for c in (content, other)]
    states = [state_of(client, job, lambda s: s["progress"]["done"] > 3) for job in both]
    client.delete(f"/api/jobs/{both[0]}")
    after = client.get(f"/api/jobs/{both[1]}").json()
    client.delete(f"/api/jobs/{both[1]}")

    assert [s["state"] for s in states] == ["running", "running"]
    assert after["state"] == "running"


@pytest.mark.deep
def test_a_killed_process_is_told_and_the_next_search_begins(client, content, application):
    job = begun(client, content)
    state_of(client, job, lambda s: s["progress"]["done"] > 0)
    for pid in application[0].state.searchers.pids:
        os.kill(pid, signal.SIGKILL)

    lost = ended(client, job)
    next_job = begun(client, content)
    going = state_of(client, next_job, lambda s: s["progress"]["done"] > 0)
    client.delete(f"/api/jobs/{next_job}")

    assert (lost["state"], lost["problem"]["code"]) == ("failed", "search_lost")
    assert "start it again" in lost["problem"]["detail"]
    assert going["state"] == "running"


@pytest.mark.deep
def test_power_beyond_every_rating_is_said(client, content, drawer):
    state = ended(client, begun(client, content, parts="drawer", power_w=1e5))

    assert state["state"] == "done"
    assert state["found"]["over_rating"] > 0
    assert not state["found"]["holds"]


def test_a_band_upside_down_is_refused_before_it_begins(client, content):
    content["targets"] = [{"label": "15 m", "low_hz": 21.5e6, "high_hz": 21.0e6, "swr_limit": 2}]

    answer = client.post("/api/jobs", json={"kind": "search", "content": content})

    assert answer.status_code == 422
    assert "above low_hz" in answer.json()["detail"]


@pytest.mark.deep
def test_a_wire_with_no_resistance_is_refused_by_the_search(client, content):
    content["antenna"] = {"kind": "resistor", "resistance_ohm": 0, "reactance_ohm": 10}

    state = ended(client, begun(client, content))

    assert (state["state"], state["problem"]["code"]) == ("failed", "out_of_domain")
    assert "a resistance above zero" in state["problem"]["detail"]
