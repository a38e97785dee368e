"""Requests made by hand: each is answered in words, none breaks anything."""

import copy
import json

import numpy as np
import pytest
from client_helpers import acted, beside, best, drop, hung, made_build, made_design, read, unun, wire_build

MICA = {
    "kind": "capacitor",
    "name": "240 pF mica",
    "values": {"type": "mica", "capacitance_f": 240e-12, "tolerance": 0.05, "voltage_v": 500, "q": 2000},
}
RING = {"kind": "core", "name": "grey ring", "values": {"mix": "43", "size": "FT240"}}
LONG = "x" * 300
DEEP = json.loads("[" * 800 + "]" * 800)


def snapshot(client, piece, **values):
    """The best network with a capacitor of the drawer in it."""
    build = made_build(client)
    content = best(client, build)
    held = {"id": "6a2f2a0e-7d0f-4b53-9f6e-5c1b1a9d2c11", "revision": 1, "values": {**piece["values"], **values}}
    elements = [
        {"kind": "capacitor", "key": e["key"], "place": e["place"], "capacitance_f": 240e-12, "piece": held}
        if "capacitance_f" in e or e["kind"] == "coax_capacitor"
        else e
        for e in content["elements"]
    ]
    return build, {**content, "elements": elements}


def around(content):
    """A design, and its first target."""
    first = content["targets"][0]
    return {"content": content, "low_hz": first["low_hz"], "high_hz": first["high_hz"]}


def test_a_revision_beyond_any_number(client):
    build = made_build(client)
    for revision in (10**10, 10**30, -1):
        url = f"/api/builds/{build['id']}"
        assert client.patch(url, json={"revision": revision, "name": "x"}).status_code == 422
        assert client.delete(url, params={"revision": revision}).status_code == 422
    assert client.get(f"/api/builds/{build['id']}").status_code == 200


def test_the_longest_name_of_typed_points(client):
    points = [{"frequency_hz": f, "resistance_ohm": 50, "reactance_ohm": 1} for f in (14e6, 14.1e6)]
    made = client.post("/api/sweeps/points", json={"name": "n" * 255, "points": points})

    assert made.status_code == 201
    assert len(made.json()["name"]) == 255


@pytest.mark.parametrize("bad", ["a\0b", "\ud800", DEEP, 10**40], ids=["nul", "half", "deep", "long"])
def test_what_no_table_keeps(client, bad):
    bodies = [
        ("/api/pieces", {**MICA, "name": bad}),
        ("/api/pieces", {**MICA, "values": {**MICA["values"], "type": bad}}),
        ("/api/builds", {"name": bad, "targets": [{"label": bad, "low_hz": 7e6, "high_hz": 7.1e6}]}),
        ("/api/matches", {"content": bad}),
        ("/api/quantities", {"text": bad, "kind": "frequency"}),
    ]
    for url, body in bodies:
        answer = client.post(url, content=json.dumps(body), headers={"Content-Type": "application/json"})
        assert answer.status_code == 422, (url, answer.text)
        assert answer.json()["detail"]


@pytest.mark.parametrize("voltage", ["500", [500], {"v": 500}, -1, 1e300, None])
def test_a_capacitor_whose_volts_are_none_is_not_kept_in_a_design(client, voltage):
    build, content = snapshot(client, MICA, voltage_v=voltage)
    kept = client.post(f"/api/builds/{build['id']}/designs", json={"name": "d", "content": content})

    assert kept.status_code in (201, 422)
    if kept.status_code == 201:
        assert client.post("/api/predictions", json=around(content)).status_code == 200


@pytest.mark.parametrize("power", [1e-308, 0, -5, 1e9])
def test_powers_that_nobody_has(client, power):
    sweep = drop(client).json()
    made = client.post("/api/builds", json={"name": "Loft", "sweep_id": sweep["id"], "power_w": power})

    assert made.status_code == 422
    assert "power_w" in made.json()["detail"]


def test_long_names_of_things_of_the_trade(client):
    for change in ({"mix": LONG}, {"size": LONG}):
        answer = client.post("/api/pieces", json={**RING, "values": {**RING["values"], **change}})
        assert answer.status_code in (404, 422)
    build = made_build(client)
    setup = {"plane": "line_end", "line": {"cable": LONG, "length_m": 10}, "conditions": {}}
    reading = {"kind": "reading", "link": 0, "reading": {"kind": "dip", "meter": "meter", "dip_hz": 24.5e6}}
    answer = client.post(f"/api/builds/{build['id']}/entries", json={"data": reading, "setup": setup})
    assert answer.status_code in (404, 422)


