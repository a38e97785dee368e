"""Sweeps over HTTP: in to the byte, drawn, read, out again."""

from uuid import uuid4

import numpy as np
import pytest
from client_helpers import BAND, DEMO, drop, made_build

from yielding_coil.core.sweep import Sweep
from yielding_coil.formats import table, touchstone

TWO_PORT = b"# MHz S RI R 50\n20 0.5 -0.4 0 0 0 0 0 0\n22.5 0.4 -0.5 0 0 0 0 0 0\n"
CSV = b"MHz,R,X\n20,60,-400\n21.2,85,-411\n22.5,120,-300\n"
SWR = b"MHz;SWR\n20,9;2,5\n21,2;1,3\n21,5;2,2\n"


class TestSweeps:
    def test_a_dropped_file_is_kept_to_the_byte(self, client):
        data = b"\xef\xbb\xbf! caf\xe9\r\n# kHz Z MA R 75\r\n21000 1.5 -80\r\n21500\t1.4 -79 ! end\r\n"
        kept = drop(client, data, "orchard wire.s1p").json()

        again = client.get(f"/api/sweeps/{kept['id']}/original")
        assert again.content == data
        assert again.headers["content-disposition"] == 'attachment; filename="orchard wire.s1p"'
        assert (kept["points"], kept["low_hz"], kept["reference_ohm"]) == (2, 21.0e6, 75)

    def test_its_curves_are_those_of_the_file(self, client):
        kept = drop(client).json()
        curves = client.get(f"/api/sweeps/{kept['id']}/curves", params={"points": 800}).json()
        sweep = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())

        assert curves["frequency_hz"] == sweep.frequency_hz.tolist()
        assert curves["resistance_ohm"] == pytest.approx(sweep.impedance_ohm.real, rel=1e-5)
        assert curves["swr"] == pytest.approx(sweep.swr(), rel=1e-5)

    def test_an_export_is_read_again(self, client):
        kept = drop(client).json()
        again = touchstone.read(client.get(f"/api/sweeps/{kept['id']}/export").content)

        sweep = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())
        assert again.impedance_ohm == pytest.approx(sweep.impedance_ohm, rel=1e-9)

    @pytest.mark.deep
    def test_many_points_are_thinned_without_losing_the_dip(self, client):
        f = np.linspace(20e6, 22e6, 20001)
        z = 50 * (1 + 1j * 400 * (f / 21.2345e6 - 21.2345e6 / f))
        rows = "\n".join(f"{a:.0f} {b.real / 50:.8g} {b.imag / 50:.8g}" for a, b in zip(f, z, strict=True))
        kept = drop(client, f"# Hz Z RI R 50\n{rows}\n".encode()).json()
        curves = client.get(f"/api/sweeps/{kept['id']}/curves", params={"points": 200}).json()

        assert len(curves["frequency_hz"]) <= 200
        assert min(curves["swr"]) < 1.01

    @pytest.mark.parametrize(
        ("data", "words"),
        [
            (b"", "the file is empty; choose a Touchstone file"),
            (b"\x89PNG\r\n\x1a\n" + bytes(200), "this is a PNG picture"),
            (b"# Hz S RI R 50\n1e6 0 0\n1e6 0 0\n", "line 3: 1 MHz repeats"),
            (b"# Hz S RI R 0\n1e6 0 0\n", "line 1: the reference is 0"),
            (b"# Hz S RI R 50\n1e6 1.2 0\n", "line 2: |Γ| is 1.200"),
            (b"# Hz S RI R 50\n1e6 nan 0\n", "line 2: “nan” is not a finite number"),
        ],
    )
    def test_what_is_no_sweep_is_refused_and_not_kept(self, client, engine, data, words):
        refused = drop(client, data)

        assert refused.status_code == 422
        assert refused.headers["content-type"] == "application/problem+json"
        assert words in refused.json()["detail"]
        with engine.connect() as connection:
            assert connection.exec_driver_sql("SELECT count(*) FROM sweeps").scalar_one() == 0

    def test_two_port_data_offer_s11(self, client):
        refused = drop(client, b"# Hz S RI R 50\n1e6 0 0 1 0 1 0 0 0\n").json()

        assert (refused["code"], refused["offers"], refused["line"]) == ("many_ports", ["S11"], 2)

    def test_more_than_32_mib_is_refused_while_it_comes(self, client):
        refused = drop(client, b"!" * (32 * 2**20 + 1))

        assert (refused.status_code, refused.json()["code"]) == (413, "too_large")

    def test_readings(self, client, build):
        found = client.post(f"/api/sweeps/{build['baseline_sweep_id']}/readings", json={"targets": [BAND]}).json()

        assert found["resonances"] == []
        assert found["bandwidth"] is None
        assert found["targets"][0]["worst_swr"] == pytest.approx(44.1, abs=0.2)
        assert found["targets"][0]["holds"] is False

    def test_a_band_outside_the_sweep_is_refused_by_name(self, client, build):
        outside = {**BAND, "label": "12 m", "low_hz": 24.89e6, "high_hz": 24.99e6}
        refused = client.post(f"/api/sweeps/{build['baseline_sweep_id']}/readings", json={"targets": [outside]})

        assert refused.status_code == 422
        assert "12 m, 24.890 to 24.990 MHz" in refused.json()["detail"]
        assert "sweep wider" in refused.json()["detail"]

    def test_an_unknown_sweep_says_what_to_do(self, client):
        gone = client.get(f"/api/sweeps/{uuid4()}")

        assert (gone.status_code, gone.json()["code"]) == (404, "not_found")
        assert "drop its file again" in gone.json()["detail"]

    def test_of_several_bands_the_best_matched_comes_first(self, client):
        f = np.linspace(6e6, 15e6, 181)
        z = 40 + 600j * (f / 14.2e6 - 14.2e6 / f)  # resonant on 20 m
        rows = "\n".join(f"{a:.0f} {b.real / 50:.8g} {b.imag / 50:.8g}" for a, b in zip(f, z, strict=True))
        kept = drop(client, f"# Hz Z RI R 50\n{rows}\n".encode()).json()

        assert [t["label"] for t in kept["suggested_targets"]] == ["20 m", "30 m", "40 m"]

    def test_a_sweep_without_a_band_is_wanted_at_its_best(self, client):
        kept = drop(client, b"# MHz Z RI R 50\n8.0 .2 -1\n8.5 .9 0\n9.0 .3 1\n").json()
        (target,) = kept["suggested_targets"]

        assert target["low_hz"] < 8.5e6 < target["high_hz"]

    def test_a_single_frequency_is_refused(self, client):
        refused = drop(client, b"# MHz Z RI R 50\n8.0 .2 -1\n")

        assert refused.status_code == 422
        assert "one frequency; a sweep has two at least" in refused.json()["detail"]


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


