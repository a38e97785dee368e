"""Every way into the application and out of it: tables, S11, typed points, SWR alone, two sweeps compared."""

from uuid import uuid4

import numpy as np
import pytest
from asking import BAND, DEMO, drop

from yielding_coil.formats import table, touchstone

TWO_PORT = b"# MHz S RI R 50\n20 0.5 -0.4 0 0 0 0 0 0\n22.5 0.4 -0.5 0 0 0 0 0 0\n"
CSV = b"MHz,R,X\n20,60,-400\n21.2,85,-411\n22.5,120,-300\n"
SWR = b"MHz;SWR\n20,9;2,5\n21,2;1,3\n21,5;2,2\n"


def test_a_table_is_kept_to_the_byte_and_read(client):
    kept = drop(client, CSV, "orchard.csv").json()
    curves = client.get(f"/api/sweeps/{kept['id']}/curves").json()

    assert (kept["points"], kept["low_hz"], kept["carries"]) == (3, 20e6, "impedance")
    assert client.get(f"/api/sweeps/{kept['id']}/original").content == CSV
    assert curves["sampled_hz"] == [20e6, 21.2e6, 22.5e6]
    at = curves["frequency_hz"].index(21.2e6)
    assert (curves["resistance_ohm"][at], curves["reactance_ohm"][at]) == pytest.approx((85, -411))


def test_s11_of_two_ports_is_offered_and_taken(client):
    refused = drop(client, TWO_PORT, "two.s2p")
    assert (refused.status_code, refused.json()["offers"]) == (422, ["S11"])

    params = {"name": "two.s2p", "take": "S11"}
    kept = client.post("/api/sweeps", params=params, content=TWO_PORT).json()
    out = touchstone.read(client.get(f"/api/sweeps/{kept['id']}/export").content)
    assert out.reflection() == pytest.approx([0.5 - 0.4j, 0.4 - 0.5j])
    assert client.get(f"/api/sweeps/{kept['id']}/original").content == TWO_PORT


def test_typed_points_are_a_sweep_in_their_own_right(client):
    points = [
        {"frequency_hz": 22e6, "resistance_ohm": 100, "reactance_ohm": -380},
        {"frequency_hz": 20e6, "resistance_ohm": 60, "reactance_ohm": -450},
    ]
    kept = client.post("/api/sweeps/points", json={"name": "with the dip meter", "points": points}).json()

    assert (kept["source"], kept["name"], kept["low_hz"]) == ("typed", "with the dip meter", 20e6)
    again = table.read(client.get(f"/api/sweeps/{kept['id']}/original").content).found
    assert again.impedance_ohm == pytest.approx([60 - 450j, 100 - 380j])


@pytest.mark.parametrize(
    ("points", "words"),
    [
        ([(20e6, 50, 0), (20e6, 60, 0)], "20 MHz twice"),
        ([(20e6, 50, 0)], "at least 2"),
        ([(20e6, -5, 0), (21e6, 50, 0)], "greater than or equal to 0"),
        ([(0, 5, 0), (21e6, 50, 0)], "greater than"),
    ],
)
def test_wrong_points_are_refused(client, points, words):
    body = {
        "points": [dict(zip(("frequency_hz", "resistance_ohm", "reactance_ohm"), p, strict=True)) for p in points]
    }
    refused = client.post("/api/sweeps/points", json=body)

    assert refused.status_code == 422
    assert words in refused.json()["detail"]


class TestSwrAlone:
    @pytest.fixture
    def kept(self, client):
        return drop(client, SWR, "dial.csv").json()

    def test_it_is_kept_and_drawn_without_r_and_x(self, client, kept):
        curves = client.get(f"/api/sweeps/{kept['id']}/curves").json()

        assert kept["carries"] == "swr"
        assert set(curves["resistance_ohm"]) == {None}
        at = curves["frequency_hz"].index(21.2e6)
        assert curves["swr"][at] == pytest.approx(1.3)

    def test_it_is_read_for_what_it_carries(self, client, kept):
        band = {**BAND, "low_hz": 21.0e6, "high_hz": 21.4e6}
        read = client.post(f"/api/sweeps/{kept['id']}/readings", json={"targets": [band]}).json()

        assert (read["best_frequency_hz"], read["best_swr"]) == (21.2e6, 1.3)
        assert read["q"] is None
        assert read["targets"][0]["lowest_resistance_ohm"] is None
        assert read["targets"][0]["holds"]

    def test_a_match_from_it_is_refused_and_says_what_to_do(self, client, kept):
        content = {"antenna": {"kind": "sweep", "sweep_id": kept["id"]}, "targets": [BAND], "elements": []}
        refused = client.post("/api/matches", json={"content": content})

        assert (refused.status_code, refused.json()["code"]) == (422, "swr_only")
        assert "type R and X" in refused.json()["detail"]
        assert client.get(f"/api/sweeps/{kept['id']}/export").status_code == 422

    def test_it_goes_out_as_a_table(self, client, kept):
        out = client.get(f"/api/sweeps/{kept['id']}/export", params={"as": "csv"})

        assert table.read(out.content).found.swr == pytest.approx([2.5, 1.3, 2.2])


def test_a_sweep_goes_out_as_a_table(client):
    kept = drop(client).json()
    out = client.get(f"/api/sweeps/{kept['id']}/export", params={"as": "csv"})
    sweep = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())

    assert out.headers["content-disposition"].endswith('"allotment.csv"')
    assert table.read(out.content).found.impedance_ohm == pytest.approx(sweep.impedance_ohm, rel=1e-8)


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


@pytest.mark.parametrize("asked", [{"low_hz": 30e6, "high_hz": 31e6}, {"low_hz": 21e6, "high_hz": 20.5e6}])
def test_a_stretch_outside_the_sweep_is_refused(client, asked):
    kept = drop(client).json()
    refused = client.get(f"/api/sweeps/{kept['id']}/curves", params=asked)

    assert refused.status_code == 422
    assert "a stretch of the sweep" in refused.json()["detail"]


def test_a_sweep_for_a_build_that_is_not_there_is_not_kept(client):
    params = {"name": "a.csv", "build_id": str(uuid4())}

    assert client.post("/api/sweeps", params=params, content=CSV).status_code == 404
