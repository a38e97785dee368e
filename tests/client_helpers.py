"""What tests ask of the application again and again, over HTTP."""

import copy
import json
from pathlib import Path

from patience import PATIENCE_S

DEMO = Path(__file__).parents[1] / "yielding_coil" / "demo"
# What a new installation opens with.
DEMO_BUILDS = [
    "Allotment long vertical",
    "Loft dipole, 12 m",
    "Loft trap dipole",
    "Narrowboat loaded vertical",
    "Orchard end-fed",
    "Orchard sloping wire",
]
BAND = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}
COUPLER = {
    "core": {"mix": "2", "size": "T68"},
    "primary_turns": 3,
    "secondary_turns": 20,
    "wiring": "separate",
    "wire": "cu-0.5",
    "crossed": False,
    "leakage_h": 0.08e-6,
    "tuning": {"low_f": 8e-12, "high_f": 250e-12, "set_f": 100e-12, "voltage_v": 200},
}


def drop(client, data=None, name="allotment.s1p"):
    data = (DEMO / "allotment-feedpoint.s1p").read_bytes() if data is None else data
    return client.post("/api/sweeps", params={"name": name}, content=data)


def connected(client, kind="simulated", **more):
    """The application with its analyser."""
    answer = client.put("/api/analyser/link", json={"kind": kind, **more})
    assert answer.status_code == 200, answer.text
    return answer.json()


def screwed_on(client, thing):
    answer = client.put("/api/analyser/bench", json={"thing": thing})
    assert answer.status_code == 200, answer.text


def told(client, job_id):
    """Every state of a job that was told of, to its end."""
    states = []
    with client.stream("GET", f"/api/jobs/{job_id}/events", timeout=PATIENCE_S) as stream:
        for line in stream.iter_lines():
            if line.startswith("data:"):
                states.append(json.loads(line[5:]))
    return states


def done(client, **asked):
    """A job from its beginning to its end."""
    answer = client.post("/api/jobs", json=asked)
    assert answer.status_code == 202, answer.text
    return told(client, answer.json()["id"])[-1]


def calibrated(client, low_hz=20e6, high_hz=30e6, points=101):
    """A calibration with its three standards."""
    made = {"name": "bench", "low_hz": low_hz, "high_hz": high_hz, "points": points}
    calibration = client.post("/api/calibrations", json=made).json()
    for standard in ("short", "open", "load"):
        screwed_on(client, standard)
        end = done(client, kind="standard", calibration_id=calibration["id"], standard=standard)
        assert end["state"] == "done", end
    return end["found"]["calibration"]


def bare(build):
    """A design without parts, only its coax."""
    return {
        "antenna": {"kind": "sweep", "sweep_id": build["baseline_sweep_id"]},
        "targets": build["targets"],
        "elements": [{"kind": "line", "key": "line", "cable": "foam-6", "length_m": 17.6}],
    }


# The search takes a third of a second: asked for once for each sweep and its targets.
_found = {}


def best(client, build):
    """The best network for a build."""
    sweep = next(s for s in build["sweeps"] if s["id"] == build["baseline_sweep_id"])
    key = json.dumps([build["targets"], sweep["name"], sweep["low_hz"], sweep["high_hz"]])
    if key not in _found:
        _found[key] = client.post("/api/matches", json={"content": bare(build)}).json()[0]["content"]
    return {**copy.deepcopy(_found[key]), "antenna": bare(build)["antenna"]}


def turned(design, inductance_h):
    """The design's content with its coil at another value."""
    content = design["revision"]["content"]
    elements = [{**e, "inductance_h": inductance_h} if e["kind"] == "coil" else e for e in content["elements"]]
    return {**content, "elements": elements}


def coil_of(revision):
    return next(e["inductance_h"] for e in revision["content"]["elements"] if e["kind"] == "coil")


def made_build(client, name="Allotment"):
    """A build from the demo's sweep."""
    sweep = drop(client).json()
    return client.post("/api/builds", json={"name": name, "sweep_id": sweep["id"]}).json()