@pytest.mark.parametrize("asked", [{"low_hz": 30e6, "high_hz": 31e6}, {"low_hz": 21e6, "high_hz": 20.5e6}])
def test_a_stretch_outside_the_sweep_is_refused(client, asked):
    kept = drop(client).json()
    refused = client.get(f"/api/sweeps/{kept['id']}/curves", params=asked)

    assert refused.status_code == 422
    assert "a stretch of the sweep" in refused.json()["detail"]


def test_a_sweep_for_a_build_that_is_not_there_is_not_kept(client):
    params = {"name": "a.csv", "build_id": str(uuid4())}

    assert client.post("/api/sweeps", params=params, content=CSV).status_code == 404


def test_a_sweep_with_the_match_in_place_carries_no_match(client):
    """Said of a sweep, it is kept; as a baseline it is refused, and a baseline cannot be said to be one."""
    build = made_build(client)
    finished = {"name": "finished.s1p", "build_id": build["id"]}
    content = (DEMO / "allotment-feedpoint.s1p").read_bytes()
    sweep = client.post("/api/sweeps", params=finished, content=content).json()
    said = client.patch(f"/api/sweeps/{sweep['id']}", json={"revision": sweep["revision"], "plane": "matched"})
    assert said.json()["setup"]["plane"] == "matched"

    on_it = {"revision": build["revision"], "baseline_sweep_id": sweep["id"]}
    refused = client.patch(f"/api/builds/{build['id']}", json=on_it)
    assert refused.status_code == 422
    assert "a match on a match is none" in refused.json()["detail"]

    baseline = build["sweeps"][0]
    body = {"revision": baseline["revision"], "plane": "matched"}
    assert client.patch(f"/api/sweeps/{baseline['id']}", json=body).status_code == 409


def test_a_gap_is_told_and_no_band_is_held_there(client):
    """Found by trying it: 6.9 to 7.4 and 13.9 to 14.5 MHz in one file, and 30 m was held in between."""
    f = np.concatenate([np.linspace(6.9e6, 7.4e6, 51), np.linspace(13.9e6, 14.5e6, 61)])
    kept = drop(client, table.write(Sweep(f, np.full(f.size, 60 + 5j))), "gap.csv").json()
    curves = client.get(f"/api/sweeps/{kept['id']}/curves").json()
    assert curves["gaps"] == [{"low_hz": 7.4e6, "high_hz": 13.9e6}]
    assert None in curves["swr"]

    build = client.post("/api/builds", json={"name": "Loft", "sweep_id": kept["id"]}).json()
    thirty = {"label": "30 m", "low_hz": 10.1e6, "high_hz": 10.15e6, "swr_limit": 2.0}
    body = {"revision": build["revision"], "targets": [thirty]}
    refused = client.patch(f"/api/builds/{build['id']}", json=body)
    assert refused.status_code == 422
    assert "there are none from 7.400 to 13.900 MHz" in refused.json()["detail"]