def test_more_json_than_a_design_is_refused_before_it_is_read(client):
    answer = client.post("/api/matches", json={"content": {"name": "n" * 2**20}})
    assert (answer.status_code, answer.json()["code"]) == (413, "too_large")


def test_bytes_that_are_no_text(client):
    for body in (b"\xff\xfe{}", b'{"text": "\xff"}', b"{", b"[" * 100_000):
        answer = client.post("/api/quantities", content=body, headers={"Content-Type": "application/json"})
        assert answer.status_code == 422, answer.text


NASTY = [
    None, True, 0, -1, 1e-308, 1e308, 10**17, -(10**17), 0.5, "", " ", "x", LONG, "²", "é", "\0", "\ud800", "1e5",
    [], [[]], [None], {}, {"kind": "x"}, {"": {}}, [1e308] * 3,
]  # fmt: skip


def places(value, at=()):
    """Every place in a body, the body itself first."""
    yield at
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for name, each in inner:
        yield from places(each, (*at, name))


def put(body, at, value):
    if not at:
        return value
    changed = copy.deepcopy(body)
    inner = changed
    for name in at[:-1]:
        inner = inner[name]
    inner[at[-1]] = value
    return changed


def said_so_far(client):
    """Bodies of every kind of request, as the page sends them."""
    sent = []

    def note(request):
        if request.headers.get("content-type") == "application/json":
            sent.append((request.method, str(request.url), json.loads(request.content)))

    client.event_hooks["request"].append(note)
    try:
        build = made_build(client)
        design = made_design(client, build)
        content = design["revision"]["content"]
        for name in ("predictions", "yields", "matches", "feedlines"):
            client.post(f"/api/{name}", json=around(content))
        client.post(f"/api/designs/{design['id']}/revisions", json={"edited": 1, "content": content})
        client.patch(f"/api/designs/{design['id']}", json={"name_revision": 1, "name": "x"})
        client.patch("/api/settings", json={"revision": 1, "units": "ft", "bands": {}})
        wire = wire_build(client)
        hung(client, wire, 2.96)
        read(client, wire, {"kind": "dip", "meter": "meter", "dip_hz": 24.5e6})
        acted(client, wire, "fold", 0.02, 0.02)
        client.post("/api/lengths", json={"plan": {}, "bands": [{"label": "12 m", "frequency_hz": 24.94e6}]})
        wound = {"content": unun(), "key": "unun"}
        for name in ("windings", "windings/other-way", "cores", "cores/capacitor"):
            client.post(f"/api/{name}", json=wound)
        swept = [{"setup": "resistor", "sweep_id": build["sweeps"][0]["id"], "resistor_ohm": 3200}]
        client.post("/api/bench-verdicts", json={**wound, "swept": swept})
        once = [{"turns": 11, "sweep_id": build["sweeps"][0]["id"]}]
        client.post("/api/characterisations/ring", json={"wound": once, "size": "FT240", "stack": 1})
        client.post("/api/characterisations/part", json={"kind": "coil", "sweep_id": build["sweeps"][0]["id"]})
        coil = next(e for e in content["elements"] if e["kind"] == "coil")
        client.post("/api/rulers", json={"element": coil, "center_hz": 28.5e6, "low": 1e-6, "high": 3e-6})
        client.post("/api/combinations", json={"capacitance_f": 200e-12, "voltage_v": 100})
        for piece in (MICA, RING):
            client.post("/api/pieces", json=piece)
        client.post("/api/calibrations", json={"name": "b", "low_hz": 1e6, "high_hz": 30e6, "points": 11})
        client.post("/api/quantities", json={"text": "14.2", "kind": "frequency", "length_unit": "m"})
        client.post("/api/windings", json={"content": beside(), "key": "choke"})
    finally:
        client.event_hooks["request"].remove(note)
    return sent


@pytest.mark.deep
def test_a_thousand_bodies_with_one_thing_wrong(client):
    """No 5xx, and what is refused says why. Seeds of 1 to 1,000."""
    sent = said_so_far(client)
    assert len({url.rsplit("/", 1)[-1] for _, url, _ in sent}) > 20
    for seed in range(1, 1001):
        rng = np.random.default_rng(seed)
        method, url, body = sent[rng.integers(len(sent))]
        everywhere = list(places(body))
        at = everywhere[rng.integers(len(everywhere))]
        changed = put(body, at, NASTY[rng.integers(len(NASTY))])
        answer = client.request(
            method, url, content=json.dumps(changed), headers={"Content-Type": "application/json"}
        )
        assert answer.status_code < 500, (seed, url, at, answer.text)
        if answer.status_code >= 400:
            assert answer.json()["detail"], (seed, url, at)
