"""The API as a script uses it: over HTTP, against a database of its own."""

from concurrent.futures import ThreadPoolExecutor
from uuid import uuid4

import numpy as np
import pytest
from asking import BAND, DEMO, DEMO_BUILDS, bare, best, coil_of, drop, turned

from yielding_coil.formats import touchstone


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


class TestBuilds:
    def test_a_build_takes_its_target_from_its_sweep(self, build):
        assert build["targets"] == [BAND]

    def test_a_stale_change_gets_the_newest(self, client, build):
        url = f"/api/builds/{build['id']}"
        assert client.patch(url, json={"revision": 1, "power_w": 10}).json()["revision"] == 2

        stale = client.patch(url, json={"revision": 1, "power_w": 400})
        assert stale.status_code == 409
        assert stale.json()["newest"]["power_w"] == 10

    def test_a_band_outside_the_sweep_is_not_kept(self, client, build):
        url = f"/api/builds/{build['id']}"
        refused = client.patch(url, json={"revision": 1, "targets": [{**BAND, "high_hz": 30e6}]})

        assert refused.status_code == 422
        assert client.get(url).json()["targets"] == [BAND]

    def test_the_bin_and_back(self, client, build, design):
        url = f"/api/builds/{build['id']}"
        assert client.delete(url, params={"revision": 1}).status_code == 204
        assert client.get("/api/builds").json() == []
        assert client.get(url).json()["in_bin"] is True

        assert client.post(f"{url}/restore").status_code == 200
        assert client.get(f"{url}/designs").json()[0]["id"] == design["id"]

    @pytest.mark.parametrize("power", [0, -5, "nan", None])
    def test_power_that_is_none_is_refused(self, client, build, power):
        refused = client.patch(f"/api/builds/{build['id']}", json={"revision": 1, "power_w": power})

        assert refused.status_code == (200 if power is None else 422)  # null leaves it as it is
        assert client.get(f"/api/builds/{build['id']}").json()["power_w"] == 100

    def test_the_units_switch_is_kept(self, client):
        client.patch("/api/settings", json={"revision": 1, "units": "ft"})

        assert client.get("/api/settings").json() == {"revision": 2, "units": "ft", "region": 1, "bands": {}}
        assert client.patch("/api/settings", json={"revision": 1, "units": "m"}).status_code == 409


class TestDesigns:
    def test_edits_undo_and_redo_walk_and_every_state_is_kept(self, client, design):
        url = f"/api/designs/{design['id']}"
        first = coil_of(design["revision"])
        for edited, value in ((1, 2.0e-6), (2, 1.9e-6)):
            body = {"edited": edited, "content": turned(design, value)}
            assert client.post(f"{url}/revisions", json=body).status_code == 201

        def walk(way, edited):
            return client.post(f"{url}/{way}", json={"edited": edited}).json()

        assert coil_of(walk("undo", 3)) == 2.0e-6
        back = walk("undo", 4)
        assert (coil_of(back), back["can_undo"], back["can_redo"]) == (first, False, True)
        assert coil_of(walk("redo", 5)) == 2.0e-6
        last = walk("redo", 6)
        assert (coil_of(last), last["number"], last["can_redo"]) == (1.9e-6, 7, False)
        assert coil_of(client.get(f"{url}/revisions/2").json()) == 2.0e-6

    def test_an_edit_after_undo_ends_the_way_forward(self, client, design):
        url = f"/api/designs/{design['id']}"
        client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 2.0e-6)})
        client.post(f"{url}/undo", json={"edited": 2})
        new = client.post(f"{url}/revisions", json={"edited": 3, "content": turned(design, 1.8e-6)}).json()

        assert (new["can_undo"], new["can_redo"]) == (True, False)
        nothing = client.post(f"{url}/redo", json={"edited": 4})
        assert (nothing.status_code, nothing.json()["code"]) == (409, "nothing_to_walk")

    def test_a_stale_edit_gets_409_and_changes_nothing(self, client, design):
        url = f"/api/designs/{design['id']}"
        client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 2.0e-6)})
        stale = client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 1.5e-6)})

        assert (stale.status_code, stale.json()["code"], stale.json()["newest_number"]) == (
            409,
            "stale_edit",
            2,
        )
        assert coil_of(client.get(url).json()["revision"]) == 2.0e-6

    def test_of_many_at_once_one_wins_and_the_rest_are_told(self, client, design):
        url = f"/api/designs/{design['id']}/revisions"

        def edit(n):
            body = {"edited": 1, "content": turned(design, (2 + n / 100) * 1e-6)}
            return client.post(url, json=body).status_code

        with ThreadPoolExecutor(8) as pool:
            codes = sorted(pool.map(edit, range(16)))
        assert codes == [201] + [409] * 15

    def test_the_shelf_shows_what_the_design_says(self, client, build, design):
        shown = client.get("/api/builds").json()[0]

        assert shown["chosen_design_id"] == design["id"]
        assert shown["worst_swr"] == pytest.approx(1.53, abs=0.02)
        assert 0.9 < shown["share"] <= 1

    def test_a_design_that_cannot_be_is_not_kept(self, client, design):
        url = f"/api/designs/{design['id']}"
        refused = client.post(f"{url}/revisions", json={"edited": 1, "content": turned(design, 1.0)})

        assert refused.status_code == 422
        assert client.get(url).json()["revision"]["number"] == 1


