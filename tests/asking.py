"""What tests ask of the application again and again, over HTTP."""

from pathlib import Path

DEMO = Path(__file__).parents[1] / "yielding_coil" / "demo"
BAND = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}


def drop(client, data=None, name="allotment.s1p"):
    data = (DEMO / "allotment-feedpoint.s1p").read_bytes() if data is None else data
    return client.post("/api/sweeps", params={"name": name}, content=data)


def bare(build):
    """A design without parts, only its coax."""
    return {
        "antenna": {"kind": "sweep", "sweep_id": build["baseline_sweep_id"]},
        "targets": build["targets"],
        "elements": [{"kind": "line", "key": "line", "cable": "foam-6", "length_m": 17.6}],
    }


def best(client, build):
    """The best network for a build."""
    return client.post("/api/matches", json={"content": bare(build)}).json()[0]["content"]


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