def made_design(client, build, name="Coil up"):
    """The best network for a build, kept."""
    made = {"name": name, "content": best(client, build)}
    return client.post(f"/api/builds/{build['id']}/designs", json=made).json()


TWELVE = {"label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6, "swr_limit": 1.5}


def wire_build(client, targets=(TWELVE,), name="Loft dipole", **plan):
    """A build whose wire is still to be cut."""
    answer = client.post("/api/builds", json={"name": name, "targets": list(targets), "wire": plan})
    assert answer.status_code == 201, answer.text
    return answer.json()


def logged(client, build, data, **more):
    """An entry in the log of a build."""
    return client.post(f"/api/builds/{build['id']}/entries", json={"data": data, **more})


def hung(client, build, *reach_m, **more):
    answer = logged(client, build, {"kind": "hung", "reach_m": list(reach_m), **more})
    assert answer.status_code == 201, answer.text


def acted(client, build, act, *per_leg_m, link=0):
    answer = logged(client, build, {"kind": "cut", "link": link, "act": act, "per_leg_m": list(per_leg_m)})
    assert answer.status_code == 201, answer.text
    return answer.json()


def read(client, build, reading, link=0, **more):
    return logged(client, build, {"kind": "reading", "link": link, "reading": reading}, **more)


def trim_of(client, build, **query):
    answer = client.get(f"/api/builds/{build['id']}/trim", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


def says(trim):
    """Findings by their code."""
    return {f["code"]: f["values"] for f in trim["findings"]}


END_FED = [
    {"label": "30 m", "low_hz": 10.1e6, "high_hz": 10.15e6, "swr_limit": 3.0},
    {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 3.0},
    {"label": "10 m", "low_hz": 28.0e6, "high_hz": 29.7e6, "swr_limit": 3.0},
]


def unun(ohm=3200.0, targets=END_FED, line_m=None, **changes):
    """A design with an unun on a resistor: 2 in 16, crossed over, unless changed."""
    wound = {
        "kind": "transformer",
        "key": "unun",
        "core": {"mix": "43", "size": "FT240"},
        "wire": "cu-1",
        "wiring": "tapped",
        "primary_turns": 2,
        "secondary_turns": 16,
        "crossed": True,
        **changes,
    }
    line = [{"kind": "line", "key": "line", "cable": "foam-6", "length_m": line_m}] if line_m else []
    return {
        "antenna": {"kind": "resistor", "resistance_ohm": ohm},
        "targets": targets,
        "elements": [wound, *line],
    }


def wound_of(client, content, key="unun", **more):
    """Everything about one wound element."""
    answer = client.post("/api/windings", json={"content": content, "key": key, **more})
    assert answer.status_code == 200, answer.text
    return answer.json()


CHOKE = {
    "kind": "choke",
    "key": "choke",
    "core": {"mix": "43", "size": "FT240"},
    "cable": "ptfe-2.8",
    "outer_m": 2.8e-3,
    "turns": 11,
    "crossed": True,
}
TRAP = {"kind": "trap", "key": "trap", "tuned_hz": 24.192e6, "high_hz": 24.94e6, "low_hz": 21.225e6}


def beside(*things, **more):
    """A design on a resistor with things wound beside its cascade."""
    return {
        "antenna": {"kind": "resistor", "resistance_ohm": 50.0},
        "targets": END_FED,
        "elements": [],
        "beside": list(things),
        **more,
    }


def measured(client, calibration, low_hz=1.8e6, high_hz=30e6, points=101, passes=4, name="bench"):
    """A kept sweep of what is on the bench."""
    end = done(
        client,
        kind="sweep",
        low_hz=low_hz,
        high_hz=high_hz,
        points=points,
        passes=passes,
        calibration_id=calibration["id"],
        keep={"name": name, "setup": {"plane": "bench"}},
    )
    assert end["state"] == "done", end
    return end["found"]["sweep"]


def revise(client, design, edited, inductance_h):
    body = {"edited": edited, "content": turned(design, inductance_h)}
    return client.post(f"/api/designs/{design['id']}/revisions", json=body)