class TestPredictions:
    def ask(self, client, content, route="predictions", **more):
        body = {"content": content, "low_hz": 20.4e6, "high_hz": 22e6, **more}
        answer = client.post(f"/api/{route}", json=body)
        assert answer.status_code == 200, answer.text
        return answer.json()

    def test_watts_add_up_at_every_frequency(self, client, build):
        found = self.ask(client, best(client, build))
        up = np.array(found["stations"][0]["power_w"])
        lost = sum(np.array(s["loss_w"]) for s in found["stations"][1:])

        assert up + lost == pytest.approx(np.full(201, 100.0), rel=2e-5)  # six digits on the wire

    def test_the_demo_through_its_coax_is_what_was_swept_in_the_shack(self, client, build):
        """The second made-up sweep: 17.6 m of 50 Ω, VF 0.84, 1.05·√MHz + 0.011·MHz dB/100 m, no match."""
        from yielding_coil.core.line import Cable, Line

        wire = touchstone.read((DEMO / "allotment-feedpoint.s1p").read_bytes())
        shack = touchstone.read((DEMO / "allotment-shack.s1p").read_bytes())
        line = Line(Cable("demo", 50, 0.84, 1.05, 0.011), 17.6)
        seen = line.input_impedance(wire.frequency_hz, wire.impedance_ohm)

        assert np.abs((seen - 50) / (seen + 50) - shack.reflection()).max() < 0.03

    def test_the_yield_and_what_it_costs(self, client, build):
        found = self.ask(client, best(client, build), "yields", builds=2048)
        cost = {c["name"]: c["share"] for c in found["reading"]["costs"]}

        assert found["parts"]["share"] == pytest.approx(0.98, abs=0.015)
        assert found["reading"]["share"] == pytest.approx(0.80, abs=0.03)
        assert cost["reading"] == pytest.approx(0.15, abs=0.03)
        assert cost["coil"] == pytest.approx(0.08, abs=0.03)
        bought = {(b["name"], b["act"]): b["reading_share"] for b in found["bought"]}
        assert bought["coil", "measured"] == pytest.approx(0.88, abs=0.03)

    def test_the_fan_holds_the_curve(self, client, build):
        content = best(client, build)
        fan = self.ask(client, content, "yields", builds=512, points=81)
        curve = self.ask(client, content, points=81)["stations"][2]["swr"]
        inside = [
            low - 1e-3 <= s <= high + 1e-3
            for low, s, high in zip(fan["fan_low"], curve, fan["fan_high"], strict=True)
        ]

        assert np.mean(inside) > 0.9  # at the very dip every build is a little worse

    def test_a_five_eighths_vertical_and_how_to_make_its_match(self, client):
        """94 − j463 Ω at 18.1 MHz: 3.00 µH in series, 7.01 pF across the wire (practice: 3 µH, 7 pF)."""
        content = {
            "antenna": {"kind": "resistor", "resistance_ohm": 94, "reactance_ohm": -463},
            "targets": [{"label": "17 m", "low_hz": 18.068e6, "high_hz": 18.132e6, "swr_limit": 2}],
            "elements": [],
        }
        found = client.post("/api/matches", json={"content": content, "at_hz": 18.1e6}).json()
        made = next(c for c in found if (c["series"], c["shunt"]) == ("coil", "capacitor"))
        coil = next(e for e in made["content"]["elements"] if e["kind"] == "coil")
        capacitor = next(e for e in made["content"]["elements"] if e["kind"] == "coax_capacitor")

        assert coil["inductance_h"] == pytest.approx(3.00e-6, abs=5e-9)
        assert capacitor["capacitance_f"] == pytest.approx(7.01e-12, abs=5e-15)
        body = {"content": made["content"], "low_hz": 18e6, "high_hz": 18.2e6}
        parts = {m["kind"]: m for m in client.post("/api/predictions", json=body).json()["made"]}
        assert parts["coil"]["turns"] in (9.0, 9.5, 10.0)
        # 50 Ω solid PE holds about 101 pF/m (practice): 7 pF is a little under 7 cm.
        assert parts["coax_capacitor"]["coax_m"] == pytest.approx(0.067, abs=0.003)

    def test_four_networks_where_there_are_four(self, client, build):
        content = {
            **bare(build),
            "antenna": {"kind": "resistor", "resistance_ohm": 20, "reactance_ohm": -150},
        }
        found = client.post("/api/matches", json={"content": content}).json()

        assert len({(c["series"], c["shunt"], c["shunt_at"]) for c in found}) == 4

    def test_without_resistance_there_is_no_match_and_the_point_is_named(self, client, build):
        content = {**bare(build), "antenna": {"kind": "resistor", "resistance_ohm": 0, "reactance_ohm": -150}}
        refused = client.post("/api/matches", json={"content": content})

        assert (refused.status_code, refused.json()["code"]) == (422, "not_matchable")
        assert "21.225 MHz" in refused.json()["detail"]

    @pytest.mark.parametrize(
        ("change", "words"),
        [
            ({"pitch_m": 1e-3}, "at least the wire over its covering"),
            ({"inductance_h": 0}, "greater than"),
            ({"wire": "none"}, "no wire “none” in the table"),
        ],
    )
    def test_a_coil_that_cannot_be_wound_is_refused(self, client, design, change, words):
        content = design["revision"]["content"]
        elements = [{**e, **change} if e["kind"] == "coil" else e for e in content["elements"]]
        body = {"content": {**content, "elements": elements}, "low_hz": 20e6, "high_hz": 22e6}
        refused = client.post("/api/predictions", json=body)

        assert refused.status_code in (404, 422)
        assert words in refused.json()["detail"]

    def test_rulers_are_marked_in_half_turns_and_centimetres(self, client, design):
        elements = {e["kind"]: e for e in design["revision"]["content"]["elements"]}
        ask = {"center_hz": 21.225e6}
        coil = client.post(
            "/api/rulers", json={**ask, "element": elements["coil"], "low": 1.6e-6, "high": 3e-6}
        ).json()
        coax = client.post(
            "/api/rulers", json={**ask, "element": elements["coax_capacitor"], "low": 3e-12, "high": 1e-11}
        ).json()

        assert {t["make"] * 2 % 1 for t in coil} == {0}
        assert np.all(np.diff([t["value"] for t in coil]) > 0)
        assert np.diff([t["make"] for t in coax]) == pytest.approx(np.full(len(coax) - 1, 0.005))

    def test_a_capacitor_in_hand_that_does_not_stand_the_volts_is_told(self, client, build):
        piece = {"id": "00000000-0000-4000-8000-000000000000", "revision": 1, "values": {"voltage_v": 250.0}}
        mica = {"kind": "capacitor", "key": "series", "place": "series", "capacitance_f": 60e-12, "piece": piece}
        content = {**bare(build), "elements": [mica, *bare(build)["elements"]]}
        said = [
            [
                f["values"]
                for f in self.ask(client, content, power_w=power)["findings"]
                if f["code"] == "capacitor_too_low"
            ]
            for power in (1, 1500)
        ]

        assert said[0] == []
        assert said[1][0]["stands_v"] == 250
        assert said[1][0]["voltage_v"] > 250

    def test_turns_and_lengths_give_what_the_ruler_says_at_their_mark(self, client, design):
        elements = {e["kind"]: e for e in design["revision"]["content"]["elements"]}
        for kind, make in (("coil", 7.5), ("coax_capacitor", 0.06)):
            ask = {"element": elements[kind], "center_hz": 21.225e6}
            low, high = (1.6e-6, 3e-6) if kind == "coil" else (3e-12, 1e-11)
            marks = client.post("/api/rulers", json={**ask, "low": low, "high": high}).json()
            given = client.post("/api/rulers/marks", json={**ask, "make": make}).json()

            assert given in marks

    @pytest.mark.parametrize(("make", "words"), [(0, "greater than"), (0.5, "1 to 500"), (90, "self-resonance")])
    def test_turns_that_make_no_coil_are_refused(self, client, design, make, words):
        coil = next(e for e in design["revision"]["content"]["elements"] if e["kind"] == "coil")
        refused = client.post("/api/rulers/marks", json={"element": coil, "center_hz": 21.225e6, "make": make})

        assert refused.status_code == 422
        assert words in refused.json()["detail"]


class TestQuantities:
    def test_what_people_write(self, client):
        read = client.post("/api/quantities", json={"text": "8' 3 1/2\"", "kind": "length"}).json()
        assert read == {"value": 2.5273, "not_m": None}

    @pytest.mark.parametrize(
        ("text", "unit", "feet", "mistaken"),
        [("5.7 ft", "m", 5.7, 5 + 7 / 12), ("5.7", "ft", 5.7, 5 + 7 / 12), ("5.7", "m", None, None)],
    )
    def test_decimals_of_a_foot_are_told_from_inches(self, client, text, unit, feet, mistaken):
        asked = {"text": text, "kind": "length", "length_unit": unit}
        read = client.post("/api/quantities", json=asked).json()

        assert read["value"] == pytest.approx(5.7 if feet is None else feet * 0.3048)
        assert read["not_m"] == (None if mistaken is None else pytest.approx(mistaken * 0.3048))

    @pytest.mark.parametrize("text", ["8feet", "--3", ""])
    def test_what_is_not_understood_says_how_to_write_it(self, client, text):
        refused = client.post("/api/quantities", json={"text": text, "kind": "length"})

        assert (refused.status_code, refused.json()["code"]) == (422, "not_understood")
        assert refused.json()["accepted"]


def test_tables_have_sources(client):
    for name in ("cables", "wires"):
        rows = client.get(f"/api/tables/{name}").json()
        assert rows
        assert all(row["source"] for row in rows)
    assert "memory" in client.get("/api/tables/bands").json()["source"]


def test_pages_and_their_addresses(client):
    page = client.get("/builds/anything/match")

    assert page.status_code == 200
    assert '<div id="app">' in page.text
    assert page.headers["cache-control"] == "no-cache"
    assert client.get("/api/nothing").status_code == 404
    assert client.get("/assets/nothing.js").status_code == 404


def test_the_demo_is_laid_in_once_and_never_over_a_users_data(client, engine, build):
    from sqlalchemy.orm import Session

    from yielding_coil import demo

    for fresh, laid in ((False, True), (False, False), (True, True)):
        with Session(engine) as session, session.begin():
            assert demo.lay_in(session, fresh=fresh) is laid
    names = [b["name"] for b in client.get("/api/builds").json()]
    assert sorted(names) == ["Allotment", *DEMO_BUILDS]
